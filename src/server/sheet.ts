import { readFile } from 'node:fs/promises';
import path from 'node:path';
import PDFDocument from 'pdfkit';

export const MARGIN = 48;
/** Points between the margins of A4. */
export const WIDTH = 595.28 - 2 * MARGIN;
const BOTTOM = 841.89 - MARGIN;
const FONTS = 'node_modules/@fontsource/instrument-sans/files';
const FACES = { text: 'instrument-sans-latin-400-normal.woff', strong: 'instrument-sans-latin-600-normal.woff' };
/** A row is begun on the next page when less than this is left, in points. */
const ROW_ROOM = 30;
const GUTTER = 5;

/** What the faces have no sign for, in words. */
function printable(text: string): string {
  return text.replace(/≤ ?/g, 'at most ').replace(/≥ ?/g, 'at least ').replace(/ ?±/g, ', within ').replace(/→/g, '>');
}

/** A printed sheet, A4. The same text gives the same bytes. */
export class Sheet {
  private readonly chunks: Buffer[] = [];
  private readonly ended: Promise<unknown>;

  private constructor(readonly page: PDFKit.PDFDocument) {
    page.on('data', (chunk: Buffer) => this.chunks.push(chunk));
    this.ended = new Promise((resolve) => page.on('end', resolve));
  }

  /** Begins a sheet that says in its properties what it is, whose, and of when. */
  static async begin({ title, author, at }: { title: string; author: string; at: Date }): Promise<Sheet> {
    const info = { Title: title, CreationDate: at, Author: author };
    const page = new PDFDocument({ size: 'A4', margin: MARGIN, info });
    for (const [name, face] of Object.entries(FACES))
      page.registerFont(name, await readFile(path.resolve(process.cwd(), FONTS, face)));
    return new Sheet(page);
  }

  title(title: string, of: string): void {
    this.page.font('strong').fontSize(16).text(title).fontSize(11).text(printable(of));
  }

  heading(text: string): void {
    this.page.moveDown(0.6).font('strong').fontSize(11).fillColor('black').text(printable(text));
  }

  line(text: string): void {
    this.page.font('text').fontSize(9).fillColor('black').text(printable(text));
  }

  /** Cells beside each other in columns of some widths, in points. */
  row(cells: readonly string[], widths: readonly number[], face: keyof typeof FACES = 'text'): void {
    const { page } = this;
    if (page.y > BOTTOM - ROW_ROOM) page.addPage();
    const y = page.y;
    let bottom = y;
    let x = MARGIN;
    cells.forEach((text, i) => {
      page
        .font(face)
        .fontSize(9)
        .fillColor('black')
        .text(printable(text), x, y, { width: widths[i] - GUTTER });
      bottom = Math.max(bottom, page.y);
      x += widths[i];
    });
    page.x = MARGIN;
    page.y = bottom + 2;
  }

  async end(): Promise<Buffer> {
    this.page.end();
    await this.ended;
    return Buffer.concat(this.chunks);
  }
}
