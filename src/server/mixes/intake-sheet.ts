import { create as contentDisposition } from 'content-disposition';
import type { Knex } from 'knex';
import { WEIGHT_TITLES } from '../../core/measure/findings';
import { intakeReportSchema, type IntakeReport } from '../../core/measure/intake-report';
import { intakeRows, type IntakeRow } from '../../core/measure/intake-rows';
import { readingWords } from '../../core/measure/reading';
import type { Source } from '../codecs/probe';
import { settingsOf } from '../accounts/settings';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';
import { Sheet } from '../sheet';

/** What a client is told of a mix. */
interface IntakeSheet {
  title: string;
  release: string;
  fileName: string;
  number: number;
  source: Source;
  report: IntakeReport;
  by: string;
  at: Date;
}

const words = ([, of]: IntakeRow) => (typeof of === 'string' ? of : readingWords(of));
const GROUPS = ['The file', 'Loudness', 'Peaks', 'Signal'] as const;
const HEADING = ({ title, number }: IntakeSheet) => `What we found in mix ${number} of “${title}”`;
const NOTHING = 'Nothing in the file needs fixing.';
function asText(sheet: IntakeSheet): string {
  const { report, source, fileName, release, by } = sheet;
  const findings = report.findings.map(
    ({ weight, title, sentence }) => `- ${WEIGHT_TITLES[weight]}, ${title}: ${sentence}`,
  );
  const groups = intakeRows(source, report).map(
    (rows, i) => `${GROUPS[i]}\n${rows.map((row) => `  ${row[0]}: ${words(row)}`).join('\n')}`,
  );
  return [
    `${HEADING(sheet)}\n${fileName}, from ${release}${by ? `\n${by}` : ''}`,
    findings.length > 0 ? findings.join('\n') : NOTHING,
    ...groups,
    '',
  ].join('\n\n');
}

async function asPdf(of: IntakeSheet): Promise<Buffer> {
  const { report, source, fileName, release, by, at } = of;
  const sheet = await Sheet.begin({ title: HEADING(of), author: by, at });
  sheet.title(HEADING(of), `${fileName}, from ${release}`);
  if (by) sheet.line(by);
  sheet.heading('Findings');
  const findings = report.findings;
  if (findings.length === 0) sheet.line(NOTHING);
  for (const { weight, title, sentence } of findings)
    sheet.row([WEIGHT_TITLES[weight], title, sentence], [90, 110, 299]);
  intakeRows(source, report).forEach((rows, i) => {
    sheet.heading(GROUPS[i]);
    for (const row of rows) sheet.row([row[0], words(row)], [200, 299]);
  });
  return sheet.end();
}

const FORMS: Record<string, { type: string; write: (sheet: IntakeSheet) => string | Promise<Buffer> }> = {
  txt: { type: 'text/plain; charset=utf-8', write: asText },
  pdf: { type: 'application/pdf', write: asPdf },
};

interface MixRow {
  track_id: string;
  number: number;
  file_name: string;
  source: Source;
  findings: unknown;
  created_at: Date;
}

/**
 * What intake found in a mix, as a sheet for the client. Throws a Problem: 404 for another's, 409 while it is being analysed, 422
 * for an unknown form.
 */
export async function intakeSheet(db: Knex, accountId: string, mixId: string, form: string): Promise<Response> {
  const columns = ['track_id', 'number', 'file_name', 'source', 'findings', 'created_at'] as const;
  const mix = await requireOwn<MixRow>(db, 'mixes', accountId, mixId, columns);
  if (!Object.hasOwn(FORMS, form)) throw new Problem(422, 'An intake report comes as txt or pdf.');
  if (mix.findings === null)
    throw new Problem(409, 'This mix has no report: its analysis is not done, or it was refused.');
  const track = await db('tracks as t')
    .join('releases as r', 'r.id', 't.release_id')
    .where('t.id', mix.track_id)
    .first<{ title: string; release: string }>('t.title', 'r.title as release');
  const { studio, engineer } = await settingsOf(db, accountId);
  const { type, write } = FORMS[form];
  const written = await write({
    ...track,
    ...{ fileName: mix.file_name, number: mix.number, source: mix.source, at: mix.created_at },
    report: intakeReportSchema.parse(mix.findings),
    by: [engineer, studio].filter(Boolean).join(', '),
  });
  const name = `${mix.file_name}.intake.${form}`;
  return new Response(typeof written === 'string' ? written : Uint8Array.from(written), {
    headers: { 'Content-Type': type, 'Content-Disposition': contentDisposition(name) },
  });
}
