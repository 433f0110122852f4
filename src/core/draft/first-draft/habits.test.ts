import { habitsOf, leaning, takenDraftSchema } from './habits';
import { draftWishesSchema } from './request';

const taken = (steps: object, needed = ['balance', 'clipper']) => takenDraftSchema.parse({ wishes: { steps }, needed });
const PLAIN = draftWishesSchema.parse({});

test('habits count what was offered, refused and at which strength', () => {
  const habits = habitsOf([
    taken({ balance: { strengthPercent: 50 }, clipper: { on: false } }),
    taken({ balance: { strengthPercent: 70 }, clipper: { on: false } }),
    taken({ balance: { strengthPercent: 60 } }),
    taken({}, ['limiter']),
  ]);
  expect(habits).toEqual({
    balance: { offered: 3, refused: 0, strengthPercent: 60 },
    clipper: { offered: 3, refused: 2, strengthPercent: 100 },
    limiter: { offered: 1, refused: 0, strengthPercent: 100 },
  });
});

test('drafts lean towards what is mostly done, once it was done several times; what is decided now stays', () => {
  const refusing = Array.from({ length: 4 }, () => taken({ balance: { strengthPercent: 50 }, clipper: { on: false } }));
  const habits = habitsOf(refusing);
  expect(leaning(PLAIN, habits).steps).toEqual({
    balance: { on: true, strengthPercent: 50 },
    clipper: { on: false, strengthPercent: 100 },
  });
  const decided = draftWishesSchema.parse({ steps: { clipper: { on: true } } });
  expect(leaning(decided, habits).steps.clipper).toEqual({ on: true, strengthPercent: 100 });
  expect(leaning(PLAIN, habitsOf(refusing.slice(0, 2)))).toEqual(PLAIN);
  expect(leaning(PLAIN, {})).toEqual(PLAIN);
});
