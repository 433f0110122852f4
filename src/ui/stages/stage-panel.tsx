'use client';

import Box from '@mui/material/Box';
import { useWorkspace } from '../track/context';
import { BandDynamicsStage } from './band-dynamics/band-dynamics-stage';
import { ClipperStage } from './clipper/clipper-stage';
import { CompressorStage } from './compressor/compressor-stage';
import { DeEsserStage } from './de-esser/de-esser-stage';
import { EqualizerStage } from './equalizer/equalizer-stage';
import { LimiterStage } from './limiter/limiter-stage';
import { RoomStage } from './room/room-stage';
import { SaturationStage } from './saturation/saturation-stage';
import { StereoStage } from './stereo/stereo-stage';
import { TrimStage } from './trim/trim-stage';

/** The open stage, or what to do when there is none. */
export function StagePanel() {
  const openStage = useWorkspace((state) => state.openStage);
  const stages = useWorkspace((state) => state.version.lane.stages);
  const index = stages.findIndex(({ id }) => id === openStage);
  const stage = stages[index];
  if (!stage) {
    return (
      <Box sx={{ flex: 1, display: 'grid', placeItems: 'center', color: 'text.secondary' }}>
        {stages.length === 0
          ? 'The lane is empty: the master is the mix as it came. Add a stage above to shape it.'
          : 'Press a stage above to open it.'}
      </Box>
    );
  }
  switch (stage.kind) {
    case 'trim':
      return <TrimStage stage={stage} index={index} />;
    case 'equalizer':
      return <EqualizerStage stage={stage} index={index} />;
    case 'deEsser':
      return <DeEsserStage stage={stage} index={index} />;
    case 'compressor':
      return <CompressorStage stage={stage} index={index} />;
    case 'bandDynamics':
      return <BandDynamicsStage stage={stage} index={index} />;
    case 'stereo':
      return <StereoStage stage={stage} index={index} />;
    case 'room':
      return <RoomStage stage={stage} index={index} />;
    case 'saturation':
      return <SaturationStage stage={stage} index={index} />;
    case 'clipper':
      return <ClipperStage stage={stage} index={index} />;
    case 'limiter':
      return <LimiterStage stage={stage} index={index} />;
  }
}
