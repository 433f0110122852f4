import { bandRegion } from '../bands/region';
import { defineStage } from '../definition';
import { StereoProcessor } from './processor';
import { stereoSettings } from './settings';

export const stereo = defineStage({
  order: 60,
  title: 'Stereo',
  summary: 'Sets width, mono bass and channel balance',
  help: 'Good for a bass that stays solid in mono, a narrow mix that wants air, or channels out of balance. Raising the side costs level in mono: watch what is lost in mono.',
  schema: stereoSettings,
  create: (context, settings) => new StereoProcessor(context, settings),
  figure: ({ widthsPercent, monoBelow, monoUpperHz }, bands) => {
    const used = widthsPercent.slice(0, bands);
    const [least, most] = [Math.min(...used), Math.max(...used)];
    if (least === 100 && most === 100 && monoBelow) return { text: `mono < ${monoUpperHz} Hz` };
    return { text: least === most ? `${least} % wide` : `${least}–${most} %` };
  },
  traits: {
    scales: ({ widthsPercent }) => [
      ...widthsPercent.map((_, i) => ({ control: `widthsPercent.${i}`, neutral: 100 })),
      { control: 'midSideDb', neutral: 0 },
    ],
    byBands: {
      withBands: (settings, change) => ({ ...settings, widthsPercent: change(settings.widthsPercent, 100) }),
    },
    region: (_, band, crossovers) => bandRegion(crossovers, band),
    measures: { spectra: true, image: true },
  },
});
