/** An ISRC in its stored form, twelve characters: country or registrant, year, designation (ISO 3901:2019). */
const ISRC = /^[A-Z]{2}[A-Z0-9]{3}\d{7}$/;

/**
 * An ISRC as it is stored, read with or without hyphens and spaces; null when it is none.
 *
 * @example
 * parseIsrc('aa-6q7-20-00047') // 'AA6Q72000047'
 */
export function parseIsrc(text: string): string | null {
  const plain = text.replace(/^ISRC/i, '').replace(/[\s-]/g, '').toUpperCase();
  return ISRC.test(plain) ? plain : null;
}

/**
 * An EAN-13 (GTIN-13) as it is stored, read with or without spaces and hyphens; of twelve digits (UPC-A) the leading zero is
 * added. Null when its check digit is wrong: digits weighted 1 and 3 in turn add up to a multiple of ten (GS1 General
 * Specifications, 7.9).
 *
 * @example
 * parseEan('4 006381 333931') // '4006381333931'
 */
export function parseEan(text: string): string | null {
  const plain = text.replace(/[\s-]/g, '').padStart(13, '0');
  if (!/^\d{13}$/.test(plain) || text.replace(/\D/g, '').length < 12) return null;
  const sum = [...plain].reduce((total, digit, i) => total + Number(digit) * (i % 2 === 0 ? 1 : 3), 0);
  return sum % 10 === 0 ? plain : null;
}
