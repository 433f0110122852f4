'use client';

import HeadphonesIcon from '@mui/icons-material/HeadphonesOutlined';
import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import { usePalette } from '../../theme/use-palette';
import { useAudition, useEditor } from '../../track/context';
import { ReductionHistory } from '../dynamics/reduction-history';
import { Reductions } from '../dynamics/reductions';
import { Key, StageFrame } from '../stage-frame';
import type { PanelProps } from '../stage-panel';
import { useControls } from '../use-controls';
import { DeEsserPicture } from './de-esser-picture';

/** Where the sibilance is, when it is too loud, and what is taken off. */
export function DeEsserPanel({ stage, index }: PanelProps<'deEsser'>) {
  const editor = useEditor();
  const palette = usePalette();
  const alone = useAudition((state) => state.soloRegion);
  const { settings } = stage;
  const { quantity, choice } = useControls(stage);
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <ToggleButton
            value="alone"
            size="small"
            selected={alone}
            onChange={() => editor.audition.hearRegion(!alone)}
            sx={{
              ...{ py: 0, px: 1, textTransform: 'none', color: 'text.primary', gap: 0.5, lineHeight: '26px' },
              '&.Mui-selected, &.Mui-selected:hover': { bgcolor: 'warning.main', color: 'background.paper' },
            }}
          >
            <HeadphonesIcon sx={{ fontSize: 17 }} />
            Solo the band
          </ToggleButton>
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
