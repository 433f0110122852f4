import Box from '@mui/material/Box';
import { stageTitle, type Lane } from '../../../core/lane/schema';
import type { JointReading } from '../../../engine/measure/measurement';
import { figure } from '../../kit/format';
import { Picture } from '../../kit/picture';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { drawRibbon, ribbonAt } from './draw-ribbon';

/** Pixels of the ribbon before its first stage and after its last. */
const INSET = 8;

/** What a lane's stages do to the level, joint by joint, to be looked at only. */
export function LaneRibbon({
  title,
  lane: { stages },
  joints,
}: {
  title?: string;
  lane: Pick<Lane, 'stages'>;
  joints: readonly Pick<JointReading, 'integratedLufs' | 'truePeakDbtp'>[];
}) {
  const palette = usePalette();
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: title ? '20px 1fr' : '1fr', alignItems: 'center', mt: 1 }}>
      {title && <b>{title}</b>}
      <Box>
        <Box sx={{ display: 'flex', px: `${INSET}px`, fontSize: 12 }}>
          {stages.map((stage) => (
            <Box
              key={stage.id}
              sx={{
                ...{ flex: 1, minWidth: 0, textAlign: 'center', overflow: 'hidden', textOverflow: 'ellipsis' },
                ...{ whiteSpace: 'nowrap', color: stage.on ? undefined : 'text.secondary' },
              }}
            >
              {stageTitle(stage)}
              {stage.on ? '' : ' (off)'}
            </Box>
          ))}
        </Box>
        <Box sx={{ position: 'relative', height: 58 }}>
          <Picture
            moving={false}
            draw={(surface) =>
              drawRibbon(
                surface,
                joints.map(({ integratedLufs, truePeakDbtp }) => ribbonAt(integratedLufs, truePeakDbtp)),
                INSET,
                palette,
              )
            }
          />
        </Box>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', fontFamily: FIGURE_FACE, fontSize: 12 }}>
          {joints.map(({ integratedLufs, truePeakDbtp }, i) => (
            <span key={i} title={`${figure(truePeakDbtp)} dBTP`}>
              {figure(integratedLufs)}
              {i === stages.length ? ' LUFS' : ''}
            </span>
          ))}
        </Box>
      </Box>
    </Box>
  );
}
