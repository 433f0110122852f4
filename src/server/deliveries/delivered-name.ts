import filenamify from 'filenamify';
import type { Destination } from '../../core/deliver/destination';
import { nameByPattern, type NamePart } from '../../core/deliver/file-name';

const MOST_NAME = 200;

/** Name of a delivered file by a pattern, as every file system takes it. */
export function deliveredName(
  pattern: string,
  values: Partial<Record<NamePart, string>>,
  { container }: Pick<Destination, 'container'>,
): string {
  const text = nameByPattern(pattern, values) || 'Untitled';
  // It decomposes accented letters, which breaks receivers that compare names byte by byte.
  const fileName = filenamify(text, { replacement: '-', maxLength: MOST_NAME }).normalize('NFC');
  return `${fileName}.${container}`;
}
