/** A simulated playback place as it is described. Every figure is ours; none is measured from a product. */
export interface Place {
  title: string;
  /** What it tells about a master. */
  help: string;
  /** Both channels come from one loudspeaker. */
  mono: boolean;
  /** Where it ends below and above: Butterworth, by its order. */
  highPass: { hz: number; order: 2 | 4 } | null;
  lowPass: { hz: number; order: 2 | 4 } | null;
  /** Where it rings or is weak. */
  bells: { hz: number; gainDb: number; q: number }[];
  /** What an ear gets of the opposite side: weaker, later, and duller. */
  crossing: { gainDb: number; seconds: number; lowPassHz: number } | null;
  /** Single echoes of the near walls, by turns from the same and the opposite side. */
  reflections: { seconds: number; gainDb: number }[];
  /** The sound that the place keeps: noise that decays by 60 dB in some seconds; its energy against the direct sound. */
  tail: { energyDb: number; decaySeconds: number; fromSeconds: number; lowPassHz: number } | null;
  /** Level in dBFS at which a tiny loudspeaker gives way softly; null for one that does not. */
  givesWayDbfs: number | null;
}

const PLAIN = {
  ...{ mono: false, highPass: null, lowPass: null, bells: [], crossing: null, reflections: [], tail: null },
  givesWayDbfs: null,
} satisfies Partial<Place>;

/** The simulated places. */
export const PLACES = {
  phone: {
    ...PLAIN,
    title: 'Phone',
    help: 'One tiny loudspeaker without bass. If the bass line disappears here, it needs harmonics, not level.',
    mono: true,
    highPass: { hz: 420, order: 4 },
    lowPass: { hz: 11000, order: 2 },
    bells: [
      { hz: 950, gainDb: 4, q: 1.6 },
      { hz: 3400, gainDb: 5, q: 1.8 },
    ],
    givesWayDbfs: -10,
  },
  laptop: {
    ...PLAIN,
    title: 'Laptop',
    help: 'Two small loudspeakers close together. Width collapses, and what is harsh around 4 kHz comes forward.',
    highPass: { hz: 190, order: 4 },
    lowPass: { hz: 15000, order: 2 },
    bells: [
      { hz: 620, gainDb: 3, q: 1.2 },
      { hz: 4200, gainDb: 3.5, q: 1.4 },
    ],
    crossing: { gainDb: -4, seconds: 0.00009, lowPassHz: 5000 },
    reflections: [{ seconds: 0.0011, gainDb: -9 }],
    givesWayDbfs: -7,
  },
  radio: {
    ...PLAIN,
    title: 'Kitchen radio',
    help: 'One loudspeaker in a box, in a small hard room. The balance of voice and everything else is all that is left.',
    mono: true,
    highPass: { hz: 110, order: 4 },
    lowPass: { hz: 7200, order: 2 },
    bells: [
      { hz: 170, gainDb: 4.5, q: 1.5 },
      { hz: 2300, gainDb: 3, q: 1.1 },
    ],
    reflections: [
      { seconds: 0.0037, gainDb: -11 },
      { seconds: 0.0089, gainDb: -15 },
    ],
    tail: { energyDb: -13, decaySeconds: 0.28, fromSeconds: 0.008, lowPassHz: 5000 },
    givesWayDbfs: -6,
  },
  car: {
    ...PLAIN,
    title: 'Car',
    help: 'A small cabin lifts the lowest octaves and thins the low middle. Too much bass is most obvious here.',
    lowPass: { hz: 13000, order: 2 },
    bells: [
      { hz: 58, gainDb: 7, q: 0.9 },
      { hz: 240, gainDb: -3.5, q: 1.1 },
      { hz: 1700, gainDb: 2, q: 1.3 },
    ],
    crossing: { gainDb: -5, seconds: 0.0004, lowPassHz: 3000 },
    reflections: [
      { seconds: 0.0013, gainDb: -8 },
      { seconds: 0.0024, gainDb: -10 },
      { seconds: 0.0041, gainDb: -13 },
    ],
    tail: { energyDb: -18, decaySeconds: 0.07, fromSeconds: 0.004, lowPassHz: 4000 },
  },
  television: {
    ...PLAIN,
    title: 'Television',
    help: 'Thin loudspeakers that point down or back, across a living room. Voices must stay clear.',
    highPass: { hz: 130, order: 4 },
    lowPass: { hz: 12000, order: 2 },
    bells: [
      { hz: 780, gainDb: 2.5, q: 1 },
      { hz: 2900, gainDb: -2.5, q: 1.2 },
    ],
    crossing: { gainDb: -3.5, seconds: 0.0002, lowPassHz: 4500 },
    reflections: [
      { seconds: 0.0021, gainDb: -7 },
      { seconds: 0.0074, gainDb: -12 },
    ],
    tail: { energyDb: -11, decaySeconds: 0.32, fromSeconds: 0.01, lowPassHz: 6000 },
  },
  tiled: {
    ...PLAIN,
    title: 'Tiled room',
    help: 'Everything rings. What is still understood here is arranged well; what blurs is too dense or too wet.',
    crossing: { gainDb: -6, seconds: 0.0003, lowPassHz: 6000 },
    reflections: [
      { seconds: 0.0046, gainDb: -5 },
      { seconds: 0.0071, gainDb: -6 },
      { seconds: 0.0112, gainDb: -7.5 },
    ],
    tail: { energyDb: 1, decaySeconds: 0.55, fromSeconds: 0.006, lowPassHz: 9000 },
  },
  nextRoom: {
    ...PLAIN,
    title: 'Next room, door open',
    help: 'Mostly bass and body come through the door. The beat and the tune should still carry.',
    mono: true,
    lowPass: { hz: 850, order: 2 },
    bells: [{ hz: 130, gainDb: 3, q: 0.8 }],
    tail: { energyDb: 0, decaySeconds: 0.38, fromSeconds: 0.005, lowPassHz: 1600 },
  },
  headphones: {
    ...PLAIN,
    title: 'Headphones, crossfed',
    help: 'For judging on headphones as if on loudspeakers: each ear gets some of the other side, later and duller.',
    crossing: { gainDb: -7, seconds: 0.00028, lowPassHz: 800 },
  },
} satisfies Record<string, Place>;

export type PlaceName = keyof typeof PLACES;
