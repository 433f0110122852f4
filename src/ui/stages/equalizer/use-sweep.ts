'use client';

import { useEffect, useState } from 'react';
import type { Stage } from '../../../core/lane/schema';
import { equalizerBand, MAX_BANDS } from '../../../core/stages/equalizer/settings';
import { sweepSettings, sweptBoost, sweptCut } from '../../../core/stages/equalizer/sweep';
import { figure } from '../../kit/format';
import { useEditor, useSelection } from '../../track/context';
import { remembered } from '../../kit/remembered';

/** Boost, width and depth of the sweep, remembered by the browser. */
export const useSweepSettings = remembered('sweep', sweepSettings);

export interface Sweep {
  armed: boolean;
  /** Where the boost is heard, in Hz; null while it is not. */
  frequencyHz: number | null;
  possible: boolean;
  arm(on: boolean): void;
  /** Moves the boost to a frequency; the first time begins the search. */
  search(frequencyHz: number): void;
  /** Ends the search: a cut stays where the boost was. */
  settle(): void;
  /** Ends the search and leaves nothing. */
  cancel(): void;
}

/** The hunt for what rings: a narrow boost is heard while it is moved, and becomes a cut. Only the cut is kept. */
export function useSweep(stage: Extract<Stage, { kind: 'equalizer' }>): Sweep {
  const editor = useEditor();
  const armed = useSelection((state) => state.sweeping);
  const [frequencyHz, setFrequency] = useState<number | null>(null);
  const { bands } = stage.settings;
  const possible = bands.length < MAX_BANDS;

  // Whoever leaves in the middle of a search hears the lane as it is again.
  const searching = frequencyHz !== null;
  useEffect(() => {
    if (!searching) return;
    return () => editor.audition.preview(null);
  }, [searching, editor]);

  const end = () => {
    setFrequency(null);
    editor.audition.preview(null);
  };
  return {
    armed: armed && possible,
    frequencyHz,
    possible,
    arm: (on) => editor.armSweep(on),
    search(at) {
      if (frequencyHz === null && !editor.transport.store.getState().playing) editor.transport.togglePlay();
      setFrequency(at);
      const boost = sweptBoost(at, useSweepSettings.getState());
      editor.audition.preview((stages) =>
        stages.map((each) =>
          each.id === stage.id && each.kind === 'equalizer'
            ? // Minimum phase, so that the ear follows the hand.
              { ...each, on: true, settings: { ...each.settings, phase: 'minimum', bands: [...bands, boost] } }
            : each,
        ),
      );
    },
    settle() {
      if (frequencyHz === null) return;
      const cut = equalizerBand.parse(sweptCut(frequencyHz, useSweepSettings.getState()));
      setFrequency(null);
      editor.lane.setStage(stage, `Sweep at ${figure(frequencyHz, 0)} Hz`, { bands: [...bands, cut] });
      editor.selection.openBand(bands.length);
      editor.armSweep(false);
      void editor.lane.flush();
    },
    cancel() {
      end();
      editor.armSweep(false);
    },
  };
}
