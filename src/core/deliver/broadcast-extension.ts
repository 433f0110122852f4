/** What a `bext` chunk says. */
export interface BroadcastExtension {
  /** ASCII, up to 256 characters. */
  description: string;
  /** ASCII, up to 32 characters. */
  originator: string;
  originatorReference: string;
  /** When it was made, UTC. */
  made: Date;
  /** LUFS, LU and dBTP; null where nothing could be measured. */
  integratedLufs: number | null;
  rangeLu: number | null;
  truePeakDbtp: number | null;
  maxMomentaryLufs: number | null;
  maxShortTermLufs: number | null;
  codingHistory: string;
}

/** Bytes of the chunk before its coding history. */
const EXTENSION_BYTES = 602;
const VERSION = 2;
/** What stands for a value that is not known. */
const NOT_KNOWN = 0x7fff;

/** Letters and signs that no accent makes, as they are written without them. */
const PLAIN: Record<string, string> = {
  ...{ '—': '-', '–': '-', '−': '-', '‐': '-', '’': "'", '‘': "'", '“': '"', '”': '"', '„': '"', '…': '...' },
  ...{ Ł: 'L', ł: 'l', Ø: 'O', ø: 'o', Đ: 'D', đ: 'd', Æ: 'AE', æ: 'ae', Œ: 'OE', œ: 'oe', ß: 'ss', ı: 'i' },
};

/** Printable ASCII; accents are taken off, what has no plain form becomes a question mark. */
function ascii(text: string): string {
  return text
    .replace(/[^\x20-\x7e]/g, (sign) => (Object.hasOwn(PLAIN, sign) ? PLAIN[sign] : sign))
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[^\x20-\x7e\r\n]/g, '?');
}

/**
 * The contents of a `bext` chunk, version 2, without its head (EBU Tech 3285; from memory). Loudness in hundredths, signed
 * 16 bits, little-endian; 0x7fff where nothing is known. `historyBytes` is the room for the coding history.
 */
export function broadcastExtension(says: BroadcastExtension, historyBytes: number): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(EXTENSION_BYTES + historyBytes);
  const view = new DataView(bytes.buffer);
  const write = (text: string, at: number, most: number) => {
    const plain = ascii(text).slice(0, most);
    for (let i = 0; i < plain.length; i++) bytes[at + i] = plain.charCodeAt(i);
  };
  write(says.description, 0, 256);
  write(says.originator, 256, 32);
  write(says.originatorReference, 288, 32);
  const [date, time] = says.made.toISOString().split('T');
  write(date, 320, 10);
  write(time.slice(0, 8), 330, 8);
  view.setUint16(346, VERSION, true);
  const loudness = [
    ...[says.integratedLufs, says.rangeLu, says.truePeakDbtp, says.maxMomentaryLufs, says.maxShortTermLufs],
  ];
  loudness.forEach((value, i) => {
    const hundredths = value === null ? NOT_KNOWN : Math.max(-0x8000, Math.min(0x7ffe, Math.round(value * 100)));
    view.setInt16(412 + 2 * i, hundredths, true);
  });
  write(says.codingHistory, EXTENSION_BYTES, historyBytes);
  return bytes;
}
