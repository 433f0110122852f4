import { amplitude, decibels } from '../../../core/signal/decibels';
import { FIGURE_FONT } from '../../kit/axes';
import { figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import type { VuScale } from './choice';

/**
 * A scale from left to right, and the level in dBFS that it calls 0: even in dB, or `byAmplitude`, where it begins with
 * nothing at all and is named in per cent of its zero.
 */
export interface Rule {
  fromDb: number;
  toDb: number;
  zeroDbfs: number;
  byAmplitude?: boolean;
  /** Levels that are named, relative to the zero. */
  named: readonly number[];
  /** From here on a bar is drawn as a warning, relative to the zero; null for nowhere. */
  warnDb: number | null;
}

/** Peaks up to full scale, or with a headroom above a zero: twice the headroom below it. */
export function peakRule(headroomDb: number | null): Rule {
  if (headroomDb === null) return { fromDb: -48, toDb: 3, zeroDbfs: 0, named: [-40, -30, -20, -10, -6, 0], warnDb: 0 };
  const named = [-24, -12, -6, 0, 4, 8, headroomDb].filter((db) => db <= headroomDb);
  return { fromDb: -36, toDb: headroomDb, zeroDbfs: -headroomDb, named, warnDb: 4 };
}

/** Per cent of its zero that are named on a volume indicator. */
const VU_PERCENT = [20, 40, 60, 80, 100, 120, 140];

/** A volume indicator: up to +3 about its zero. */
export function vuRule(zeroDbfs: number, scale: VuScale): Rule {
  const rule = { fromDb: -20, toDb: 3, zeroDbfs, warnDb: 0 };
  if (scale === 'decibels') return { ...rule, named: [-20, -10, -7, -5, -3, -1, 0, 3] };
  return { ...rule, byAmplitude: true, named: VU_PERCENT.map((percent) => decibels(percent / 100)) };
}

/** A quasi-peak meter: from −50 to +5 about −9 dBFS, its highest level in use (EBU R 68; from memory). */
export const PPM_RULE: Rule = {
  ...{ fromDb: -50, toDb: 9, zeroDbfs: -9, named: [-50, -40, -30, -20, -10, 0, 5], warnDb: 0 },
};

/** What stands on a rule for one channel, in dBFS: a bar, a paler one around it, and a mark. */
export interface RuleLevels {
  barDbfs: number;
  paleDbfs?: number;
  markDbfs?: number;
}

/** Height of a channel, and of the figures below both. */
const ROW = 14;
const LEFT = 16;
/** Pixels that a figure needs. */
const NAME_WIDTH = 26;

/** Where a level lies on a rule, as a share of its length. */
export function shareOf(levelDbfs: number, { fromDb, toDb, zeroDbfs, byAmplitude }: Rule): number {
  if (byAmplitude) return Math.min(1, amplitude(levelDbfs - zeroDbfs - toDb));
  return Math.max(0, Math.min(1, (levelDbfs - zeroDbfs - fromDb) / (toDb - fromDb)));
}

/** Draws both channels on a rule. */
export function drawRule(
  { context, width }: Surface,
  rule: Rule,
  channels: readonly RuleLevels[],
  color: string,
  palette: Palette,
): void {
  const x = (dbfs: number) => LEFT + shareOf(dbfs, rule) * (width - LEFT - 2);
  const warns = (dbfs: number) => rule.warnDb !== null && dbfs - rule.zeroDbfs > rule.warnDb;
  context.font = FIGURE_FONT;
  channels.forEach(({ barDbfs, paleDbfs = barDbfs, markDbfs }, i) => {
    const y = 2 + i * ROW;
    context.textAlign = 'left';
    context.fillStyle = palette.quiet;
    context.fillText('LR'[i], 0, y + 9);
    context.fillStyle = palette.hairline;
    context.fillRect(LEFT, y + 4, width - LEFT - 2, 2);
    context.globalAlpha = 0.4;
    context.fillStyle = warns(paleDbfs) ? palette.brick : color;
    context.fillRect(LEFT, y + 2, x(paleDbfs) - LEFT, 6);
    context.globalAlpha = 1;
    context.fillStyle = warns(barDbfs) ? palette.brick : color;
    context.fillRect(LEFT, y, x(barDbfs) - LEFT, 10);
    if (markDbfs !== undefined && shareOf(markDbfs, rule) > 0) {
      context.fillStyle = warns(markDbfs) ? palette.brick : palette.ink;
      context.fillRect(x(markDbfs) - 1, y - 1, 2, 12);
    }
  });
  const foot = 2 + channels.length * ROW;
  context.textAlign = 'center';
  let last = -Infinity;
  for (const db of rule.named) {
    const at = x(db + rule.zeroDbfs);
    // On a short rule some figures have no room; the zero has it always.
    const crowded = at - last < NAME_WIDTH || Math.abs(at - x(rule.zeroDbfs)) < NAME_WIDTH;
    if (db !== 0 && !rule.byAmplitude && crowded) continue;
    last = at;
    const text = rule.byAmplitude ? figure(100 * amplitude(db), 0) : db > 0 ? `+${db}` : figure(db, 0);
    context.fillStyle = db === 0 ? palette.ink : palette.quiet;
    context.fillRect(at - 0.5, foot, 1, 3);
    context.fillText(text, Math.max(LEFT, Math.min(width - 10, at)), foot + 14);
  }
}
