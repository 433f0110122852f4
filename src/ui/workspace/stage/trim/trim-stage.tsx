'use client';

import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import type { Stage } from '../../../../core/lane/schema';
import { describe } from '../../../../core/stages/definition';
import { trimSettings } from '../../../../core/stages/trim/settings';
import { usePalette } from '../../../theme/use-palette';
import { useSession } from '../../context';
import { LevelHistory } from './level-history';
import { Key, StageFrame } from '../stage-frame';
import { StageQuantity } from '../stage-quantity';

const { gainDb, gainLeftDb, gainRightDb } = trimSettings.shape;

/** Level into the lane, sides linked or apart. */
export function TrimStage({ stage, index }: { stage: Extract<Stage, { kind: 'trim' }>; index: number }) {
  const session = useSession();
  const palette = usePalette();
  const { settings } = stage;
  const control = (name: 'gainDb' | 'gainLeftDb' | 'gainRightDb', schema: typeof gainDb) => (
    <StageQuantity
      stage={stage.id}
      control={name}
      quantity={describe(schema)}
      value={settings[name]}
      onChange={(value) => session.setStage(stage, describe(schema).title, { [name]: value })}
    />
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
        control('gainDb', gainDb)
      ) : (
        <>
          {control('gainLeftDb', gainLeftDb)}
          {control('gainRightDb', gainRightDb)}
        </>
      )}
    </StageFrame>
  );
}
