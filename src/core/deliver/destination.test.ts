import { destinationSchema, STARTING_DESTINATIONS } from './destination';

test('a destination of the first form has TPDF, as its deliveries had', () => {
  const { dither, digitalSilence, ...rest } = STARTING_DESTINATIONS[2];
  expect([dither, digitalSilence]).toEqual(['TPDF', false]);
  expect(destinationSchema.parse({ ...rest, schema: 1 })).toEqual(STARTING_DESTINATIONS[2]);
});

test.each([
  ['no form at all', { ...STARTING_DESTINATIONS[0], schema: undefined, dither: undefined }],
  ['a form of the future', { ...STARTING_DESTINATIONS[0], schema: 3 }],
  ['an unknown dither', { ...STARTING_DESTINATIONS[0], dither: 'loud' }],
  ['nothing', null],
])('%s is refused', (_, saved) => {
  expect(destinationSchema.safeParse(saved).success).toBe(false);
});
