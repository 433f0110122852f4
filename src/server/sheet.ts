import { readFile } from 'node:fs/promises';
import path from 'node:path';
import * as fontkit from 'fontkit';
import type { Font } from 'fontkit';
import PDFDocument from 'pdfkit';

export const MARGIN = 48;
/** Points between the margins of A4. */
export const WIDTH = 595.28 - 2 * MARGIN;
const BOTTOM = 841.89 - MARGIN;
const OURS = 'node_modules/@fontsource/instrument-sans/files';
const WIDE = 'node_modules/dejavu-fonts-ttf/ttf';
/** Faces of ours, and for what they have no letters for, wide ones with Latin, Greek and Cyrillic. */
const FACES = {
  text: [`${OURS}/instrument-sans-latin-400-normal.woff`, `${WIDE}/DejaVuSansCondensed.ttf`],
  strong: [`${OURS}/instrument-sans-latin-600-normal.woff`, `${WIDE}/DejaVuSansCondensed-Bold.ttf`],
} as const;
type Face = keyof typeof FACES;
/** A row is begun on the next page when less than this is left, in points. */
const ROW_ROOM = 30;
const GUTTER = 5;

/** Stands for a letter that no face has. */
const MISSING = '\ufffd';

/** A face that is there, and which letters it has. */
interface LoadedFace {
  name: string;
  has: (codePoint: number) => boolean;
}

/** Reads a face and registers it with a document. */
async function loaded(page: PDFKit.PDFDocument, name: string, file: string): Promise<LoadedFace> {
  const bytes = await readFile(path.resolve(/* turbopackIgnore: true */ process.cwd(), file));
  page.registerFont(name, bytes);
  const font = fontkit.create(bytes) as Font;
  return { name, has: (codePoint) => font.hasGlyphForCodePoint(codePoint) };
}

/** A printed sheet, A4. The same text gives the same bytes. */
export class Sheet {
  private readonly chunks: Buffer[] = [];
  private readonly ended: Promise<unknown>;
  /** Letters that were asked for and that no face has. */
  private readonly missing = new Set<string>();

  private constructor(
    readonly page: PDFKit.PDFDocument,
    private readonly faces: Record<Face, LoadedFace[]>,
  ) {
    page.on('data', (chunk: Buffer) => this.chunks.push(chunk));
    this.ended = new Promise((resolve) => page.on('end', resolve));
  }

  /** Begins a sheet that says in its properties what it is, whose, and of when. */
  static async begin({ title, author, at }: { title: string; author: string; at: Date }): Promise<Sheet> {
    const info = { Title: title, CreationDate: at, Author: author };
    const page = new PDFDocument({ size: 'A4', margin: MARGIN, info });
    const load = (face: Face) =>
      Promise.all(FACES[face].map((file, i) => loaded(page, i === 0 ? face : `${face} wide`, file)));
    return new Sheet(page, { text: await load('text'), strong: await load('strong') });
  }

  title(title: string, of: string): void {
    this.page.fontSize(16).text(this.set(title, 'strong')).fontSize(11).text(this.set(of, 'strong'));
  }

  heading(text: string): void {
    this.page.moveDown(0.6).fontSize(11).fillColor('black').text(this.set(text, 'strong'));
  }

  line(text: string): void {
    this.page.fontSize(9).fillColor('black').text(this.set(text, 'text'));
  }

  /** Cells beside each other in columns of some widths, in points. */
  row(cells: readonly string[], widths: readonly number[], face: Face = 'text'): void {
    const { page } = this;
    if (page.y > BOTTOM - ROW_ROOM) page.addPage();
    const y = page.y;
    let bottom = y;
    let x = MARGIN;
    cells.forEach((text, i) => {
      page
        .fontSize(9)
        .fillColor('black')
        .text(this.set(text, face), x, y, { width: widths[i] - GUTTER });
      bottom = Math.max(bottom, page.y);
      x += widths[i];
    });
    page.x = MARGIN;
    page.y = bottom + 2;
  }

  async end(): Promise<Buffer> {
    if (this.missing.size > 0) {
      const codes = [...this.missing].map(
        (sign) => `U+${sign.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`,
      );
      this.page.moveDown(0.6);
      this.line(
        `This sheet prints Latin, Greek and Cyrillic. Where it shows ${MISSING}, the text has letters of another script (${codes.join(', ')}); they are whole in the file’s tags and in the forms for programs.`,
      );
    }
    this.page.end();
    await this.ended;
    return Buffer.concat(this.chunks);
  }

  /** Takes the first face that has all letters of a text, and gives the text as it can be printed. */
  private set(text: string, face: Face): string {
    const signs = [...text.normalize('NFC')];
    const hasAll = ({ has }: LoadedFace) => signs.every((sign) => has(sign.codePointAt(0)!));
    const [, wide] = this.faces[face];
    const chosen = this.faces[face].find(hasAll);
    this.page.font((chosen ?? wide).name);
    if (chosen) return signs.join('');
    return signs
      .map((sign) => {
        if (wide.has(sign.codePointAt(0)!)) return sign;
        this.missing.add(sign);
        return MISSING;
      })
      .join('');
  }
}
