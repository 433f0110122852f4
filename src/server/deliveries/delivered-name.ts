import filenamify from 'filenamify';
import { withinBytes } from '../http/upload';
import type { Destination } from '../../core/deliver/destination';
import { FORMAT_TRAITS } from '../../core/deliver/format';
import { nameByPattern, type NamePart } from '../../core/deliver/file-name';

/** Bytes of a name without its ending: file systems take 255, and a receipt beside it adds its own ending. */
const MOST_BYTES = 220;

/** Name of a delivered file by the destination’s pattern, else by another, as every file system takes it. */
export function deliveredName(
  pattern: string,
  values: Partial<Record<NamePart, string>>,
  { format, fileNamePattern }: Pick<Destination, 'format' | 'fileNamePattern'>,
): string {
  const text = nameByPattern(fileNamePattern ?? pattern, values) || 'Untitled';
  // It decomposes accented letters, which breaks receivers that compare names byte by byte.
  const fileName = withinBytes(
    filenamify(text, { replacement: '-', maxLength: MOST_BYTES }).normalize('NFC'),
    MOST_BYTES,
  );
  return `${fileName}.${FORMAT_TRAITS[format.name].extension}`;
}
