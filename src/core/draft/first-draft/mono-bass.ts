import { newStage } from '../../lane/schema';
import { figure } from '../../measure/figure';
import { stereoSettings } from '../../stages/stereo/settings';
import { bassBelow, CORNER_HZ, isOpposedBass, isSideHeavy, isWideBass, MONO_BASS } from '../observations/wide-bass';
import type { DraftRule } from './step';

export const monoBass: DraftRule = {
  id: 'monoBass',
  decide({ mix: { passageBalance } }) {
    const bass = bassBelow(CORNER_HZ, passageBalance);
    const found = `Below ${CORNER_HZ} Hz the side is at ${figure(bass.sideDb)} dB against the mid in the loudest passage`;
    if (!isSideHeavy(bass)) return { reason: `${found}: the bass is in the middle already.`, stage: null };
    if (!isWideBass(bass))
      return {
        reason: `${found}, but at ${figure(bass.levelDbfs)} dBFS there is too little of it to matter.`,
        stage: null,
      };
    if (isOpposedBass(bass))
      return {
        reason: `${found}: its channels oppose each other, and in mono it would be gone. Ask for a mix with the polarity fixed.`,
        stage: null,
      };
    const stage = newStage('stereo', 'mono-bass');
    stage.settings = stereoSettings.parse(MONO_BASS);
    return { reason: `${found}. It is made mono: wide bass loses weight in mono and takes headroom.`, stage };
  },
};
