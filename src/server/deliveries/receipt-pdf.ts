import { COMMON_PRACTICE, destinationSentence, sourceSentence } from '../../core/deliver/describe';
import { encodeName } from '../../core/deliver/encode';
import type { Receipt } from '../../core/deliver/receipt';
import { amountWords } from '../../core/lane/amount-words';
import { stageTitle } from '../../core/lane/schema';
import { stageWords } from '../../core/lane/stage-words';
import { edgeWords } from '../../core/sequence/edge-words';
import { louder } from '../../core/measure/intake-report';
import { reading, readingWords } from '../../core/measure/reading';
import { MARGIN, Sheet, WIDTH } from '../sheet';

const CURVE_HEIGHT = 90;
/** LUFS at the top and the bottom of the curve. */
const CURVE_RANGE = [0, -60] as const;
const GREY = '#5a5a5a';

/** A moment as people write it. */
function dateWords(at: string): string {
  const words = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'short', timeZone: 'UTC' });
  return `${words.format(new Date(at))} UTC`;
}

/** The lane on a sheet of its own, in words and figures as the workspace shows them. */
function settingsSheet(sheet: Sheet, { lane, version }: Receipt): void {
  sheet.page.addPage();
  sheet.title('Settings', `Version “${version}”`);
  if (lane.edges) sheet.line(`Edges: ${edgeWords(lane.edges)}`);
  const { frequenciesHz } = lane.crossovers;
  if (frequenciesHz.length > 0)
    sheet.line(`Crossovers: ${frequenciesHz.map((hertz) => amountWords({ unit: 'Hz', step: 1 }, hertz)).join(', ')}`);
  for (const stage of lane.stages.filter(({ on }) => on)) {
    sheet.heading(stageTitle(stage));
    stageWords(stage).forEach((each) => sheet.line(each));
  }
}

function drawCurve(page: PDFKit.PDFDocument, { shortTermLufs }: Receipt['curve']): void {
  const top = page.y;
  const [high, low] = CURVE_RANGE;
  const yOf = (lufs: number) => top + ((high - Math.max(low, Math.min(high, lufs))) / (high - low)) * CURVE_HEIGHT;
  page.rect(MARGIN, top, WIDTH, CURVE_HEIGHT).lineWidth(0.5).stroke('#b0b0b0');
  for (const lufs of [-14, -23, -40]) {
    page
      .moveTo(MARGIN, yOf(lufs))
      .lineTo(MARGIN + WIDTH, yOf(lufs))
      .lineWidth(0.25)
      .stroke('#d0d0d0');
    page
      .fontSize(7)
      .fillColor(GREY)
      .text(`${lufs} LUFS`.replace('-', '\u2212'), MARGIN + 3, yOf(lufs) - 9);
  }
  let drawing = false;
  shortTermLufs.forEach((lufs, i) => {
    const x = MARGIN + (i / Math.max(1, shortTermLufs.length - 1)) * WIDTH;
    if (lufs === null) drawing = false;
    else if (drawing) page.lineTo(x, yOf(lufs));
    else {
      page.moveTo(x, yOf(lufs));
      drawing = true;
    }
  });
  page.lineWidth(0.8).stroke('#1f5f5b');
  page.x = MARGIN;
  page.y = top + CURVE_HEIGHT + 8;
}

/** A receipt as a printed sheet, A4, with a second one for the settings where they are wanted. The same receipt gives the same bytes. */
export async function receiptPdf(receipt: Receipt, { settings = true } = {}): Promise<Buffer> {
  const { file, measured, verdict, destination, mix, made, by, tags } = receipt;
  const sheet = await Sheet.begin({
    title: `Receipt of ${file.name}`,
    author: by.studio || by.engineer,
    at: made.at ? new Date(made.at) : new Date(0),
  });
  const line = (text: string) => sheet.line(text);
  sheet.title('Receipt', file.name);
  line([tags.title, tags.artist, tags.album].filter(Boolean).join(', '));
  line([by.engineer, by.studio, made.at ? dateWords(made.at) : ''].filter(Boolean).join(', '));
  sheet.heading(
    `${destination.name}: the file ${verdict.standing === 'unknown' ? 'could not be judged' : verdict.standing}`,
  );
  line(destinationSentence(destination));
  line(sourceSentence(destination));
  sheet.page.moveDown(0.5);
  const columns = [130, 120, 125, WIDTH - 375];
  sheet.row(['Requirement', 'Measured', 'Required', 'Verdict'], columns, 'strong');
  for (const { title, measured: value, asked, standing, miss, advice, source } of verdict.requirements)
    sheet.row(
      [
        title,
        value,
        asked,
        `${advice ? 'advice: ' : ''}${miss || standing}${source && source !== COMMON_PRACTICE ? ` (${source})` : ''}`,
      ],
      columns,
    );
  if (receipt.curve.shortTermLufs.length > 0) {
    sheet.heading('Short-term loudness');
    drawCurve(sheet.page, receipt.curve);
  }
  sheet.heading('Figures');
  line(
    [
      `integrated ${readingWords(reading('loudness', measured.integratedLufs))}`,
      `momentary ${readingWords(reading('loudness', measured.maxMomentaryLufs))}`,
      `short-term ${readingWords(reading('loudness', measured.maxShortTermLufs))}`,
      `range ${readingWords(reading('loudnessDifference', measured.rangeLu))}`,
      `true peak ${readingWords(reading('truePeak', louder(measured.truePeakDbtp)))}`,
      `sample peak ${readingWords(reading('samplePeak', louder(measured.samplePeakDbfs)))}`,
    ].join('; '),
  );
  for (const { codec, kbps, truePeakDbtp, overs } of receipt.encodes)
    line(
      `In ${encodeName({ codec, kbps })}: true peak ${readingWords(reading('truePeak', louder(truePeakDbtp)))}, ${overs} frames over full scale`,
    );
  sheet.heading('How it was made');
  line(
    `From ${mix.fileName}, version “${receipt.version}”, level at delivery ${receipt.levelDb} dB, drive ${receipt.driveDb} dB, dither ${receipt.dither}`,
  );
  line(`SHA-256 of the file ${file.sha256}`);
  line(`SHA-256 of the mix ${mix.sha256}`);
  line(`Core ${made.core}, ffmpeg ${made.ffmpeg}, form ${made.form}`);
  if (settings) settingsSheet(sheet, receipt);
  return sheet.end();
}
