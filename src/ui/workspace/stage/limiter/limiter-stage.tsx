'use client';

import type { Stage } from '../../../../core/lane/schema';
import { describe } from '../../../../core/stages/definition';
import { limiterSettings } from '../../../../core/stages/limiter/settings';
import { Reading } from '../../../controls/reading';
import { change } from '../../../format';
import { usePalette } from '../../../theme/use-palette';
import { PASS_FRAMES } from '../../../../engine/pass/result';
import { useSession, useWorkspace } from '../../context';
import { LimiterPicture } from './limiter-picture';
import { Key, StageFrame } from '../stage-frame';
import { StageQuantity } from '../stage-quantity';

const CONTROLS = ['inputGainDb', 'ceilingDbtp', 'lookAheadMs', 'recoveryMs'] as const;
/** More on the loudest passage is heard (common practice, no source). */
const MUCH_DB = 3;

/** Most gain reduction in the whole track and in the loudest passage, from the full pass. */
function Reductions({ index }: { index: number }) {
  const pass = useWorkspace((state) => state.pass);
  const loudest = useWorkspace((state) => state.workspace.mix?.report?.loudest);
  if (!pass) return null;
  const trace = pass.gainReduction[index] ?? new Float32Array(0);
  const highest = (values: Float32Array) => values.reduce((a, b) => Math.max(a, b), 0);
  const passage = loudest
    ? trace.subarray(Math.floor(loudest.start / PASS_FRAMES), Math.ceil(loudest.end / PASS_FRAMES))
    : trace;
  const working = [...passage].sort((a, b) => a - b);
  const typical = working.length > 0 ? working[Math.floor(working.length * 0.75)] : 0;
  const most = highest(passage);
  return (
    <dl style={{ margin: 0, fontSize: 12.5 }}>
      <Reading name="Most, whole track" value={change(-highest(trace))} unit="dB" />
      <Reading
        name="Most, loudest passage"
        value={change(-most)}
        unit="dB"
        color={most > MUCH_DB ? 'warning.main' : undefined}
      />
      <Reading name="Typical there" value={change(-typical)} unit="dB" />
      {most > MUCH_DB && (
        <div style={{ opacity: 0.8 }}>
          ▲ More than {MUCH_DB} dB on the loudest passage is heard: less input gain keeps punch.
        </div>
      )}
    </dl>
  );
}

/** Ceiling, drive, and what the gain does about them. */
export function LimiterStage({ stage, index }: { stage: Extract<Stage, { kind: 'limiter' }>; index: number }) {
  const session = useSession();
  const palette = usePalette();
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={<Key color={palette.ink}>gain reduction, with its peaks held</Key>}
      picture={<LimiterPicture index={index} />}
    >
      {CONTROLS.map((name) => {
        const quantity = describe(limiterSettings.shape[name]);
        return (
          <StageQuantity
            key={name}
            stage={stage.id}
            control={name}
            quantity={quantity}
            value={stage.settings[name]}
            onChange={(value) => session.setStage(stage, quantity.title, { [name]: value })}
          />
        );
      })}
      <Reductions index={index} />
    </StageFrame>
  );
}
