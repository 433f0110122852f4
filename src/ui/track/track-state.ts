import type { LevelMatch } from '../../engine/sources/level-match';
import type { Loop, Monitor, Side } from '../../engine/live/protocol';
import type { Audio, Measurement } from '../../engine/measure/measurement';
import type { VersionState } from '../../contracts/version';
import type { Workspace } from '../../contracts/track';
import type { View } from './view-memory';

/** Everything the screen of an open track shows, but what changes many times a second. */
export interface WorkspaceState {
  workspace: Workspace;
  version: VersionState;
  saving: 'saved' | 'saving' | 'failed';
  problem: string | null;
  /** Share of the mix that has arrived; 1 when it can be heard. */
  arrived: number;
  audio: Audio | null;
  /** Names of the impulse impulses that were put in and are here. */
  impulses: readonly string[];
  openStage: string | null;
  /** Of an equalizer its band, of a stage that works by bands the lane's. */
  openBand: number;
  pass: Measurement | null;
  /** Share of the pass that is done; null when none runs. */
  passShare: number | null;
  passProblem: string | null;
  playing: boolean;
  side: Side;
  monitor: Monitor;
  loop: Loop | null;
  match: LevelMatch;
  /** Whether the match rests on what was played so far, as the full pass is not done. */
  matchEstimated: boolean;
  /** Stage without which the lane is what the master is compared with; null for the untouched mix. */
  against: string | null;
  /** Whether only the region of the open band is heard. */
  soloRegion: boolean;
  /** Whether only what the open stage takes away is heard. */
  hearsRemoved: boolean;
  /** Whether the open equalizer is ready for a sweep. */
  sweeping: boolean;
}

/** A track as it was left; what does not exist any more is left out. */
export function openingState(workspace: Workspace, view: View): WorkspaceState {
  const version = workspace.versions.find(({ id }) => id === view.version) ?? workspace.versions[0];
  const { stages } = version.lane;
  return {
    workspace,
    version,
    saving: 'saved',
    problem: null,
    arrived: 0,
    audio: null,
    impulses: [],
    openStage: stages.find(({ id }) => id === view.openStage)?.id ?? stages[0]?.id ?? null,
    openBand: view.openBand,
    pass: null,
    passShare: null,
    passProblem: null,
    playing: false,
    side: 'master',
    monitor: 'stereo',
    loop: view.loop,
    match: { mixDb: 0, masterDb: 0 },
    matchEstimated: true,
    against: null,
    soloRegion: false,
    hearsRemoved: false,
    sweeping: false,
  };
}
