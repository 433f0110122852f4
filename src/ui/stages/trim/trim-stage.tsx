'use client';

import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import type { Stage } from '../../../core/lane/schema';
import { trimSettings } from '../../../core/stages/trim/settings';
import { usePalette } from '../../theme/use-palette';
import { useSession } from '../../track/context';
import { LevelHistory } from './level-history';
import { Key, StageFrame } from '../stage-frame';
import { StageSetting } from '../stage-setting';

/** Level into the lane, sides linked or apart. */
export function TrimStage({ stage, index }: { stage: Extract<Stage, { kind: 'trim' }>; index: number }) {
  const session = useSession();
  const palette = usePalette();
  const { settings } = stage;
  const control = (name: 'gainDb' | 'gainLeftDb' | 'gainRightDb') => (
    <StageSetting stage={stage} shape={trimSettings.shape} name={name} />
  );
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
      <FormControlLabel
        label="Sides linked"
        disableTypography
        control={
          <Switch
            size="small"
            checked={settings.linked}
            onChange={(_, linked) =>
              // Parting the sides starts from the gain they had together.
              session.setStage(
                stage,
                linked ? 'Link sides' : 'Part sides',
                linked ? { linked } : { linked, gainLeftDb: settings.gainDb, gainRightDb: settings.gainDb },
              )
            }
          />
        }
      />
      {settings.linked ? (
        control('gainDb')
      ) : (
        <>
          {control('gainLeftDb')}
          {control('gainRightDb')}
        </>
      )}
    </StageFrame>
  );
}
