import { HOUSE_LANES } from '../src/core/house/ready-made';
import { READY_MADE } from '../src/core/deliver/ready-made';
import { handholdsOf } from '../src/core/deliver/meet';
import { draftWishesSchema } from '../src/core/draft/first-draft/request';
import { Kernels } from '../src/core/kernels/host';
import { Drafting } from '../src/engine/measure/drafting';
import { LaneMeasurer } from '../src/engine/measure/lane-measurer';
import { Meetings } from '../src/engine/measure/meetings';
import { renderPassage } from '../src/engine/measure/render-passage';
import { programme, reportOf } from '../tests/support/programme';
import { REFERENCE_LANE } from './core';
import { RATE, SECONDS } from './material';
import { medianMs, print } from './support';

const RUNS = 3;
const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;

/** How long it takes to begin: a first draft, a destination met, a house lane heard; four minutes of music. */
export async function benchBegin(): Promise<void> {
  const [streaming] = READY_MADE;
  const disc = READY_MADE.find(({ name }) => name === 'Disc')!;
  const plain = programme(SECONDS, RATE, { boxyDb: 9 });
  const faulty = programme(SECONDS, RATE, { boxyDb: 9, boomy: true, sibilants: true, bassPhase: 90, quietStartDb: 18 });
  const draft = (audio: typeof plain, destination: typeof disc, wishes: object) => {
    const report = reportOf(audio);
    return medianMs(RUNS, () => new Drafting(audio, report).draft(destination, draftWishesSchema.parse(wishes)));
  };
  const report = reportOf(plain);
  const lane = REFERENCE_LANE;
  const { master } = await new LaneMeasurer(plain).run(lane, { turn: () => Promise.resolve(), output: null });
  const meetings = new Meetings(plain, report.loudest, new Map());
  const [limiter] = handholdsOf(lane);
  const kernels = new Kernels();
  print('Beginning, four minutes at 44.1 kHz, one thread', [
    {
      what: 'first draft for Streaming, medium and clean',
      figure: seconds(await draft(plain, streaming, {})),
      aim: 'at most 6 s',
    },
    {
      what: 'first draft of a mix with every fault for Disc, strong and coloured',
      figure: seconds(await draft(faulty, disc, { intensityPercent: 100, character: 'coloured' })),
    },
    {
      what: 'what each way to meet costs, and how far loudness costs little',
      figure: seconds(
        await medianMs(RUNS, async () => {
          await meetings.propose(lane, streaming, master);
          await meetings.effortless(lane, limiter, master);
        }),
      ),
    },
    {
      what: 'the reference lane met by its limiter',
      figure: seconds(await medianMs(RUNS, () => meetings.meet(lane, streaming, limiter))),
      aim: 'at most 8 s',
    },
    {
      what: 'the loudest passage through a house lane',
      figure: seconds(
        await medianMs(RUNS, () => renderPassage(plain, report.loudest, HOUSE_LANES[1].lane, new Map(), kernels)),
      ),
      aim: 'at most 1 s',
    },
  ]);
}
