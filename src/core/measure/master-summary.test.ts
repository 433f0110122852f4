import { OUTLINE_COLUMNS, masterSummary, masterSummarySchema, outlineOf } from './master-summary';

test.each([1, 7, OUTLINE_COLUMNS, 1000, 12_345])(
  'no peak of a picture of %d columns is lost in its outline',
  (columns) => {
    const picture = Float32Array.from({ length: columns * 2 }, (_, i) => (i & 1 ? 0.25 : -0.25));
    picture[columns * 2 - 1] = 0.75;
    picture[0] = -0.5;
    const outline = outlineOf(picture);
    expect(outline).toHaveLength(OUTLINE_COLUMNS * 2);
    expect(outline[0]).toBe(-0.5);
    expect(outline.at(-1)).toBe(0.75);
    // Between the two there is nothing else.
    const body = outline.filter((value) => value !== -0.5 && value !== 0.75);
    expect(new Set(body)).toEqual(new Set(columns === 1 ? [] : [-0.25, 0.25]));
  },
);

test('silence has no level, and its summary is still one', () => {
  const nothing = {
    ...{ integratedLufs: -Infinity, maxShortTermLufs: -Infinity, maxMomentaryLufs: -Infinity },
    ...{ rangeLu: 0, plrLu: NaN },
    ...{ truePeakDbtp: -Infinity, samplePeakDbfs: -Infinity, picture: new Float32Array(0) },
    ...{ momentary: new Float32Array(50).fill(-Infinity), shortTerm: new Float32Array(50).fill(-Infinity) },
  };
  const summary = masterSummary({ mix: nothing, master: nothing, passageBalance: null });
  expect(summary.blocks.counts).toEqual([]);
  expect(summary.integratedLufs).toBeNull();
  expect(masterSummarySchema.parse(JSON.parse(JSON.stringify(summary)))).toEqual(summary);
});
