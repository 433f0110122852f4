import { defineStage, type SavedSettings, type SavedStage } from '../definition';
import { EqualizerProcessor } from './processor';
import { regionBands } from './region';
import { equalizerSettings, FLAT_PASS_Q } from './settings';

/** Until lane schema 5 the Q of a pass did nothing: it becomes the one that is flat. */
function withFlatPasses(saved: SavedSettings): SavedSettings {
  const flat = (band: unknown): unknown => {
    const { shape } = (band ?? {}) as { shape?: unknown };
    return shape === 'highPass' || shape === 'lowPass' ? { ...(band as object), q: FLAT_PASS_Q } : band;
  };
  const inState = (state: SavedSettings): SavedSettings =>
    Array.isArray(state.bands) ? { ...state, bands: state.bands.map(flat) } : state;
  const { other } = saved;
  const migrated = inState(saved);
  return other !== null && typeof other === 'object'
    ? { ...migrated, other: inState(other as SavedSettings) }
    : migrated;
}

/** Until lane schema 6 the equalizer alone had two states of what it sounds like: they become its alternatives. */
function withAlternatives({ settings, ...stage }: SavedStage): SavedStage {
  const { state, other, ...heard } = settings;
  if (other === null || typeof other !== 'object') return { ...stage, settings: heard };
  const second = state === 2;
  const unheard = { ...heard, ...other };
  return {
    ...stage,
    settings: heard,
    alternatives: [
      { name: 'A', settings: second ? unheard : null },
      { name: 'B', settings: second ? null : unheard },
    ],
  };
}

export const equalizer = defineStage({
  order: 20,
  title: 'Equalizer',
  summary: 'Corrects and colours the tonal balance',
  help: 'Good for taking out what rings or booms, and for broad strokes. Boosts cost headroom; the phase shifts where the curve bends, as in an analogue equalizer.',
  notes:
    'Gain works on bells, shelves and tilts; Q on bells, shelves, notches, band-passes and, as resonance, on passes of 12 dB/octave; the slope on high-pass and low-pass. Bells and shelves can follow the level: that of what is in the band (beyond a shelf’s midpoint), of the louder channel where the band works on both; a tone reads its peak. In linear phase a band that follows the level keeps minimum phase.',
  schema: equalizerSettings,
  create: (context, settings) => new EqualizerProcessor(context, settings),
  figure({ bands }) {
    const on = bands.filter((band) => band.on).length;
    return { text: `${on} ${on === 1 ? 'band' : 'bands'}` };
  },
  traits: {
    scales: () => [{ control: 'scalePercent', neutral: 0 }],
    sweeps: true,
    region: ({ bands }, band) => (bands[band] ? regionBands(bands[band]) : []),
    measures: { spectra: true },
  },
  migrations: { 5: withFlatPasses },
  stageMigrations: { 6: withAlternatives },
});
