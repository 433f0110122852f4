'use client';

import HeadphonesIcon from '@mui/icons-material/HeadphonesOutlined';
import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import type { Stage } from '../../../core/lane/schema';
import {
  deEsserSettings,
  type DE_ESSER_PARTS,
  type DETECTIONS,
  type REDUCTIONS,
} from '../../../core/stages/de-esser/settings';
import { usePalette } from '../../theme/use-palette';
import { useSession, useWorkspace } from '../../track/context';
import { ChoiceRow } from '../../kit/choice-row';
import { ReductionHistory } from '../dynamics/reduction-history';
import { Reductions } from '../dynamics/reductions';
import { Key, StageFrame } from '../stage-frame';
import { useControls } from '../use-controls';
import { DeEsserPicture } from './de-esser-picture';

const PART_TITLES: Record<(typeof DE_ESSER_PARTS)[number], string> = {
  stereo: 'Left and right',
  mid: 'Mid alone',
  side: 'Side alone',
};
const DETECTION_TITLES: Record<(typeof DETECTIONS)[number], string> = {
  around: 'Around the frequency',
  above: 'Above the frequency',
};
const REDUCTION_TITLES: Record<(typeof REDUCTIONS)[number], string> = { split: 'The region', wide: 'Everything' };

/** Where sibilants lie, when they are too loud, and what is taken. */
export function DeEsserStage({ stage, index }: { stage: Extract<Stage, { kind: 'deEsser' }>; index: number }) {
  const session = useSession();
  const palette = usePalette();
  const alone = useWorkspace((state) => state.soloRegion);
  const { settings } = stage;
  const { set, quantity } = useControls(stage, deEsserSettings.shape);
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
            onChange={() => session.listening.hearRegion(!alone)}
            sx={{
              ...{ py: 0, px: 1, textTransform: 'none', color: 'text.primary', gap: 0.5, lineHeight: '26px' },
              '&.Mui-selected, &.Mui-selected:hover': { bgcolor: 'warning.main', color: 'background.paper' },
            }}
          >
            <HeadphonesIcon sx={{ fontSize: 17 }} />
            Listen to the region
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
            <ReductionHistory index={index} idle="Nothing is sibilant enough: lower the threshold" />
          </Box>
        </Box>
      }
    >
      {quantity('frequencyHz')}
      {settings.detection === 'around' && quantity('q')}
      {(['thresholdDb', 'rangeDb', 'attackMs', 'releaseMs'] as const).map((name) => quantity(name))}
      <ChoiceRow
        title="Listens"
        help="Around the frequency for a voice with one kind of s; above it for breath, hiss and cymbals together."
        value={settings.detection}
        titles={DETECTION_TITLES}
        onChange={(detection) => set('Detection', { detection })}
      />
      <ChoiceRow
        title="Turns down"
        help="The region alone leaves the music under an s as it is. Everything is right for a voice by itself: the s keeps its tone."
        value={settings.reduction}
        titles={REDUCTION_TITLES}
        onChange={(reduction) => set('Reduction', { reduction })}
      />
      <ChoiceRow
        title="Works on"
        help="The voice is mostly in the mid; cymbals and guitars at the sides keep their brightness then."
        value={settings.part}
        titles={PART_TITLES}
        onChange={(part) => set('Works on', { part })}
      />
      <Reductions index={index} less="a higher threshold or a smaller range keeps the consonants." />
    </StageFrame>
  );
}
