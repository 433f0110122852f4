// The commands that make and check finished files, from outside: with sha256sum, ffprobe and ffmpeg.
import { spawnSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { receiptSchema, type Receipt } from '@/core/deliver/receipt';
import { ebur128 } from '../support/ffmpeg';
import { music } from '../support/music';
import { writeWave } from '../support/wave';

const RATE = 44100;
let folder: string;
const at = (...names: string[]) => path.join(folder, ...names);
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-master-'));
  writeWave(at('one.wav'), music(6, RATE, 0.3), RATE);
  const limiter = { id: 'l', kind: 'limiter', on: true, settings: { inputGainDb: 6 } };
  writeFileSync(at('lane.json'), JSON.stringify({ schema: 1, stages: [limiter] }));
});
afterAll(() => rmSync(folder, { recursive: true }));

function command(name: 'master' | 'verify', ...args: string[]) {
  const { status, stdout, stderr } = spawnSync('scripts/command', [name, ...args], {
    encoding: 'utf8',
    env: { ...process.env, DATABASE_URL: '' },
  });
  return { status, stdout, stderr };
}
function manifest(of: object): string {
  writeFileSync(at('manifest.json'), JSON.stringify(of));
  return at('manifest.json');
}
const TRACKS = [{ file: 'one.wav', lane: 'lane.json', title: 'One' }];
const receiptOf = (name: string): Receipt =>
  receiptSchema.parse(JSON.parse(readFileSync(at('masters', `${name}.receipt.json`), 'utf8')));

describe('with the example of the README', () => {
  const [, example] = /```json\n(\{\n {2}"release"[\s\S]*?)```/.exec(readFileSync('README.md', 'utf8'))!;
  const names = ['Streaming).flac', 'Broadcast).wav', 'Disc).wav'].map(
    (end) => `Ashgrove Ensemble - Slow Orbits - 01 Perihelion (${end}`,
  );
  let made: ReturnType<typeof command>;
  beforeAll(() => {
    copyFileSync(at('one.wav'), at('Perihelion.wav'));
    writeFileSync(at('example.json'), example);
    made = command('master', at('example.json'));
  });

  test('each file is there with its receipt, as ffmpeg measures it, and its checksum', () => {
    expect([made.stderr, made.status === 0 || made.status === 2]).toEqual(['', true]);
    expect(made.stdout.trim().split('\n')).toHaveLength(3);
    expect(readdirSync(at('masters')).sort()).toEqual(
      [...names.flatMap((name) => [name, `${name}.receipt.json`]), 'SHA256SUMS'].sort(),
    );
    for (const name of names) {
      const { measured, destination, tags, verdict, by } = receiptOf(name);
      const reference = ebur128(at('masters', name));
      expect(Math.abs(measured.integratedLufs! - reference.integrated)).toBeLessThanOrEqual(0.1);
      expect(destination.wordLength.dither).toBe('TPDF');
      expect([tags.title, by.engineer]).toEqual(['Perihelion', 'A. Engineer']);
      expect(made.stdout).toContain(`${verdict.standing}\t${name}`);
    }
    const { status } = spawnSync('sha256sum', ['--check', '--quiet', 'SHA256SUMS'], { cwd: at('masters') });
    expect(status).toBe(0);
    expect(receiptOf(names[1]).levelDb).toBe(-9);
  });

  test('a receipt is true of its file and of a copy, and made again from the mix the bits are the same', () => {
    const [name] = names;
    copyFileSync(at('masters', name), at('copy.flac'));
    const receipt = at('masters', `${name}.receipt.json`);
    const { status, stdout } = command('verify', receipt, at('copy.flac'), '--mix', at('Perihelion.wav'));
    expect([status, stdout]).toEqual([
      0,
      'The receipt is true: the file is what it says, and made again from the mix it has the same bits. It is not signed: who made it can’t be told.\n',
    ]);
  });

  test('after one changed byte, with another mix, or with a changed figure it is not true, and says why', () => {
    const name = names[2];
    const receipt = at('masters', `${name}.receipt.json`);
    const bytes = readFileSync(at('masters', name));
    bytes[bytes.length - 400] ^= 1;
    writeFileSync(at('changed.wav'), bytes);
    const changed = command('verify', receipt, at('changed.wav'));
    expect([changed.status, changed.stdout]).toEqual([2, expect.stringMatching(/^sha256: the receipt says/)]);
    const other = command('verify', receipt, at('masters', name), '--mix', at('masters', names[1]));
    expect([other.status, other.stdout]).toEqual([2, expect.stringContaining('is not the mix that the receipt names')]);
    const told = receiptOf(name);
    told.measured.integratedLufs! += 0.1;
    writeFileSync(at('told.json'), JSON.stringify(told));
    const better = command('verify', at('told.json'), at('masters', name));
    expect([better.status, better.stdout]).toEqual([2, expect.stringMatching(/^integratedLufs: the receipt says/)]);
  });

  test('a verdict that the figures do not bear out is told apart, and nothing steers the terminal', () => {
    const [name] = names;
    const told = receiptOf(name);
    const forged = { ...told, verdict: { ...told.verdict, standing: 'meets' as const, requirements: [] } };
    writeFileSync(at('forged.json'), JSON.stringify(forged));
    const bare = command('verify', at('forged.json'), at('masters', name));
    expect([bare.status, bare.stdout]).toEqual([2, expect.stringContaining('The receipt does not say so.')]);
    const [first, ...rest] = told.verdict.requirements;
    const other = first.standing === 'meets' ? 'misses' : 'meets';
    const turned = {
      ...told.verdict,
      requirements: [{ ...first, title: `${first.title}\u001b[2J`, standing: other }, ...rest],
    };
    writeFileSync(at('turned.json'), JSON.stringify({ ...told, verdict: turned }));
    const steering = command('verify', at('turned.json'), at('masters', name));
    expect(steering.status).toBe(2);
    expect(steering.stdout).not.toContain('\u001b');
    const signed = command('verify', at('masters', `${name}.receipt.json`), at('masters', name), '--key', 'AAAA');
    expect([signed.status, signed.stdout]).toEqual([2, 'The receipt is not signed.\n']);
  });
});

test('what misses its destination is made all the same, said, and told by the exit status', () => {
  const { status, stdout } = command(
    'master',
    manifest({ folder: 'quiet', tracks: [{ ...TRACKS[0], levels: { Broadcast: -30 } }], destinations: ['Broadcast'] }),
  );
  expect([status, stdout]).toEqual([2, expect.stringMatching(/^misses\t.*\t\d+\.\d LU too quiet\n$/)]);
});

test('a manifest that can’t be used is refused in a sentence, and nothing is left', () => {
  const missing = { folder: 'x', tracks: [{ file: 'no.wav', title: 'No' }], destinations: ['Disc'] };
  for (const [of, sentence] of [
    [{ tracks: [], destinations: ['Disc'] }, 'tracks: The manifest has no track.'],
    [missing, 'There is no file'],
  ] as const) {
    const { status, stdout, stderr } = command('master', manifest(of));
    expect([status, stdout]).toEqual([1, '']);
    expect(stderr).toContain(sentence);
    expect(stderr.trim().split('\n')).toHaveLength(1);
  }
  expect(existsSync(at('x', 'SHA256SUMS'))).toBe(false);
});
