import type { Knex } from 'knex';
import * as m001 from './001-first-slice';
import * as m002 from './002-complete-intake';
import * as m003 from './003-mixes-and-pins';
import * as m004 from './004-impulse-responses';
import * as m005 from './005-reliability';
import * as m006 from './006-objects';
import * as m007 from './007-measurements';
import * as m008 from './008-step-figures';
import * as m009 from './009-candidates-and-notes';
import * as m010 from './010-references';
import * as m011 from './011-blind-tests';
import * as m012 from './012-destinations';
import * as m013 from './013-encode-checks';
import * as m014 from './014-adjustments-and-desk';
import * as m015 from './015-house-lanes';
import * as m016 from './016-sequence-and-images';
import * as m017 from './017-listening';
import * as m018 from './018-proposals';
import * as m019 from './019-room-and-lookups';
import * as m020 from './020-steps-and-removed-links';

/** Every migration by the name of its file, in the order in which they are made. The names stand in each database. */
export const MIGRATIONS: Readonly<Record<string, Knex.Migration>> = {
  '001-first-slice.ts': m001,
  '002-complete-intake.ts': m002,
  '003-mixes-and-pins.ts': m003,
  '004-impulse-responses.ts': m004,
  '005-reliability.ts': m005,
  '006-objects.ts': m006,
  '007-measurements.ts': m007,
  '008-step-figures.ts': m008,
  '009-candidates-and-notes.ts': m009,
  '010-references.ts': m010,
  '011-blind-tests.ts': m011,
  '012-destinations.ts': m012,
  '013-encode-checks.ts': m013,
  '014-adjustments-and-desk.ts': m014,
  '015-house-lanes.ts': m015,
  '016-sequence-and-images.ts': m016,
  '017-listening.ts': m017,
  '018-proposals.ts': m018,
  '019-room-and-lookups.ts': m019,
  '020-steps-and-removed-links.ts': m020,
};
