// What intake finds, held against mixtures with and without each fault; the encoders and resamplers are ffmpeg's.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { corpusTable, type FaultRow } from '../support/intake-corpus';

const root = path.join(__dirname, '../..');
let rows: FaultRow[];
beforeAll(() => {
  const args = ['--import', 'tsx', 'tests/support/intake-corpus.ts'];
  rows = JSON.parse(execFileSync(process.execPath, args, { cwd: root, encoding: 'utf8' })) as FaultRow[];
});

test('nearly every planted fault is found, and nothing is found in what is clean', () => {
  for (const { name, planted, detected, clean, alarms } of rows) {
    expect([name, planted >= 20, detected / planted > 0.9]).toEqual([name, true, true]);
    expect([name, alarms / clean < 0.05]).toEqual([name, true]);
  }
});

test('the table of the documentation is what was measured', () => {
  // Columns are aligned there.
  const page = readFileSync(path.join(root, 'docs/intake.md'), 'utf8').replace(/ +/g, ' ');
  for (const row of corpusTable(rows)) expect(page).toContain(row);
});
