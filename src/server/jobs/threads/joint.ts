import { database } from '../../database/connection';
import { renderJoint, type JointOrder } from '../../releases/render-joint';
import { audioStore } from '../../store/audio-store';
import { runThread } from './report';

await runThread<JointOrder, Uint8Array>(async (order) =>
  Uint8Array.from(await renderJoint(audioStore(database()), order)),
);
