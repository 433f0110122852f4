import { newStage, type Lane } from '../../lane/schema';
import { freeId, placeFor, withStageChanged, withStagesAt } from '../../lane/stage-edits';
import { THIRD_OCTAVES_HZ, type BalanceBand } from '../../measure/balance';
import { figure } from '../../measure/figure';
import { powerDecibels } from '../../signal/decibels';
import { stereoSettings } from '../../stages/stereo/settings';
import type { Rule } from './observation';

/** Where bass is commonly kept in the middle, in Hz, when the lane does not say (common practice, no source). */
export const CORNER_HZ = 120;
/** Side against mid from which bass loses weight in mono: a quarter of its power (common practice, no source). */
const MOST_SIDE_DB = -6;
/** Bass below this in the loudest passage does not matter, dBFS. */
const MATTERS_DBFS = -45;

interface Bass {
  levelDbfs: number;
  sideDb: number;
}

/** Bass with so much more side than mid is out of polarity: made mono, it would be gone. */
const OPPOSED_DB = 3;

/** Whether bass cancels itself in mono, so that only the mix can mend it. */
export function isOpposedBass({ sideDb }: Pick<Bass, 'sideDb'>): boolean {
  return sideDb > OPPOSED_DB;
}

/** Settings of a stereo stage that keeps the bass in the middle. */
export const MONO_BASS = { monoBelow: true, monoUpperHz: CORNER_HZ };

/** Power of the bass below a corner, in dBFS, and of its side against its mid in dB. */
export function bassBelow(corner: number, bands: readonly BalanceBand[]): Bass {
  let [total, side] = [0, 0];
  bands.forEach(({ levelDbfs, sideDb }, i) => {
    if (THIRD_OCTAVES_HZ[i] > corner || levelDbfs === -Infinity) return;
    const power = 10 ** (levelDbfs / 10);
    const ratio = 10 ** (sideDb / 10);
    total += power;
    side += ratio === Infinity ? power : (power * ratio) / (1 + ratio);
  });
  return { levelDbfs: powerDecibels(total), sideDb: powerDecibels(side / (total - side)) };
}

/** Whether bass has so much side that it loses weight in mono. */
export function isSideHeavy({ sideDb }: Bass): boolean {
  return sideDb > MOST_SIDE_DB;
}

/** The same, where it is loud enough to matter. */
export function isWideBass(bass: Bass): boolean {
  return isSideHeavy(bass) && bass.levelDbfs >= MATTERS_DBFS;
}

/** The lane with its bass in mono, by a stereo stage that it has or by a new one; null without room for one. */
function withMonoBass(lane: Lane, id: string | null): Lane | null {
  if (id !== null)
    return {
      ...lane,
      stages: withStageChanged(lane.stages, id, (stage) =>
        stage.kind === 'stereo' ? { ...stage, settings: { ...stage.settings, ...MONO_BASS } } : stage,
      ),
    };
  const added = newStage('stereo', freeId(lane.stages, 'mono-bass'));
  added.settings = stereoSettings.parse(MONO_BASS);
  const stages = withStagesAt(lane.stages, placeFor(lane.stages, added), added);
  return stages && { ...lane, stages };
}

/** Side energy in the bass of the loudest passage. */
export const wideBass: Rule = ({ lane, passageBalance, loudest, sampleRate }) => {
  if (!passageBalance) return [];
  const stereo = lane.stages.findLast((stage) => stage.kind === 'stereo' && stage.on);
  const mono = stereo?.kind === 'stereo' && stereo.settings.monoBelow;
  const corner = mono ? stereo.settings.monoUpperHz : CORNER_HZ;
  const bass = bassBelow(corner, passageBalance);
  if (!isWideBass(bass)) return [];
  return [
    {
      kind: 'wideBass',
      stages: stereo ? [stereo.id] : [],
      sentence: `Below ${figure(corner, 0)} Hz the side is at ${figure(bass.sideDb)} dB against the mid in the loudest passage${mono ? ', though “Mono below” is on: its shape is gentle, or a later stage widens it again' : ''}. ${isOpposedBass(bass) ? 'The channels oppose each other there: in mono that bass is gone. Ask for a mix with the polarity fixed' : 'In mono that bass loses weight, and a lacquer can’t take it'}.`,
      seconds: loudest ? loudest.start / sampleRate : null,
      remedy:
        mono || isOpposedBass(bass) || withMonoBass(lane, stereo?.id ?? null) === null
          ? null
          : {
              label: `Mono below ${CORNER_HZ} Hz`,
              apply: (current) => withMonoBass(current, stereo?.id ?? null) ?? current,
            },
    },
  ];
};
