'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { trackDetailsSchema } from '../../contracts/track';
import { api } from '../api';
import { BetweenSamplesDialog } from './between-samples/between-samples-dialog';
import { BlindDialog } from './blind/blind-dialog';
import { BlindSheet } from './blind/blind-sheet';
import { ConflictDialog } from './conflict-dialog';
import { EditorProvider, useBlind, useEditor, useLane, useTrack, useTransport } from './context';
import { DeliverDialog } from './deliver/deliver-dialog';
import { DestinationList, Destinations } from './destinations';
import { EdgesButton, EdgesDialog } from './edges/edges-dialog';
import { GainStagingDialog } from './gain-staging';
import { Head } from './head';
import { HistoryList } from './history-list';
import { InstrumentsPage } from './instruments/instruments-page';
import { KeysDialog, useKeys } from './keys';
import { HandlesStrip } from './house/handles-strip';
import { LaneView } from './lane/lane-view';
import { useLayout } from './layout';
import { ListeningBar } from './listening-bar';
import { NotNormal } from './listening-place';
import { LoudComparisonDialog } from './loud-comparison';
import { Meters } from './meters';
import { Programme } from './programme/programme';
import { TrackEditor } from './track-editor';
import { takeAskedSecond } from './view-memory';
import { StagePanel } from '../stages/stage-panel';
import { useFocusOnEntry } from '../kit/focus-on-entry';
import { focusOn, SkipLinks } from '../kit/skip-links';

function Problem() {
  const editor = useEditor();
  const problem = useTrack((state) => state.problem);
  if (!problem) return null;
  return (
    <Alert
      severity="error"
      action={
        <>
          <Button color="inherit" onClick={() => editor.track.report(null)}>
            Dismiss
          </Button>
          <Button color="inherit" onClick={() => window.location.reload()}>
            Reload
          </Button>
        </>
      }
      sx={{ borderRadius: 0 }}
    >
      {problem}
    </Alert>
  );
}

/** What stays open next to the stage where there is room for it. */
const BESIDE = {
  ...{ width: 320, flexShrink: 0, borderLeft: 1, borderColor: 'divider', p: 1.5, minHeight: 0 },
  ...{ display: 'flex', flexDirection: 'column', gap: 2 },
} as const;

/** The instruments take what the stage can spare. */
const INSTRUMENTS_BESIDE = { ...BESIDE, width: 'clamp(400px, calc(100vw - 1290px), 760px)', p: 0, gap: 0 } as const;

/** Says that nothing can be heard although something plays. */
function SoundStopped() {
  const { transport } = useEditor();
  const stalled = useTransport((state) => state.stalled);
  if (!stalled) return null;
  return (
    <Alert
      severity="warning"
      action={
        <Button color="inherit" onClick={() => transport.restart()}>
          Try again
        </Button>
      }
      sx={{ borderRadius: 0 }}
    >
      No sound is coming out: the audio device has stopped, or none is connected. Connect or choose an output device;
      the music then goes on where it was.
    </Alert>
  );
}

function OpenTrack({ onMixChosen }: { onMixChosen: () => void }) {
  useFocusOnEntry();
  const editor = useEditor();
  const layout = useLayout();
  const conflict = useLane((state) => state.saving === 'conflict');
  const version = useLane((state) => state.version.name);
  const blindTests = useBlind((state) => state.open);
  const [delivering, setDelivering] = useState(false);
  const [keys, setKeys] = useState(false);
  const [figures, setFigures] = useState(false);
  const [comparing, setComparing] = useState(false);
  const [notes, setNotes] = useState(false);
  const [between, setBetween] = useState(false);
  const [edges, setEdges] = useState(false);
  const [instruments, setInstruments] = useState(false);
  const closeInstruments = () => setInstruments(false);
  useKeys({
    showKeys: () => setKeys(true),
    toggleFigures: () => setFigures((open) => !open),
    deliver: () => setDelivering(true),
    toggleInstruments: () => setInstruments((open) => !open),
    showBetweenSamples: () => setBetween(true),
    showEdges: () => setEdges(true),
    showNotes: () => {
      // What has the focus now gets it back when they close.
      focusOn('header [aria-label="Notes"]');
      setNotes(true);
    },
  });
  return (
    <Box
      sx={{
        ...(layout === 'phone' ? { minHeight: '100vh' } : { height: '100vh', minHeight: 720 }),
        ...{ display: 'flex', flexDirection: 'column' },
      }}
    >
      <SkipLinks
        links={[
          { title: 'Listening', onChoose: () => focusOn('[role="toolbar"] button') },
          { title: 'Lane', onChoose: () => focusOn('[aria-label="Lane"] button[aria-pressed="true"]') },
          { title: 'Open stage', onChoose: () => focusOn('[aria-label$=" stage"] :is(button, input)') },
          { title: 'Add a stage', onChoose: () => editor.offerStages() },
          { title: 'Deliver', onChoose: () => setDelivering(true) },
        ]}
      />
      <Head
        onDeliver={() => setDelivering(true)}
        onKeys={() => setKeys(true)}
        onMixChosen={onMixChosen}
        onCompare={() => setComparing(true)}
        notes={notes}
        onNotes={setNotes}
      />
      <Box
        component="main"
        tabIndex={-1}
        sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', outline: 'none !important' }}
      >
        <ListeningBar />
        <NotNormal />
        <Problem />
        <SoundStopped />
        {layout === 'phone' ? (
          <>
            <Programme />
            <Box sx={{ p: 1.5 }}>
              <DestinationList />
              <Box sx={{ mt: 2, color: 'text.secondary' }}>
                Open this page in a wider window to change the lane “{version}”.
              </Box>
            </Box>
          </>
        ) : (
          <Box sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
            <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
              <Box sx={{ position: 'relative', flexShrink: 0 }}>
                <Programme />
                <EdgesButton onOpen={() => setEdges(true)} />
              </Box>
              <HandlesStrip />
              <LaneView onFigures={() => setFigures(true)} />
              <Box sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
                <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
                  {instruments && layout !== 'wide' ? (
                    <InstrumentsPage onClose={closeInstruments} onBetweenSamples={() => setBetween(true)} />
                  ) : (
                    <StagePanel />
                  )}
                </Box>
                {layout === 'wide' && instruments && (
                  <Box component="aside" aria-label="Instruments beside the stage" sx={INSTRUMENTS_BESIDE}>
                    <InstrumentsPage beside onClose={closeInstruments} onBetweenSamples={() => setBetween(true)} />
                  </Box>
                )}
                {layout === 'wide' && !instruments && (
                  <Box component="aside" aria-label="Meters and history" sx={BESIDE}>
                    <Meters />
                    <HistoryList />
                  </Box>
                )}
              </Box>
            </Box>
            {layout !== 'narrow' && <Destinations />}
          </Box>
        )}
      </Box>
      {conflict && <ConflictDialog />}
      {blindTests && <BlindDialog />}
      {edges && <EdgesDialog onClose={() => setEdges(false)} />}
      {between && <BetweenSamplesDialog onClose={() => setBetween(false)} />}
      {delivering && <DeliverDialog onClose={() => setDelivering(false)} />}
      <GainStagingDialog open={figures} onClose={() => setFigures(false)} onCompare={() => setComparing(true)} />
      <LoudComparisonDialog open={comparing} onClose={() => setComparing(false)} />
      <KeysDialog open={keys} onClose={() => setKeys(false)} />
    </Box>
  );
}

/** The workspace, or a blind test that covers it. */
function Workspace({ onMixChosen }: { onMixChosen: () => void }) {
  const taken = useBlind((state) => state.taken);
  return taken ? <BlindSheet test={taken} /> : <OpenTrack onMixChosen={onMixChosen} />;
}

/** The workspace of one track. */
export function TrackView({ trackId }: { trackId: string }) {
  const [editor, setEditor] = useState<TrackEditor | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  /** Counts up to open the track again, as it was left. */
  const [opening, setOpening] = useState(0);

  useEffect(() => {
    let left = false;
    let opened: TrackEditor | null = null;
    api(trackDetailsSchema, `/api/tracks/${trackId}`)
      .then((details) => {
        if (left) return;
        opened = new TrackEditor(details);
        setEditor(opened);
        void opened.open(takeAskedSecond());
      })
      .catch((error: unknown) => setProblem(sentenceOf(error)));
    const flush = () => void opened?.lane.flush();
    // Steps that only this page has would be lost with it.
    const warn = (event: BeforeUnloadEvent) => {
      const unsaved = opened?.lane.store.getState().saving;
      if (unsaved === 'waiting' || unsaved === 'failed' || unsaved === 'conflict') event.preventDefault();
    };
    window.addEventListener('pagehide', flush);
    window.addEventListener('online', flush);
    window.addEventListener('beforeunload', warn);
    return () => {
      left = true;
      window.removeEventListener('pagehide', flush);
      window.removeEventListener('online', flush);
      window.removeEventListener('beforeunload', warn);
      opened?.close();
      setEditor(null);
    };
  }, [trackId, opening]);

  if (problem) return <Alert severity="error">{problem}</Alert>;
  if (!editor) return <LinearProgress aria-label="Opening the track" />;
  const { mix, release } = editor.track.details;
  if (mix?.status !== 'ready') {
    return (
      <Alert
        severity="info"
        action={
          <Button component={Link} href={`/releases/${release.id}`}>
            Go to the release
          </Button>
        }
      >
        The mix of this track is not ready yet. The release page shows its analysis.
      </Alert>
    );
  }
  return (
    <EditorProvider value={editor}>
      <Workspace onMixChosen={() => setOpening(opening + 1)} />
    </EditorProvider>
  );
}
