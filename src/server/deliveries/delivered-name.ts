import filenamify from 'filenamify';
import type { Destination } from '../../core/deliver/destination';
import { FORMAT_TRAITS } from '../../core/deliver/format';
import { nameByPattern, type NamePart } from '../../core/deliver/file-name';

const MOST_NAME = 200;

/** Name of a delivered file by the destination’s pattern, else by another, as every file system takes it. */
export function deliveredName(
  pattern: string,
  values: Partial<Record<NamePart, string>>,
  { format, fileNamePattern }: Pick<Destination, 'format' | 'fileNamePattern'>,
): string {
  const text = nameByPattern(fileNamePattern ?? pattern, values) || 'Untitled';
  // It decomposes accented letters, which breaks receivers that compare names byte by byte.
  const fileName = filenamify(text, { replacement: '-', maxLength: MOST_NAME }).normalize('NFC');
  return `${fileName}.${FORMAT_TRAITS[format.name].extension}`;
}
