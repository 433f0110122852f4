'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Papa from 'papaparse';
import { gainStaging, gainStagingTable, punchTaker, type JointFigures } from '../../engine/measure/gain-staging';
import { change, figure } from '../kit/format';
import { FIGURE_FACE } from '../theme/theme';
import { useEditor, useLane, useMeasurements, useMixLength, useTrack } from './context';
import { saveFile } from './save-file';

/** Stage by stage what the lane did to the level: where the punch went. */
export function GainStagingDialog({
  open,
  onClose,
  onCompare,
}: {
  open: boolean;
  onClose: () => void;
  onCompare: () => void;
}) {
  const editor = useEditor();
  const lane = useLane((state) => state.version.lane);
  const measurement = useMeasurements((state) => state.measurement);
  const { sampleRate } = useMixLength();
  const track = useTrack((state) => state.details.track);
  const measured = measurement && measurement.joints.length === lane.stages.length + 1;
  const rows = measured ? gainStaging(lane, measurement, sampleRate) : [];
  const taker = punchTaker(rows);
  const joint = ({ integratedLufs, truePeakDbtp, plrLu }: JointFigures) =>
    [integratedLufs, truePeakDbtp, plrLu].map((value, i) => <TableCell key={i}>{figure(value)}</TableCell>);
  const save = () =>
    saveFile(`${track.position} ${track.title}, gain staging.csv`, Papa.unparse(gainStagingTable(rows)), 'text/csv');
  return (
    <Dialog open={open} onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>Gain staging</DialogTitle>
      <DialogContent>
        <Box role="status" sx={{ mb: 1.5 }}>
          {!measured && 'Still measuring: the figures follow.'}
          {measured &&
            (taker
              ? `Most of the punch went in “${taker.stage}”: its PLR is ${figure(-taker.plrLu)} LU lower after it.`
              : 'No stage costs half a LU of PLR or more.')}
        </Box>
        <Table
          size="small"
          aria-label="Gain staging"
          sx={{
            '& td': { fontFamily: FIGURE_FACE, textAlign: 'right', whiteSpace: 'nowrap' },
            '& th': { fontWeight: 600, textAlign: 'right', lineHeight: 1.3 },
            '& th:first-of-type': { textAlign: 'left' },
          }}
        >
          <TableHead>
            <TableRow>
              <TableCell>Stage</TableCell>
              {['in LUFS', 'in dBTP', 'in PLR', 'out LUFS', 'out dBTP', 'out PLR'].map((title) => (
                <TableCell key={title}>{title}</TableCell>
              ))}
              <TableCell>loudness, LU</TableCell>
              <TableCell>PLR, LU</TableCell>
              <TableCell>latency, ms</TableCell>
              <TableCell>oversampling, listening / delivery</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map((row) => (
              <TableRow
                key={row.id}
                hover
                sx={{ cursor: 'pointer', opacity: row.on ? 1 : 0.55 }}
                onClick={() => {
                  editor.openStage(row.id);
                  onClose();
                }}
              >
                <TableCell component="th" scope="row">
                  <ButtonBase sx={{ font: 'inherit' }}>
                    {row.stage}
                    {row.on ? '' : ', off'}
                  </ButtonBase>
                </TableCell>
                {joint(row.into)}
                {joint(row.out)}
                <TableCell>{change(row.loudnessLu)}</TableCell>
                <TableCell sx={row === taker ? { color: 'warning.main', fontWeight: 700 } : undefined}>
                  {row === taker ? '▼ ' : ''}
                  {change(row.plrLu)}
                </TableCell>
                <TableCell>{figure(row.latencyMs)}</TableCell>
                <TableCell>
                  {row.oversampling ? `${row.oversampling.listening}× / ${row.oversampling.delivery}×` : '–'}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
        <Box sx={{ mt: 1.5, fontSize: 12, color: 'text.secondary' }}>
          PLR is how far the true peak is above the loudness: losing it costs punch. Press a stage to open it.
        </Box>
      </DialogContent>
      <DialogActions>
        <Button
          color="inherit"
          sx={{ mr: 'auto' }}
          onClick={() => {
            onClose();
            onCompare();
          }}
        >
          Compare versions at equal loudness…
        </Button>
        <Button color="inherit" disabled={!measured} onClick={save}>
          Save as CSV
        </Button>
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
