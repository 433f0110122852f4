/** What two correct true-peak meters may differ by, and what rounds away in the figure shown, in dB. */
const SAME_DB = 0.05;

/** By how many dB a true peak in dBTP is over a limit in dBTP; 0 when it keeps to it. */
export function truePeakExcessDb(truePeakDbtp: number, maxDbtp: number): number {
  const excess = truePeakDbtp - maxDbtp;
  return excess <= SAME_DB + 1e-9 ? 0 : excess;
}

/** By how many dB a signal can be raised until its true peak in dBTP meets a limit in dBTP; 0 where it can’t. */
export function truePeakRoomDb(truePeakDbtp: number, maxDbtp: number): number {
  return Math.max(0, maxDbtp - truePeakDbtp);
}
