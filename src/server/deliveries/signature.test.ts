import { generateKeyPairSync, sign } from 'node:crypto';
import { existsSync, mkdtempSync, rmSync, statSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Receipt } from '../../core/deliver/receipt';
import { receiptKey, signatureHolds, signed } from './signature';

const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-signature-'));
afterAll(() => rmSync(folder, { recursive: true }));
const RECEIPT = { file: { name: 'Żółć.wav', bytes: 3 }, measured: { rangeLu: 1e-7 }, list: [1, null], signature: null };
const receipt = () => signed(RECEIPT as unknown as Receipt, folder) as unknown as Record<string, unknown> & Receipt;

test('an installation has one key, which nobody else can read', () => {
  const key = receiptKey(folder);
  expect(receiptKey(folder)).toBe(key);
  expect(receipt().signature?.publicKey).toBe(key);
  const file = path.join(folder, 'receipt-key.pem');
  expect(existsSync(file) && statSync(file).mode & 0o77).toBe(0);
});

test('a signed receipt holds in whatever order its values come, and not after any change', () => {
  const saved = receipt();
  expect(signatureHolds(saved, saved)).toBe(true);
  const turned = Object.fromEntries(Object.entries(saved).reverse());
  expect(signatureHolds(turned, saved)).toBe(true);
  expect(signatureHolds({ ...saved, list: [1, 0] }, saved)).toBe(false);
  expect(signatureHolds({ ...saved, more: true }, saved)).toBe(false);
  expect(signatureHolds(RECEIPT, { signature: null })).toBeNull();
});

test('a signature by another key, or an invalid key, is refused', () => {
  const saved = receipt();
  const { privateKey, publicKey } = generateKeyPairSync('ed25519');
  const theirs = publicKey.export({ type: 'spki', format: 'der' }).toString('base64');
  const with_ = (publicKeyText: string, value: string) => ({ signature: { publicKey: publicKeyText, value } });
  expect(signatureHolds(saved, with_(theirs, saved.signature!.value))).toBe(false);
  expect(signatureHolds(saved, with_(theirs, sign(null, Buffer.from('x'), privateKey).toString('base64')))).toBe(false);
  expect(signatureHolds(saved, with_('no key', 'no value'))).toBe(false);
});
