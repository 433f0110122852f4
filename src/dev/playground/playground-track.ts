import type { TrackDetails } from '../../contracts/track';
import type { VersionState } from '../../contracts/version';
import { READY_MADE } from '../../core/deliver/ready-made';
import { QUANTUM } from '../../core/kernels/layout';
import { LANE_SCHEMA, newStage, parseLane, type Lane } from '../../core/lane/schema';
import type { StageKind } from '../../core/stages/registry';
import { startingLane } from '../../demo/lanes';
import { PIECES } from '../../demo/pieces';
import { ListeningEngine } from '../../engine/live/listening-engine';
import type { Audio, Span } from '../../engine/measure/measurement';
import { openTrackMeasuring } from '../../engine/measure/worker-runner';
import type { LaneHistory } from '../../ui/track/lane-saver';
import { TrackEditor } from '../../ui/track/track-editor';
import { sketch } from '../sketch';

/** The end of the music, where it is fullest. */
const LOUDEST_SECONDS = 5;

const loudestPassage = ({ left, sampleRate }: Audio): Span => ({
  start: left.length - LOUDEST_SECONDS * sampleRate,
  end: left.length,
});

/** Quanta between two readings, as the worklet sends them. */
const QUANTA_PER_READING = 11;
/** Where the made-up playback has got to: in the loudest bar. */
const PLAYED_SECONDS = 11;

const shared = (samples: Float32Array) => {
  const copy = new Float32Array(new SharedArrayBuffer(samples.byteLength));
  copy.set(samples);
  return copy;
};

/** The music that everything in the playground plays and measures. */
export function playgroundAudio(): Audio {
  const { left, right, sampleRate } = sketch(1);
  return { left: shared(left), right: shared(right), sampleRate };
}

/** A lane of one stage, as some piece of the demo uses it, else with the settings of a new one. */
function laneOf(kind: StageKind): Lane {
  const used = PIECES.flatMap((_, i) => startingLane(i + 1).stages).find((stage) => stage.kind === kind);
  return parseLane({ schema: LANE_SCHEMA, stages: [{ ...(used ?? newStage(kind, kind)), id: kind }] });
}

function detailsOf(kind: StageKind, { sampleRate, left }: Audio): TrackDetails {
  const titled = { id: `playground-${kind}`, title: 'Playground' };
  const version = {
    id: kind,
    name: 'First version',
    step: 0,
    lane: laneOf(kind),
    undo: null,
    redo: null,
    pins: [],
    createdAt: '',
  };
  return {
    track: { ...titled, position: 1, chosenVersionId: titled.id },
    release: { ...titled, artist: '' },
    previousTrackId: null,
    nextTrackId: null,
    mix: { source: { sampleRate }, report: { frames: left.length } } as unknown as TrackDetails['mix'],
    mixes: [],
    tracks: [],
    versions: [version],
    destinations: READY_MADE.map((settings, i) => ({ id: String(i), settings, newer: null })),
    tags: {},
    deliveries: [],
    candidates: null,
    notes: [],
    encodes: [],
    adjustments: [],
    references: [],
  };
}

/** A history that lasts as long as the page. */
function pageHistory(start: VersionState): LaneHistory {
  const steps = [{ lane: start.lane, label: '' }];
  const at = (step: number): VersionState => ({
    ...{ ...start, step, lane: steps[step].lane },
    ...{ undo: step > 0 ? steps[step].label : null, redo: steps[step + 1]?.label ?? null },
  });
  return {
    save: (_, { lane, label, after, amends }) => {
      const step = amends ? after : after + 1;
      steps.length = amends ? steps.length : step;
      steps[step] = { lane, label: amends ? steps[step].label : label };
      return Promise.resolve(at(step));
    },
    go: (_, direction, after) => Promise.resolve(at(after + (direction === 'undo' ? -1 : 1))),
  };
}

/** Plays the track through the lane as the worklet would, without sound, and leaves the readings as they are then. */
function play(editor: TrackEditor, audio: Audio): void {
  const { board, taps } = editor;
  const engine = new ListeningEngine({ audio, lane: editor.lane.lane, taps, playing: true });
  engine.receive({ type: 'tap', stage: 0 });
  const [left, right] = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)];
  const quanta = Math.floor((PLAYED_SECONDS * audio.sampleRate) / QUANTUM);
  for (let quantum = 1; quantum <= quanta; quantum++) {
    engine.render(left, right);
    if (quantum % QUANTA_PER_READING === 0) board.push(engine.readings());
  }
}

/** An open track with one stage of a kind: measured by the page's own workers, and as if it had been played until now. */
export function openPlaygroundTrack(kind: StageKind, audio: Audio): TrackEditor {
  const details = detailsOf(kind, audio);
  const [version] = details.versions;
  const editor = new TrackEditor(details, pageHistory(version));
  editor.selection.openStage(kind);
  editor.track.ready(audio);
  editor.measurements.open(openTrackMeasuring(audio, loudestPassage(audio)).queue);
  editor.measurements.follow(editor.lane.lane);
  play(editor, audio);
  editor.lane.store.subscribe(({ version }, before) => version.lane !== before.version.lane && play(editor, audio));
  return editor;
}
