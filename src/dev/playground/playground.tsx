'use client';

import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import Link from '@mui/material/Link';
import Switch from '@mui/material/Switch';
import { useEffect, useMemo, useState } from 'react';
import { STAGE_KINDS, STAGES, type StageKind } from '../../core/stages/registry';
import { ThemeSwitch } from '../../ui/kit/theme-switch';
import { StagePanel } from '../../ui/stages/stage-panel';
import { EditorProvider } from '../../ui/track/context';
import type { TrackEditor } from '../../ui/track/track-editor';
import { openPlaygroundTrack, playgroundAudio } from './playground-track';

/**
 * The panel of each kind of stage with made-up music, for work on it and for pictures of it: nothing is heard and nothing is
 * saved. `stage` names the kind, `playing` shows it as while playing.
 */
export function Playground({ stage, playing }: { stage?: string; playing: boolean }) {
  const kind: StageKind = STAGE_KINDS.find((each) => each === stage) ?? STAGE_KINDS[0];
  const [editor, setEditor] = useState<TrackEditor | null>(null);
  const [plays, setPlays] = useState(playing);
  const audio = useMemo(() => (typeof window === 'undefined' ? null : playgroundAudio()), []);

  useEffect(() => {
    if (!audio) return;
    const opened = openPlaygroundTrack(kind, audio);
    setEditor(opened);
    return () => opened.close();
  }, [kind, audio]);
  useEffect(() => editor?.transport.report(plays, 0), [editor, plays]);

  const address = (each: StageKind) => `/playground?stage=${each}${plays ? '&playing=yes' : ''}`;
  return (
    <Box sx={{ p: 2 }}>
      <Box component="nav" aria-label="Stages" sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 2 }}>
        {STAGE_KINDS.map((each) => (
          <Link
            key={each}
            href={address(each)}
            aria-current={each === kind}
            underline={each === kind ? 'always' : 'hover'}
          >
            {STAGES[each].title}
          </Link>
        ))}
        <Box sx={{ flex: 1 }} />
        <FormControlLabel
          control={<Switch checked={plays} onChange={(_, on) => setPlays(on)} />}
          label="As while playing"
        />
        <ThemeSwitch />
      </Box>
      <Box component="main" sx={{ height: 440, display: 'flex', border: 1, borderColor: 'divider' }}>
        {editor && (
          <EditorProvider value={editor}>
            <StagePanel />
          </EditorProvider>
        )}
      </Box>
    </Box>
  );
}
