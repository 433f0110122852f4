'use client';

import AddIcon from '@mui/icons-material/Add';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import {
  alternativesOf,
  heardAlternative,
  MAX_ALTERNATIVES,
  withAlternativeAdded,
  withAlternativeHeard,
} from '../../core/lane/alternatives';
import { stageTitle, type Stage } from '../../core/lane/schema';
import { useEditor } from '../track/context';
import { withKey } from '../track/key-table';

/** Other settings of a stage, to switch between on one passage without changing the lane. */
export function Alternatives({ stage }: { stage: Stage }) {
  const { lane } = useEditor();
  const list = alternativesOf(stage);
  const heard = heardAlternative(stage);
  const title = stageTitle(stage);
  return (
    <Box role="group" aria-label={`Alternatives of ${title}`} sx={{ display: 'flex', alignItems: 'center', gap: 0.25 }}>
      {list.length > 1 &&
        list.map(({ name }, place) => (
          <Tooltip
            key={place}
            title={withKey(
              `Alternative “${name}” of this stage. With levels matched by loudness all of them are equally loud`,
              'alternative',
            )}
          >
            <ButtonBase
              aria-pressed={place === heard}
              onClick={() =>
                lane.changeAlternatives(stage.id, `${title}: ${name}`, (each) => withAlternativeHeard(each, place))
              }
              sx={{
                ...{ px: 0.9, minWidth: 24, height: 24, borderRadius: 1, fontSize: 12.5, fontWeight: 650 },
                ...{ maxWidth: 90, overflow: 'hidden', whiteSpace: 'nowrap' },
                ...(place === heard && { bgcolor: 'text.primary', color: 'background.default' }),
              }}
            >
              {name}
            </ButtonBase>
          </Tooltip>
        ))}
      {list.length < MAX_ALTERNATIVES && (
        <Tooltip title="Add an alternative: other settings of this stage, starting as a copy of these">
          <IconButton
            size="small"
            aria-label="Add an alternative"
            onClick={() => lane.changeAlternatives(stage.id, `${title}: add alternative`, withAlternativeAdded)}
          >
            <AddIcon sx={{ fontSize: 16 }} />
          </IconButton>
        </Tooltip>
      )}
    </Box>
  );
}
