import { runCommand } from '../cli/command';
import { LANE_SCHEMA, newStage, parseLane } from '../core/lane/schema';
import { addAccount, addPiece } from '../demo/seed';
import { DEMO } from '../server/accounts/demo-account';
import { database } from '../server/database/connection';
import { createRelease } from '../server/releases/releases';
import { audioStore } from '../server/store/audio-store';
import { sketch } from './sketch';

/** A lane with what most lanes have. */
const LANE = parseLane({
  schema: LANE_SCHEMA,
  stages: [newStage('equalizer', 'equalizer'), newStage('compressor', 'compressor'), newStage('limiter', 'limiter')],
});

// seed: two short tracks in the demo account, for work on the program; done in seconds, once.
await runCommand(async () => {
  const db = database();
  try {
    if (await db('accounts').where({ email: DEMO.email }).first<object | undefined>('id')) return;
    const accountId = await addAccount(db);
    const release = await createRelease(db, accountId, { title: 'Sketches', artist: 'The Ashgrove Dome Ensemble' });
    for (const position of [1, 2]) {
      const piece = { title: `Sketch ${position}`, make: () => sketch(position) };
      await addPiece(db, audioStore(db), release.id, position, piece, LANE);
    }
  } finally {
    await db.destroy();
  }
});
