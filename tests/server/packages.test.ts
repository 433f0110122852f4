import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import Papa from 'papaparse';
import type { Receipt } from '@/core/deliver/receipt';
import { until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

interface Workspace {
  track: { id: string };
  versions: { id: string }[];
  destinations: { id: string; settings: { name: string } }[];
}

const RATE = 44100;
let client: Client;
let folder: string;
let release: string;
let first: string;
const at = (...names: string[]) => path.join(folder, ...names);
const run = (program: string, args: string[], cwd = folder) => spawnSync(program, args, { cwd, encoding: 'utf8' });

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-packages-'));
  client = await newClient();
  release = await client.newRelease('Slow: Orbits');
  const orders: object[] = [];
  for (const name of ['=One.wav', 'Zwei.wav']) {
    const { track, versions, destinations } = await client.takeIn<Workspace>(
      release,
      name,
      wave(music(4.5, RATE, 0.2), RATE),
    );
    for (const { id, settings } of destinations)
      if (settings.name !== 'Broadcast')
        orders.push({ trackId: track.id, versionId: versions[0].id, destinationId: id, levelDb: 0 });
  }
  const { body } = await client.ask<{ id: string }[]>('POST', `/api/releases/${release}/deliveries`, {
    deliveries: orders,
  });
  for (const { id } of body)
    await until('the delivery is finished', async () => {
      const answer = await client.ask<{ status: string }>('GET', `/api/deliveries/${id}`);
      return answer.body.status === 'finished';
    });
  first = body[0].id;
});
afterAll(() => rmSync(folder, { recursive: true }));

test('everything that is finished comes in one zip, with receipts, checksums that hold, figures and a note', async () => {
  writeFileSync(at('all.zip'), await client.bytes(`/api/releases/${release}/package`));
  expect(run('python3', ['-m', 'zipfile', '-t', 'all.zip']).stdout).toContain('Done testing');
  run('python3', ['-m', 'zipfile', '-e', 'all.zip', '.']);
  const root = at('Slow- Orbits');
  const names = run('find', ['.', '-type', 'f'], root).stdout.trim().split('\n').sort();
  expect(names.filter((name) => !name.startsWith('./Receipts/'))).toEqual(
    [
      ...['./Delivery note.txt', './Figures.csv', './SHA256SUMS'],
      ...['./Disc/Slow- Orbits - 01 =One (Disc).wav', './Disc/Slow- Orbits - 02 Zwei (Disc).wav'],
      './Streaming/Slow- Orbits - 01 =One (Streaming).flac',
      './Streaming/Slow- Orbits - 02 Zwei (Streaming).flac',
    ].sort(),
  );
  expect(names.filter((name) => name.startsWith('./Receipts/'))).toHaveLength(8);
  expect(run('sha256sum', ['--check', '--quiet', 'SHA256SUMS'], root).status).toBe(0);
  const rows = Papa.parse<Record<string, string>>(readFileSync(path.join(root, 'Figures.csv'), 'utf8').trim(), {
    header: true,
  }).data;
  expect(rows.map(({ destination }) => destination).sort()).toEqual(['Disc', 'Disc', 'Streaming', 'Streaming']);
  // What a spreadsheet would take for a formula is only text.
  expect(rows.map(({ title }) => title)).toContain("'=One");
  const note = readFileSync(path.join(root, 'Delivery note.txt'), 'utf8');
  expect(note).toContain('Disc (IEC 60908)');
  expect(note).toContain('Streaming/Slow- Orbits - 02 Zwei (Streaming).flac');
});

test('a receipt comes as JSON, CSV and PDF with the same figures', async () => {
  const { body: receipt } = await client.ask<Receipt>('GET', `/api/deliveries/${first}/receipt`);
  const csv = (await client.bytes(`/api/deliveries/${first}/receipt?form=csv`)).toString();
  const [row] = Papa.parse<Record<string, string>>(csv.trim(), { header: true }).data;
  expect(Number(row['integrated, LUFS'])).toBe(receipt.measured.integratedLufs);
  expect(row['SHA-256 of the file']).toBe(receipt.file.sha256);
  writeFileSync(at('receipt.pdf'), await client.bytes(`/api/deliveries/${first}/receipt?form=pdf`));
  const text = run('pdftotext', ['-layout', 'receipt.pdf', '-']).stdout;
  expect(text).toContain(receipt.file.sha256);
  expect(text).toContain(`${Math.abs(receipt.measured.integratedLufs!).toFixed(1)} LUFS`);
  expect(text).toContain('Short-term loudness');
  expect(receipt.curve.shortTermLufs.length).toBeGreaterThan(1);
  const { status, body } = await client.ask('GET', `/api/deliveries/${first}/receipt?form=doc`);
  expect([status, body.error]).toEqual([422, 'A receipt comes as json, csv, pdf or without-settings.pdf.']);
});

test('a release without a finished file has no package yet, and says so', async () => {
  const empty = await client.newRelease();
  const { status, body } = await client.ask('GET', `/api/releases/${empty}/package`);
  expect([status, body.error]).toEqual([409, expect.stringContaining('Nothing of this release is delivered yet')]);
});
