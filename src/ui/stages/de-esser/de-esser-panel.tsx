'use client';

import Box from '@mui/material/Box';
import { usePalette } from '../../theme/use-palette';
import { ReductionHistory } from '../dynamics/reduction-history';
import { Reductions } from '../dynamics/reductions';
import { Key, StageFrame } from '../stage-frame';
import type { PanelProps } from '../stage-panel';
import { SoloButton } from '../solo-button';
import { useControls } from '../use-controls';
import { DeEsserPicture } from './de-esser-picture';

/** Where the sibilance is, when it is too loud, and what is taken off. */
export function DeEsserPanel({ stage, index }: PanelProps<'deEsser'>) {
  const palette = usePalette();
  const { settings } = stage;
  const { quantity, choice } = useControls(stage);
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <SoloButton
            title="Hear the side-chain"
            help="Plays only what the de-esser listens to, as it enters the stage: move the frequency until there is nothing but sibilance"
          />
          <Key color={palette.ink}>gain reduction, peaks held</Key>
        </>
      }
      picture={
        <Box
          sx={{ position: 'absolute', inset: 0, display: 'grid', gridTemplateRows: 'minmax(0, 1fr) minmax(0, 1fr)' }}
        >
          <Box sx={{ position: 'relative' }}>
            <DeEsserPicture stage={stage} index={index} />
          </Box>
          <Box sx={{ position: 'relative', borderTop: 1, borderColor: 'divider' }}>
            <ReductionHistory index={index} idle="Nothing is sibilant enough yet: lower the threshold" />
          </Box>
        </Box>
      }
    >
      {quantity('frequencyHz')}
      {settings.detection === 'around' && quantity('q')}
      {(['thresholdDb', 'rangeDb', 'attackMs', 'releaseMs'] as const).map((name) => quantity(name))}
      {choice('detection')}
      {choice('reduction')}
      {choice('part')}
      <Reductions index={index} less="a higher threshold or a smaller range keeps the consonants." />
    </StageFrame>
  );
}
