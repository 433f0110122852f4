import { create as contentDisposition } from 'content-disposition';
import type { Knex } from 'knex';
import type { Receipt } from '../../core/deliver/receipt';
import { Problem } from '../problem';
import { ownDelivery } from './deliveries';
import { receiptsCsv } from './receipt-csv';
import { receiptPdf } from './receipt-pdf';

/** A receipt as a file for programs. */
export function jsonOf(receipt: unknown): string {
  return `${JSON.stringify(receipt, null, 2)}\n`;
}

async function savedReceipt(db: Knex, deliveryId: string): Promise<unknown> {
  const row = await db('deliveries').where({ id: deliveryId }).first<{ receipt: unknown }>('receipt');
  return row.receipt;
}

/** Forms of a receipt, with their MIME types. */
const FORMS: Record<string, { type: string; write: (receipt: Receipt) => string | Promise<Buffer> }> = {
  json: { type: 'application/json', write: jsonOf },
  csv: { type: 'text/csv; charset=utf-8', write: (receipt) => receiptsCsv([receipt]) },
  pdf: { type: 'application/pdf', write: (receipt) => receiptPdf(receipt) },
  'without-settings.pdf': { type: 'application/pdf', write: (receipt) => receiptPdf(receipt, { settings: false }) },
};

/** A receipt to be saved. Throws a Problem: 404 for another's, 409 without one, 422 for an unknown form. */
export async function receiptOf(db: Knex, accountId: string, deliveryId: string, form: string): Promise<Response> {
  const { receipt, fileName } = await ownDelivery(db, accountId, deliveryId);
  if (!receipt) throw new Problem(409, 'This delivery has no receipt: it is not finished, or it failed.');
  if (!Object.hasOwn(FORMS, form)) throw new Problem(422, 'A receipt comes as json, csv, pdf or without-settings.pdf.');
  const { type, write } = FORMS[form];
  // As it was signed.
  const written = form === 'json' ? jsonOf(await savedReceipt(db, deliveryId)) : await write(receipt);
  return new Response(typeof written === 'string' ? written : Uint8Array.from(written), {
    headers: { 'Content-Type': type, 'Content-Disposition': contentDisposition(`${fileName}.receipt.${form}`) },
  });
}
