import { create as contentDisposition } from 'content-disposition';
import type { Receipt } from '../../core/deliver/receipt';
import { Problem } from '../problem';
import { ownDelivery } from './deliveries';
import { receiptsCsv } from './receipt-csv';
import { receiptPdf } from './receipt-pdf';

/** Forms of a receipt, with their MIME types. */
const FORMS: Record<string, { type: string; write: (receipt: Receipt) => string | Promise<Buffer> }> = {
  json: { type: 'application/json', write: (receipt) => `${JSON.stringify(receipt, null, 2)}\n` },
  csv: { type: 'text/csv; charset=utf-8', write: (receipt) => receiptsCsv([receipt]) },
  pdf: { type: 'application/pdf', write: receiptPdf },
};

/** A receipt to be saved. Throws a Problem: 404 for another's, 409 without one, 422 for an unknown form. */
export async function receiptOf(accountId: string, deliveryId: string, form: string): Promise<Response> {
  const { receipt, fileName } = await ownDelivery(accountId, deliveryId);
  if (!receipt) throw new Problem(409, 'This delivery has no receipt: it is not finished, or it failed.');
  if (!Object.hasOwn(FORMS, form)) throw new Problem(422, 'A receipt comes as json, csv or pdf.');
  const { type, write } = FORMS[form];
  const written = await write(receipt);
  return new Response(typeof written === 'string' ? written : Uint8Array.from(written), {
    headers: { 'Content-Type': type, 'Content-Disposition': contentDisposition(`${fileName}.receipt.${form}`) },
  });
}
