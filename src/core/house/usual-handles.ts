import { controlQuantity, controlValue, heldTo } from '../lane/control-path';
import { MAX_STAGES, newStage, type Lane, type Stage } from '../lane/schema';
import { STAGES, traitsOf } from '../stages/registry';
import { REST_PERCENT, type Handle, type HandleMove, type House } from './schema';

/** Stages that carry the usual handles, by their identifiers in a lane. */
const TONE = 'handles-tone';
const IMAGE = 'handles-image';
const LEVEL = 'handles-level';
/** Ranges of the usual handles (our own judgement): enough to hear in a car, too little to spoil a master. */
const LOUDNESS_DB = 4;
const TONE_DB = 3;
const NARROW_PERCENT = 70;
const WIDE_PERCENT = 135;
/** Bands from about the middle up: bass stays where it is. */
const WIDE_BANDS = [2, 3, 4];

const drivesCeiling = (stage: Stage) => traitsOf<Stage>(stage).drive?.into === 'ceiling';

function move(stage: Stage, control: string, from: number, to: number): HandleMove {
  const quantity = controlQuantity(stage, control);
  const rest = controlValue(stage, control);
  if (!quantity || rest === null) throw new Error(`A ${stage.kind} has no control ${control}.`);
  return { stage: stage.id, control, rest, from: heldTo(quantity, from), to: heldTo(quantity, to) };
}

/** Loudness: the drive into the last ceiling that is on; where the lane has none, a trim at its end. */
function loudness(stages: readonly Stage[]): { handle: Handle; added: Stage | null } {
  const ceiling = stages.findLast((stage) => stage.on && drivesCeiling(stage));
  const stage = ceiling ?? newStage('trim', LEVEL);
  const control = ceiling ? traitsOf<Stage>(ceiling).drive!.setting : 'gainDb';
  const rest = controlValue(stage, control) ?? 0;
  const moves = [move(stage, control, rest - LOUDNESS_DB, rest + LOUDNESS_DB)];
  return { handle: { name: 'Loudness', percent: REST_PERCENT, moves }, added: ceiling ? null : stage };
}

/**
 * A lane with handles: its own, else the usual ones, which are loudness, weight, presence and width. The stages they need come
 * before the ceiling and do nothing while the handles rest; what does not fit in the lane is left out.
 */
export function withUsualHandles(lane: Lane): Lane & { house: House } {
  if (lane.house && lane.house.handles.length > 0) return { ...lane, house: lane.house };
  const handles: Handle[] = [];
  const before: Stage[] = [];
  const after: Stage[] = [];
  const room = () => lane.stages.length + before.length + after.length < MAX_STAGES;
  const { handle, added } = loudness(lane.stages);
  if (!added || room()) {
    handles.push(handle);
    if (added) after.push(added);
  }
  if (room()) {
    const bands = [
      { shape: 'lowShelf', frequencyHz: 100, gainDb: 0 },
      { shape: 'bell', frequencyHz: 3500, gainDb: 0, q: 0.7 },
    ];
    const tone: Stage = { ...newStage('equalizer', TONE), settings: STAGES.equalizer.schema.parse({ bands }) };
    before.push(tone);
    for (const [band, name] of ['Weight', 'Presence'].entries())
      handles.push({ name, percent: REST_PERCENT, moves: [move(tone, `bands.${band}.gainDb`, -TONE_DB, TONE_DB)] });
  }
  if (room()) {
    const image = newStage('stereo', IMAGE);
    before.push(image);
    const moves = WIDE_BANDS.map((band) => move(image, `widthsPercent.${band}`, NARROW_PERCENT, WIDE_PERCENT));
    handles.push({ name: 'Width', percent: REST_PERCENT, moves });
  }
  const first = lane.stages.findIndex(drivesCeiling);
  const at = first < 0 ? lane.stages.length : first;
  return {
    ...lane,
    stages: [...lane.stages.slice(0, at), ...before, ...lane.stages.slice(at), ...after],
    house: lane.house ? { ...lane.house, handles } : { name: '', amountPercent: 100, handles, scales: [] },
  };
}
