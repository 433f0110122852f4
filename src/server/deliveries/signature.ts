import { createPrivateKey, createPublicKey, generateKeyPairSync, sign, verify, type KeyObject } from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Receipt } from '../../core/deliver/receipt';

const FILE = 'receipt-key.pem';

/** JSON with the keys of every object in order, so that the same values are the same text. */
function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join()}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value ?? null);
  const entries = Object.entries(value).filter(([, each]) => each !== undefined);
  const sorted = entries.sort(([a], [b]) => (a < b ? -1 : 1));
  return `{${sorted.map(([key, each]) => `${JSON.stringify(key)}:${canonical(each)}`).join()}}`;
}

/** What of a receipt is signed: everything but the signature itself. */
function signedBytes(receipt: Record<string, unknown>): Buffer {
  const { signature: _, ...rest } = receipt;
  return Buffer.from(canonical(rest));
}

/** The key that receipts of an installation are signed with, in its data folder; made when it is first needed. */
function installationKey(dataFolder: string): KeyObject {
  const file = path.join(dataFolder, FILE);
  const read = () => createPrivateKey(readFileSync(file));
  try {
    return read();
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
  const { privateKey } = generateKeyPairSync('ed25519');
  mkdirSync(dataFolder, { recursive: true });
  const part = `${file}.${process.pid}.part`;
  writeFileSync(part, privateKey.export({ type: 'pkcs8', format: 'pem' }), { mode: 0o600, flush: true });
  try {
    // Of two that are made at the same time the first stays.
    linkSync(part, file);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  } finally {
    rmSync(part, { force: true });
  }
  return read();
}

const publicText = (key: KeyObject) => key.export({ type: 'spki', format: 'der' }).toString('base64');

/** The public half of an installation's key, as its receipts carry it: SubjectPublicKeyInfo in base64. */
export function receiptKey(dataFolder: string): string {
  return publicText(createPublicKey(installationKey(dataFolder)));
}

/** A receipt with the signature of an installation (Ed25519, RFC 8032). */
export function signed(receipt: Receipt, dataFolder: string): Receipt {
  const key = installationKey(dataFolder);
  const value = sign(null, signedBytes(receipt), key).toString('base64');
  return { ...receipt, signature: { publicKey: publicText(createPublicKey(key)), value } };
}

/** Whether a receipt, as it was saved, is as it was signed; null when it is not signed. */
export function signatureHolds(
  saved: Record<string, unknown>,
  { signature }: Pick<Receipt, 'signature'>,
): boolean | null {
  if (signature === null) return null;
  try {
    const key = createPublicKey({ key: Buffer.from(signature.publicKey, 'base64'), type: 'spki', format: 'der' });
    return (
      key.asymmetricKeyType === 'ed25519' &&
      verify(null, signedBytes(saved), key, Buffer.from(signature.value, 'base64'))
    );
  } catch {
    return false;
  }
}
