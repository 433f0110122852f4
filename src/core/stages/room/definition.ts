import { figure } from '../../measure/figure';
import { defineStage, type SavedSettings } from '../definition';
import { longConvolverBytes } from './long-convolver';
import { RoomProcessor, roomImpulse } from './processor';
import { roomSettings, WET_OFF_DB } from './settings';

/** Until lane schema 5 the impulse response was called the response. */
function withImpulse({ response, ...settings }: SavedSettings): SavedSettings {
  return response === undefined ? settings : { ...settings, impulse: response };
}

export const room = defineStage({
  order: 70,
  title: 'Room',
  summary: 'Adds a touch of room',
  help: 'Good for a dry recording made without any room, in amounts that are felt rather than heard. Leave it out on a mix with its own reverb, on dense or loud music, or to fix something that belongs back with the mixer: it blurs what is sharp and costs punch and level.',
  schema: roomSettings,
  create: (context, settings) => new RoomProcessor(context, settings),
  figure: ({ wetDb }) => ({ text: wetDb <= WET_OFF_DB ? 'off' : `${figure(wetDb)} dB` }),
  traits: {
    impulse: ({ impulse, file }) => (impulse === 'file' ? file : null),
    withoutImpulse: (settings) => ({ ...settings, impulse: 'studio' as const, file: null }),
    memoryBytes: (settings, { sampleRate, impulses }) =>
      longConvolverBytes(roomImpulse(settings, sampleRate, impulses)),
  },
  migrations: { 5: withImpulse },
});
