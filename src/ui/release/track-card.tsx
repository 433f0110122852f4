'use client';

import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import DragIcon from '@mui/icons-material/DragIndicator';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import Paper from '@mui/material/Paper';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { type Finding } from '../../core/measure/findings';
import { sendBackText } from '../../core/measure/send-back';
import {
  type ChangeTrack,
  type MixSummary,
  type ReleaseDetail,
  type TrackSummary,
  trackParticularsSchema,
} from '../../contracts/release';
import { useUploads, type UploadRow } from '../releases/uploads';
import { reading, readingWords } from '../../core/measure/reading';
import { audioFormat, clock } from '../kit/format';
import { ActionsMenu } from '../kit/actions-menu';
import { EditableTitle } from '../kit/editable-title';
import { ApprovalLine } from './approval-line';
import { FindingsList } from './findings-list';
import { IntakeFigures } from './intake-figures';
import { MasterState } from './master-state';
import { MoveTrackDialog } from './move-track-dialog';
import { MixList } from './mix-list';
import type { Facts } from '../../core/deliver/facts';
import { ParticularsDialog, TRACK_FIELDS } from './particulars-dialog';

/** An upload under way, or why it failed. */
export function UploadStrip({ row }: { row: UploadRow }) {
  const dismiss = useUploads((store) => store.dismiss);
  if (row.problem) {
    return (
      <Alert severity="error" onClose={() => dismiss(row.key)}>
        {row.problem}
      </Alert>
    );
  }
  return (
    <Paper
      variant="outlined"
      sx={{ px: 2, py: 1.25, display: 'grid', gridTemplateColumns: '1fr 240px 80px', gap: 2, alignItems: 'center' }}
    >
      <Typography noWrap>{row.fileName}</Typography>
      <LinearProgress variant="determinate" value={row.share * 100} aria-label={`Upload of ${row.fileName}`} />
      <Button onClick={row.cancel} color="inherit">
        Cancel
      </Button>
    </Paper>
  );
}

/** How far the analysis of a mix is, or why it was refused. */
function MixState({ mix, onRemove }: { mix: MixSummary; onRemove: () => void }) {
  if (mix.status === 'ready') return null;
  if (mix.status === 'refused') {
    return (
      <Alert severity="error" action={<Button onClick={onRemove}>Remove</Button>}>
        {mix.fileName}: {mix.refusal}
      </Alert>
    );
  }
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 80px', gap: 2, alignItems: 'center' }}>
      <Box>
        <Typography color="textSecondary">
          {mix.heldBecause ?? (mix.status === 'waiting' ? 'In the queue for analysis' : 'Analysing the mix')}
        </Typography>
        <LinearProgress variant="determinate" value={mix.progress * 100} aria-label={`Analysis of ${mix.fileName}`} />
      </Box>
      <Button onClick={onRemove} color="inherit">
        Cancel
      </Button>
    </Box>
  );
}

/** A text for the client, ready to paste, when a mix is better sent back. */
function SendBack({ title, fileName, findings }: { title: string; fileName: string; findings: Finding[] }) {
  const [copied, setCopied] = useState(false);
  const text = sendBackText(title, fileName, findings);
  if (!text) return null;
  return (
    <Box>
      <Button
        variant="outlined"
        onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}
        onBlur={() => setCopied(false)}
      >
        {copied ? 'Copied: paste it into an e-mail' : 'Copy note for the client'}
      </Button>
    </Box>
  );
}

/** What intake found, as a sheet for the client. */
function IntakeReportLinks({ mixId }: { mixId: string }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
      <Typography color="textSecondary">Report for the client:</Typography>
      {(['pdf', 'txt'] as const).map((form) => (
        <Button key={form} component="a" href={`/api/mixes/${mixId}/report?form=${form}`} download color="inherit">
          {form === 'pdf' ? 'PDF' : 'Text'}
        </Button>
      ))}
    </Box>
  );
}

/** Takes a corrected mix of a track. */
function NextMix({ number, onFile }: { number: number; onFile: (file: File) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Tooltip title="A corrected mix goes under the same versions; you can switch back to the older one">
        <Button color="inherit" onClick={() => input.current?.click()}>
          Upload mix {number}…
        </Button>
      </Tooltip>
      <input
        ref={input}
        type="file"
        hidden
        aria-label={`Mix ${number} to upload`}
        onChange={({ target }) => {
          if (target.files?.[0]) onFile(target.files[0]);
          target.value = '';
        }}
      />
    </>
  );
}

/** What can be done with a track in the list. */
export interface TrackActions {
  /** Drops a track whose mix never was ready. */
  cancel: () => void;
  remove: () => void;
  copy: () => void;
  /** Moves it by one place. */
  move: (by: -1 | 1) => void;
  rename: (title: string) => void;
  /** Rejects with a sentence when it could not be saved. */
  change: (changes: ChangeTrack) => Promise<void>;
  removeMix: (mix: MixSummary) => void;
  chooseMix: (mix: MixSummary) => void;
  putIn: (file: File) => void;
  /** Moves it to another release; rejects with a sentence. */
  moveTo: (releaseId: string) => Promise<void>;
}

/** A track of a release: its mixes with what was found in them, and what can be done with it. */
export function TrackCard({
  track,
  releaseId,
  destinations,
  adjustments,
  facts,
  last,
  uploads,
  actions,
}: {
  track: TrackSummary;
  releaseId: string;
  destinations: ReleaseDetail['destinations'];
  adjustments: ReleaseDetail['adjustments'];
  /** Of its master; null until it was measured. */
  facts: Facts | null;
  last: boolean;
  uploads: UploadRow[];
  actions: TrackActions;
}) {
  const { id, title, position, mix, mixes, deliveries, master } = track;
  const [open, setOpen] = useState(false);
  const [editing, setEditing] = useState(false);
  const [moving, setMoving] = useState(false);
  const { setNodeRef, setActivatorNodeRef, listeners, attributes, transform, transition, isDragging } = useSortable({
    id,
  });
  const router = useRouter();
  const only = mixes.length < 2;
  const report = mix?.status === 'ready' ? mix.report : null;
  return (
    <Paper
      ref={setNodeRef}
      variant="outlined"
      component="article"
      aria-label={title}
      sx={{
        ...{ p: { xs: 1.5, sm: 2.5 }, display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 1.5 },
        position: 'relative',
        zIndex: isDragging ? 1 : 0,
      }}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <Box sx={{ display: 'flex', flexWrap: { xs: 'wrap', md: 'nowrap' }, alignItems: 'center', gap: 1.5 }}>
        <Tooltip title="Drag to reorder; by key: Space, then the arrows, then Space">
          <IconButton
            ref={setActivatorNodeRef}
            size="small"
            {...attributes}
            {...listeners}
            aria-label={`Move ${title}`}
            sx={{ cursor: 'grab', ml: -1, touchAction: 'none' }}
          >
            <DragIcon fontSize="small" />
          </IconButton>
        </Tooltip>
        <EditableTitle
          variant="h2"
          before={`${position} · `}
          title={title}
          schema={trackParticularsSchema.shape.title}
          onRename={actions.rename}
        />
        <Typography
          color="textSecondary"
          noWrap
          sx={{ flex: { xs: '1 0 100%', md: 1 }, order: { xs: 1, md: 0 }, minWidth: 0 }}
        >
          {mix && `Mix ${mix.number}, ${mix.source.container}, ${audioFormat(mix.source)}`}
          {report &&
            `, ${clock(report.durationSeconds)} min, ${readingWords(reading('loudness', report.integratedLufs))}, ${readingWords(reading('truePeak', report.headroomDb === null ? null : -report.headroomDb))}`}
        </Typography>
        {report && (
          <>
            <NextMix number={mixes[0].number + 1} onFile={actions.putIn} />
            <Button color="inherit" onClick={() => setOpen(!open)} aria-expanded={open}>
              {open ? 'Fewer figures' : 'All figures'}
            </Button>
            <Button component={Link} prefetch href={`/tracks/${id}`} variant="contained">
              Open
            </Button>
          </>
        )}
        <ActionsMenu
          of={title}
          actions={[
            { title: 'Particulars…', onChoose: () => setEditing(true) },
            { title: 'Handles on a phone…', onChoose: () => router.push(`/handles/${id}`), disabled: !report },
            { title: 'Duplicate', onChoose: actions.copy, disabled: !report },
            { title: 'Move up', onChoose: () => actions.move(-1), disabled: position === 1 },
            { title: 'Move down', onChoose: () => actions.move(1), disabled: last },
            { title: 'Move to another release…', onChoose: () => setMoving(true) },
            { title: 'Delete', onChoose: actions.remove },
          ]}
        />
      </Box>
      {editing && (
        <ParticularsDialog
          title={`Particulars of ${title}`}
          fields={TRACK_FIELDS}
          schema={trackParticularsSchema}
          values={track}
          onSave={actions.change}
          onClose={() => setEditing(false)}
        />
      )}
      {moving && <MoveTrackDialog {...{ title, releaseId }} onMove={actions.moveTo} onClose={() => setMoving(false)} />}
      {uploads.map((row) => (
        <UploadStrip key={row.key} row={row} />
      ))}
      {mixes.map((each) => (
        <MixState key={each.id} mix={each} onRemove={only ? actions.cancel : () => actions.removeMix(each)} />
      ))}
      {report && master && <MasterState {...{ title, master, destinations, adjustments, deliveries, facts }} />}
      {track.approval && <ApprovalLine approval={track.approval} />}
      {report && <FindingsList findings={report.findings} />}
      {report && <SendBack title={title} fileName={mix!.fileName} findings={report.findings} />}
      <MixList track={track} onChoose={actions.chooseMix} onRemove={actions.removeMix} />
      {report && open && (
        <>
          <IntakeFigures source={mix!.source} report={report} />
          <IntakeReportLinks mixId={mix!.id} />
        </>
      )}
    </Paper>
  );
}
