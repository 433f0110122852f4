'use client';

import { describeToggle } from '../../../core/stages/setting';
import { trimSettings } from '../../../core/stages/trim/settings';
import { SwitchRow } from '../../kit/switch-row';
import { usePalette } from '../../theme/use-palette';
import { Key, StageFrame } from '../stage-frame';
import type { PanelProps } from '../stage-panel';
import { useControls } from '../use-controls';
import { LevelHistory } from './level-history';

/** Level into the lane, channels linked or not. */
export function TrimPanel({ stage, index }: PanelProps<'trim'>) {
  const palette = usePalette();
  const { linked, gainDb } = stage.settings;
  const { set, quantity } = useControls(stage);
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Key color={palette.copper}>in</Key>
          <Key color={palette.patina}>out: thick is momentary loudness, thin is true peak</Key>
        </>
      }
      picture={<LevelHistory index={index} />}
    >
      <SwitchRow
        {...describeToggle(trimSettings.shape.linked)}
        on={linked}
        onChange={(on) =>
          // Unlinked, both channels start from the gain they shared.
          set(on ? 'Link channels' : 'Unlink channels', {
            linked: on,
            ...(on ? {} : { gainLeftDb: gainDb, gainRightDb: gainDb }),
          })
        }
      />
      {linked ? (
        quantity('gainDb')
      ) : (
        <>
          {quantity('gainLeftDb')}
          {quantity('gainRightDb')}
        </>
      )}
    </StageFrame>
  );
}
