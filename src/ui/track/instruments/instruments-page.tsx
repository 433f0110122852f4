'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useRef } from 'react';
import { PPM_TYPES } from '../../../core/measure/ppm';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useHeard, useLane, useLiveReadings } from '../context';
import { KEYS } from '../key-table';
import {
  HEADROOMS,
  inkOf,
  INSTRUMENTS,
  instrumentPlace,
  placeKey,
  placesIn,
  useInstruments,
  VU_SCALES,
  VU_ZEROS,
  type InstrumentName,
  type VuScale,
} from './choice';
import { peakRule, PPM_RULE, vuRule, type RuleLevels } from './draw-rule';
import { Image } from './image';
import { Loudness } from './loudness';
import { Overs } from './overs';
import { PeakHolds } from './peak-holds';
import { RulePicture } from './rule-picture';
import { Choice, Pair, PLACES_BESIDE, Section } from './section';
import { Spectrum } from './spectrum';

const TITLES: Record<InstrumentName, string> = {
  peaks: 'Peaks',
  vu: 'VU',
  ppm: 'PPM',
  loudness: 'Loudness',
  image: 'Image',
  spectrum: 'Spectrum',
  overs: 'Overs',
};

/** What each instrument tells, and what it does not. */
const HELP: Record<InstrumentName, string> = {
  peaks:
    'Bar: sample peak. Pale: true peak, what a converter makes of the samples. Mark: the highest of the last 2 s. Peaks say whether it fits, not how loud it is. A scale with headroom puts its zero at your monitor gain.',
  vu: 'The mean over about a third of a second, as a needle would show it: close to how full it sounds, blind to peaks and to pitch. In per cent the loud part of the scale is wider.',
  ppm: 'A quasi-peak meter: it leaves out peaks too short to hear (type I after 5 ms, type II after 10 ms) and falls slowly, so that one can read it. Broadcasters line up by it; it says nothing about overs.',
  loudness:
    'Momentary: the last 0.4 s; short-term: the last 3 s; integrated: since playback began. PSR: the peak of the last 3 s over the short-term loudness; below 8 LU or so little punch is left. Below: the whole track, with range (LRA) and peak to loudness (PLR).',
  image:
    'Upright is mono, lying is out of phase. The rules show the correlation of left and right by band, from −1 to +1: what is left of the middle gets lost in mono.',
  spectrum: 'Mid filled, side as a line, with 3 dB per octave added so that music looks level.',
  overs: 'Every place at which the true peak of the master is over full scale. Click one to hear it.',
};

/** Height of a rule in pixels. */
const RULE_HEIGHT = 48;

const VU_SCALE_TITLES: Record<VuScale, string> = { decibels: 'in VU', percent: 'in per cent' };

/** Instruments at two places of the lane, side by side; `beside` the stage, or in its place. */
export function InstrumentsPage({
  beside = false,
  onClose,
  onBetweenSamples,
}: {
  beside?: boolean;
  onClose: () => void;
  onBetweenSamples: () => void;
}) {
  const editor = useEditor();
  const lane = useLane((state) => state.version.lane);
  const palette = usePalette();
  const choice = useInstruments();
  const { places, vuZeroDbfs, vuScale, headroomDb, ppm, shown } = choice;
  const set = useInstruments.setState;
  const live = useLiveReadings();
  const section = useRef<HTMLElement>(null);
  useEffect(() => {
    // What had the focus went with the stage; here it leaves Space to playback.
    if (document.activeElement === document.body) section.current?.focus();
  }, []);
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
  const heard = useHeard();
  const inks = { copper: palette.copper, patina: palette.patina, ink: palette.ink };
  const colorOf = (place: 0 | 1) => inks[inkOf(places[place], lane, heard.what.kind)];
  const titles = placesIn(lane);
  const name = (place: 0 | 1) => (place === 0 ? 'left column' : 'right column');
  const has = (each: InstrumentName) => shown.includes(each);
  return (
    <Box
      ref={section}
      component="section"
      aria-label="Instruments"
      tabIndex={0}
      sx={{ flex: 1, minHeight: 0, overflowY: 'auto', px: 2, py: 1 }}
    >
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
            sx={{
              ...{ py: 0, px: 1, minWidth: 0, minHeight: 26, borderRadius: 0, fontWeight: has(each) ? 650 : 400 },
              ...{ borderBottom: 2, borderColor: has(each) ? 'text.primary' : 'transparent' },
              color: has(each) ? 'text.primary' : 'text.secondary',
            }}
          >
            {TITLES[each]}
          </Button>
        ))}
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" onClick={onClose}>
          {beside ? 'Close' : 'Back to the stage'} ({KEYS.instruments.label})
        </Button>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: PLACES_BESIDE, columnGap: 3, mb: 0.5 }}>
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
          help={HELP.peaks}
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
                color={colorOf(place)}
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
          help={HELP.vu}
          controls={
            <>
              <Choice
                label="Zero of the VU"
                value={vuZeroDbfs}
                options={VU_ZEROS.map((db) => [db, `0 VU at ${String(db).replace('-', '−')} dBFS`] as const)}
                onChange={(next) => set({ vuZeroDbfs: next })}
              />
              <Choice
                label="Scale of the VU"
                value={vuScale}
                options={VU_SCALES.map((scale) => [scale, VU_SCALE_TITLES[scale]] as const)}
                onChange={(next) => set({ vuScale: next })}
              />
            </>
          }
        >
          <Pair
            height={RULE_HEIGHT}
            picture={(place) => (
              <RulePicture
                label={`VU, ${name(place)}`}
                color={colorOf(place)}
                rule={vuRule(vuZeroDbfs, vuScale)}
                levels={() => channels(place, (channel) => ({ barDbfs: at(place)!.vuDbfs[channel] }))}
              />
            )}
          />
        </Section>
      )}
      {has('ppm') && (
        <Section
          title="PPM"
          help={HELP.ppm}
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
                color={colorOf(place)}
                rule={PPM_RULE}
                levels={() => channels(place, (channel) => ({ barDbfs: at(place)!.ppmDbfs[channel] }))}
              />
            )}
          />
        </Section>
      )}
      {has('loudness') && (
        <Section title="Loudness, LUFS" help={HELP.loudness}>
          <Pair picture={(place) => <Loudness place={place} chosen={places[place]} color={colorOf(place)} />} />
        </Section>
      )}
      {has('image') && (
        <Section title="Image" help={HELP.image}>
          <Pair height={150} picture={(place) => <Image place={place} color={colorOf(place)} />} />
        </Section>
      )}
      {has('spectrum') && (
        <Section title="Spectrum" help={HELP.spectrum}>
          <Pair height={140} picture={(place) => <Spectrum place={place} color={colorOf(place)} />} />
        </Section>
      )}
      {has('overs') && (
        <Section title="Overs of the master" help={HELP.overs}>
          <Overs />
          <Button size="small" onClick={onBetweenSamples} sx={{ ml: -0.5 }}>
            Between the samples… ({KEYS.betweenSamples.label})
          </Button>
        </Section>
      )}
    </Box>
  );
}
