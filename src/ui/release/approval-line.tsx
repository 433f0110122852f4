import CheckIcon from '@mui/icons-material/CheckCircleOutlined';
import Box from '@mui/material/Box';
import type { Approval } from '../../contracts/release';
import { dateAndTime } from '../kit/format';

/** Who approved a track on a listening page, and whether it is still what they heard. */
export function ApprovalLine({ approval: { author, at, version, current } }: { approval: Approval }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, color: current ? 'success.main' : 'text.secondary' }}>
      <CheckIcon sx={{ fontSize: 18 }} aria-hidden />
      {current
        ? `Approved by ${author}, ${dateAndTime(at)}`
        : `${author} approved “${version}” on ${dateAndTime(at)}; the track was changed since. Update the listening page to ask again.`}
    </Box>
  );
}
