'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import { reading, readingText, readingUnit } from '../../../core/measure/reading';
import { PPM_TYPES } from '../../../core/measure/ppm';
import { Picture } from '../../kit/picture';
import { clock } from '../../kit/format';
import { SpectrumLine } from '../../stages/equalizer/spectrum-line';
import { drawVectorscope } from '../../stages/stereo/draw-vectorscope';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useLane, useLiveReadings, useMeasurements, useMixLength, useTransport } from '../context';
import { KEYS } from '../key-table';
import {
  HEADROOMS,
  INSTRUMENTS,
  instrumentPlace,
  placeKey,
  placesIn,
  useInstruments,
  VU_ZEROS,
  type InstrumentName,
} from './choice';
import { BandCorrelations, CORRELATION_BANDS } from './correlations';
import { drawRule, peakRule, PPM_RULE, vuRule, type Rule, type RuleLevels } from './draw-rule';
import { drawSpectrum, SPECTRUM_COLUMNS } from './draw-spectrum';
import { drawLoudnessHistogram, loudnessHistogram } from './loudness-histogram';
import { PeakHolds } from './peak-holds';

const TITLES: Record<InstrumentName, string> = {
  peaks: 'Peaks',
  vu: 'VU',
  ppm: 'PPM',
  loudness: 'Loudness',
  image: 'Image',
  spectrum: 'Spectrum',
  overs: 'Overs',
};

/** Height of a rule in pixels. */
const RULE_HEIGHT = 48;

function Choice<T extends string | number | null>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  const keys = options.map(([option]) => String(option));
  return (
    <Select
      size="small"
      variant="standard"
      disableUnderline
      value={String(value)}
      inputProps={{ 'aria-label': label }}
      onChange={({ target }) => onChange(options[keys.indexOf(target.value)][0])}
      sx={{ fontSize: 12.5, '& .MuiSelect-select': { py: 0, minHeight: 24, lineHeight: '24px' } }}
    >
      {options.map(([, title], i) => (
        <MenuItem key={keys[i]} value={keys[i]}>
          {title}
        </MenuItem>
      ))}
    </Select>
  );
}

function Section({ title, controls, children }: { title: string; controls?: ReactNode; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ borderTop: 1, borderColor: 'divider', pt: 0.5, mb: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, fontSize: 12.5, minHeight: 24 }}>
        <b>{title}</b>
        {controls}
      </Box>
      {children}
    </Box>
  );
}

/** Both places side by side, each drawn by `picture`. */
function Pair({ height, picture }: { height: number; picture: (place: 0 | 1) => ReactNode }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
      {([0, 1] as const).map((place) => (
        <Box key={place} sx={{ position: 'relative', height }}>
          {picture(place)}
        </Box>
      ))}
    </Box>
  );
}

/** A rule with both channels of a place. */
function RulePicture({ label, rule, levels }: { label: string; rule: Rule; levels: () => readonly RuleLevels[] }) {
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  return (
    <Picture
      label={label}
      moving={playing}
      draw={(surface) => drawRule(surface, rule, levels(), palette.patina, palette)}
    />
  );
}

/** Loudness at a place in large figures. */
function LoudnessFigures({ place }: { place: 0 | 1 }) {
  const live = useLiveReadings()?.instruments.at(place);
  const known = (value: number | undefined) => (value !== undefined && value > -80 ? value : null);
  const rows = [
    ['momentary', known(live?.momentaryLufs)],
    ['short-term', known(live?.shortTermLufs)],
    ['integrated', known(live?.integratedLufs)],
  ] as const;
  return (
    <Box sx={{ display: 'flex', gap: 3 }}>
      {rows.map(([name, value]) => {
        const figure = reading('loudness', value);
        return (
          <Box key={name}>
            <Box sx={{ fontFamily: FIGURE_FACE, fontSize: 26, lineHeight: 1.1 }}>{readingText(figure)}</Box>
            <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
              {name}, {readingUnit(figure)}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

function Image({ place }: { place: 0 | 1 }) {
  const { rings, board } = useEditor();
  const { sampleRate } = useMixLength();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const correlations = useRef(new BandCorrelations());
  const ring = rings[place];
  const lead = () => board.latest?.instruments.at(place)?.lead ?? 0;
  return (
    <Box sx={{ position: 'absolute', inset: 0, display: 'grid', gridTemplateColumns: '150px 1fr', gap: 1 }}>
      <Box sx={{ position: 'relative' }}>
        <Picture
          label="Vectorscope"
          moving={playing}
          draw={(surface) => drawVectorscope(surface, playing ? { ...ring, lead: lead() } : null, palette)}
        />
      </Box>
      <Box sx={{ position: 'relative' }}>
        <Picture
          label={`Correlation by bands: ${CORRELATION_BANDS.join(', ')}`}
          moving={playing}
          draw={({ context, width, height }) => {
            if (playing) correlations.current.update(ring.mid, ring.side, ring.written[0] - lead(), sampleRate);
            const row = height / CORRELATION_BANDS.length;
            const left = 96;
            const middle = left + (width - left) / 2;
            context.font = `12px ${FIGURE_FACE}`;
            correlations.current.values().forEach((value, i) => {
              const y = (i + 0.5) * row;
              context.fillStyle = palette.quiet;
              context.textAlign = 'left';
              context.fillText(CORRELATION_BANDS[i], 0, y + 4);
              context.fillStyle = palette.hairline;
              context.fillRect(left, y - 0.5, width - left, 1);
              context.fillRect(middle, y - row / 3, 1, (2 * row) / 3);
              if (value === null) return;
              context.fillStyle = value < 0 ? palette.brick : palette.patina;
              context.fillRect(middle + (value * (width - left)) / 2 - 2, y - row / 3, 4, (2 * row) / 3);
            });
          }}
        />
      </Box>
    </Box>
  );
}

function Spectrum({ place }: { place: 0 | 1 }) {
  const { rings, board } = useEditor();
  const { sampleRate } = useMixLength();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const lines = useMemo(() => [new SpectrumLine('medium', 3), new SpectrumLine('medium', 3)] as const, []);
  const ring = rings[place];
  return (
    <Picture
      label="Spectrum of mid and side"
      moving={playing}
      draw={(surface) => {
        const end = ring.written[0] - (board.latest?.instruments.at(place)?.lead ?? 0);
        if (playing) {
          lines[0].update(ring.mid, end, SPECTRUM_COLUMNS, sampleRate);
          lines[1].update(ring.side, end, SPECTRUM_COLUMNS, sampleRate);
        }
        drawSpectrum(surface, lines[0].levels, lines[1].levels, palette);
      }}
    />
  );
}

/** Overs of the whole master, to go to. */
function Overs() {
  const editor = useEditor();
  const { sampleRate } = useMixLength();
  const overs = useMeasurements((state) => state.measurement?.master.overs);
  if (!overs) return <Box sx={{ color: 'text.secondary' }}>The track is being measured.</Box>;
  if (overs.length === 0) return <Box>No true peak of the master is over full scale.</Box>;
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
      {Array.from(overs, (seconds, i) => (
        <Button
          key={i}
          size="small"
          color="inherit"
          onClick={() => editor.transport.seek(Math.round(seconds * sampleRate))}
          sx={{ fontFamily: FIGURE_FACE, minWidth: 0, py: 0 }}
        >
          {clock(seconds, 1)}
        </Button>
      ))}
    </Box>
  );
}

/** Instruments at two places of the lane, side by side: like a page of a laboratory notebook. */
export function InstrumentsPage({ onClose }: { onClose: () => void }) {
  const editor = useEditor();
  const lane = useLane((state) => state.version.lane);
  const palette = usePalette();
  const choice = useInstruments();
  const { places, vuZeroDbfs, headroomDb, ppm, shown } = choice;
  const set = useInstruments.setState;
  const shortTerm = useMeasurements((state) => state.measurement?.master.shortTerm);
  const histogram = useMemo(() => shortTerm && loudnessHistogram(shortTerm), [shortTerm]);
  const live = useLiveReadings();
  const playing = useTransport((state) => state.playing);
  const holds = useRef([new PeakHolds(), new PeakHolds()] as const);
  useEffect(() => {
    editor.measureAt(
      places.map((place) => instrumentPlace(place, lane)),
      ppm,
    );
  }, [editor, places, lane, ppm]);
  useEffect(() => () => editor.measureAt([], 'I'), [editor]);
  const at = (place: 0 | 1) => editor.board.latest?.instruments.at(place);
  const channels = (place: 0 | 1, of: (channel: 0 | 1) => RuleLevels) => (at(place) ? [of(0), of(1)] : []);
  const titles = placesIn(lane);
  const name = (place: 0 | 1) => (place === 0 ? 'left column' : 'right column');
  const has = (each: InstrumentName) => shown.includes(each);
  return (
    <Box component="section" aria-label="Instruments" sx={{ flex: 1, minHeight: 0, overflowY: 'auto', px: 2, py: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, mb: 1, flexWrap: 'wrap' }}>
        <Typography variant="h2" sx={{ fontSize: 14, mr: 1 }}>
          Instruments
        </Typography>
        {INSTRUMENTS.map((each) => (
          <Button
            key={each}
            size="small"
            color="inherit"
            aria-pressed={has(each)}
            onClick={() => set({ shown: has(each) ? shown.filter((other) => other !== each) : [...shown, each] })}
            sx={{ py: 0, minHeight: 26, ...(has(each) && { bgcolor: 'text.primary', color: 'background.default' }) }}
          >
            {TITLES[each]}
          </Button>
        ))}
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" onClick={onClose}>
          Back to the stage ({KEYS.instruments.label})
        </Button>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3, mb: 0.5 }}>
        {([0, 1] as const).map((place) => (
          <Choice
            key={place}
            label={`Place of the ${name(place)}`}
            value={placeKey(places[place])}
            options={titles.map((each) => [placeKey(each.place), each.title] as const)}
            onChange={(key) => {
              const chosen = titles.find((each) => placeKey(each.place) === key)!.place;
              set({ places: place === 0 ? [chosen, places[1]] : [places[0], chosen] });
            }}
          />
        ))}
      </Box>
      {has('peaks') && (
        <Section
          title="Peaks"
          controls={
            <Choice
              label="Headroom of the scale"
              value={headroomDb}
              options={HEADROOMS.map((db) => [db, db === null ? 'up to full scale' : `${db} dB headroom`] as const)}
              onChange={(next) => set({ headroomDb: next })}
            />
          }
        >
          <Pair
            height={RULE_HEIGHT}
            picture={(place) => (
              <RulePicture
                label={`Sample and true peak, ${name(place)}`}
                rule={peakRule(headroomDb)}
                levels={() =>
                  channels(place, (channel) => ({
                    barDbfs: at(place)!.samplePeaksDbfs[channel],
                    paleDbfs: at(place)!.truePeaksDbtp[channel],
                    markDbfs: holds.current[place].hold(channel, at(place)!.truePeaksDbtp[channel], live),
                  }))
                }
              />
            )}
          />
        </Section>
      )}
      {has('vu') && (
        <Section
          title="VU"
          controls={
            <Choice
              label="Zero of the VU"
              value={vuZeroDbfs}
              options={VU_ZEROS.map((db) => [db, `0 VU at ${String(db).replace('-', '−')} dBFS`] as const)}
              onChange={(next) => set({ vuZeroDbfs: next })}
            />
          }
        >
          <Pair
            height={RULE_HEIGHT}
            picture={(place) => (
              <RulePicture
                label={`VU, ${name(place)}`}
                rule={vuRule(vuZeroDbfs)}
                levels={() => channels(place, (channel) => ({ barDbfs: at(place)!.vuDbfs[channel] }))}
              />
            )}
          />
        </Section>
      )}
      {has('ppm') && (
        <Section
          title="PPM"
          controls={
            <Choice
              label="Type of the PPM"
              value={ppm}
              options={PPM_TYPES.map((type) => [type, `type ${type}`] as const)}
              onChange={(next) => set({ ppm: next })}
            />
          }
        >
          <Pair
            height={RULE_HEIGHT}
            picture={(place) => (
              <RulePicture
                label={`PPM, ${name(place)}`}
                rule={PPM_RULE}
                levels={() => channels(place, (channel) => ({ barDbfs: at(place)!.ppmDbfs[channel] }))}
              />
            )}
          />
        </Section>
      )}
      {has('loudness') && (
        <Section title="Loudness">
          <Pair height={50} picture={(place) => <LoudnessFigures place={place} />} />
          {histogram && (
            <Box sx={{ position: 'relative', height: 84, mt: 1 }}>
              <Picture
                label="How often the master has each short-term loudness; the mark is where it is now"
                moving={playing}
                draw={(surface) =>
                  drawLoudnessHistogram(
                    surface,
                    histogram,
                    editor.board.latest?.instruments.at(1)?.shortTermLufs ?? -Infinity,
                    palette.patina,
                    palette,
                  )
                }
              />
            </Box>
          )}
        </Section>
      )}
      {has('image') && (
        <Section title="Image">
          <Pair height={150} picture={(place) => <Image place={place} />} />
        </Section>
      )}
      {has('spectrum') && (
        <Section title="Spectrum">
          <Pair height={140} picture={(place) => <Spectrum place={place} />} />
        </Section>
      )}
      {has('overs') && (
        <Section title="Overs of the master">
          <Overs />
        </Section>
      )}
    </Box>
  );
}
