import { recordedSurface } from '../../../../tests/support/surface';
import { bandSections } from '../../../core/stages/equalizer/design';
import { equalizerSettings } from '../../../core/stages/equalizer/settings';
import { crossoversSchema } from '../../../core/stages/bands/crossovers';
import { DAYLIGHT } from '../../theme/palette';
import { drawBandSpectrum } from '../bands/draw-band-spectrum';
import { drawDeEsser } from '../de-esser/draw-de-esser';
import { drawEqualizer } from './draw-equalizer';
import { LEFT, RIGHT, shareOf, TOP } from './equalizer-axes';
import { spectrumColumns } from './spectrum-line';

const RATE = 48000;
const [WIDTH, HEIGHT] = [600, 228];
const PLOT = WIDTH - LEFT - RIGHT;
const [bell] = equalizerSettings.parse({ bands: [{ shape: 'bell', frequencyHz: 1000, gainDb: 6, q: 1 }] }).bands;
const sections = bandSections(bell, RATE);
const flat = (db: number) => new Float32Array(spectrumColumns(WIDTH)).fill(db);
const nothing = { before: new Float32Array(0), after: new Float32Array(0) };
const placeOf = (hz: number) => LEFT + shareOf(hz) * PLOT;
/** Point of a line nearest to a frequency. */
const at = (points: [number, number][], hz: number) =>
  points.reduce((best, point) => (Math.abs(point[0] - placeOf(hz)) < Math.abs(best[0] - placeOf(hz)) ? point : best));

test('the curve of a bell is highest at its frequency, by its gain', () => {
  const surface = recordedSurface(WIDTH, HEIGHT);
  const curves = { rest: sections, far: null, parts: [] };
  const picture = { range: 12, sampleRate: RATE, curves, current: sections, on: true, open: null };
  drawEqualizer(
    surface,
    picture,
    { layers: [], live: nothing, held: flat(-100), average: nothing, reference: null },
    DAYLIGHT,
  );
  const { points } = surface.paths.at(-1)!;
  const [, top] = points.reduce((best, point) => (point[1] < best[1] ? point : best));
  expect(top).toBeCloseTo(TOP + 50, 0);
  expect(at(points, 1000)[1]).toBeCloseTo(TOP + 50, 0);
  expect(at(points, 20)[1]).toBeCloseTo(TOP + 100, 0);
});

test('spectra are drawn only as they are asked for, and what the stage changes as dB against its own scale', () => {
  const curves = { rest: [], far: null, parts: [] };
  const picture = { range: 12, sampleRate: RATE, curves, current: [], on: true, open: null };
  const live = { before: flat(-40), after: flat(-34) };
  const paths = (
    layers: ('before' | 'after' | 'difference')[],
    reference: { title: string; levels: Float32Array } | null = null,
  ) => {
    const surface = recordedSurface(WIDTH, HEIGHT);
    drawEqualizer(surface, picture, { layers, live, held: flat(-30), average: nothing, reference }, DAYLIGHT);
    return surface.paths.slice(0, -1);
  };
  expect(paths([])).toEqual([]);
  expect(paths(['before', 'after']).map(({ color, filled }) => [color, filled])).toEqual([
    [DAYLIGHT.patina, true],
    [DAYLIGHT.copper, false],
  ]);
  // A reference is ink, with gaps where it has nothing.
  const levels = flat(-40).fill(NaN, 100);
  const [line] = paths([], { title: 'Known record', levels });
  expect([line.color, line.points.length]).toEqual([DAYLIGHT.ink, 100]);
  expect(line.points[10][1]).toBe(paths(['before'])[0].points[10][1]);
  const [difference] = paths(['difference']);
  expect(difference.dashed).toBe(true);
  expect(difference.points[10][1]).toBeCloseTo(TOP + 50, 6);
});

test('the region of a de-esser is highest where all of it is heard', () => {
  const surface = recordedSurface(WIDTH, HEIGHT);
  const [band] = equalizerSettings.parse({ bands: [{ shape: 'bandPass', frequencyHz: 6000, q: 2 }] }).bands;
  drawDeEsser(surface, { region: bandSections(band, RATE), sampleRate: RATE, levels: nothing }, DAYLIGHT);
  const { points } = surface.paths.find(({ color }) => color === DAYLIGHT.ochre)!;
  expect(at(points, 6000)[1]).toBeLessThan(at(points, 2000)[1]);
  expect(at(points, 6000)[1]).toBeLessThan(at(points, 15000)[1]);
});

test('bands are named between their crossovers, the open one is filled, and more can be drawn into each', () => {
  const surface = recordedSurface(WIDTH, HEIGHT);
  const crossovers = crossoversSchema.parse({ frequenciesHz: [200, 2000] });
  const edges: number[][] = [];
  const draw = (_: unknown, band: number, from: number, to: number) => void edges.push([band, from, to]);
  const names = ['low', 'middle', 'high'];
  drawBandSpectrum(surface, { crossovers, open: 1, names, levels: nothing, draw }, DAYLIGHT);
  const middle = surface.texts.find(({ text }) => text === 'middle')!;
  expect(middle.x).toBeCloseTo((placeOf(200) + placeOf(2000)) / 2, 6);
  expect(surface.boxes.find(({ color }) => color === DAYLIGHT.sunken)!.x).toBeCloseTo(placeOf(200), 6);
  expect(edges.map(([band]) => band)).toEqual([0, 1, 2]);
  expect(edges[0][2]).toBeCloseTo(edges[1][1], 6);
});
