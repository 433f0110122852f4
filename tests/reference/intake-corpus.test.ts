// What intake finds, held against mixtures with and without each fault; the encoders and resamplers are ffmpeg's.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { AT_LENGTH } from '../support/at-length';
import { corpusTable, type FaultRow } from '../support/intake-corpus';

const root = path.join(__dirname, '../..');
let rows: FaultRow[];
beforeAll(() => {
  const args = ['--import', 'tsx', 'tests/support/intake-corpus.ts'];
  rows = JSON.parse(execFileSync(process.execPath, args, { cwd: root, encoding: 'utf8' })) as FaultRow[];
});

test('nearly every planted fault is found, and nothing is found in what is clean', () => {
  for (const { name, planted, detected, clean, alarms } of rows) {
    expect([name, planted >= (AT_LENGTH ? 20 : 5), detected / planted > (AT_LENGTH ? 0.9 : 0.8)]).toEqual([
      name,
      true,
      true,
    ]);
    expect([name, alarms / clean < 0.05]).toEqual([name, true]);
  }
});

const page = readFileSync(path.join(root, 'docs/intake.md'), 'utf8');

test('the documentation has a row for each fault', () => {
  for (const { name, how } of rows) expect(page.replace(/ +/g, ' ')).toContain(`| ${name} | ${how} | `);
});

(AT_LENGTH ? test : test.skip)('the table of the documentation is what was measured', () => {
  // Columns are aligned there.
  for (const row of corpusTable(rows)) expect(page.replace(/ +/g, ' ')).toContain(row);
});
