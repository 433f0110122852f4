import { sentenceOf } from '../../core/sentence-of';
import type { Adjustment } from '../../contracts/adjustment';
import { createStore } from 'zustand/vanilla';
import type { Candidate } from '../../contracts/candidate';
import { type TrackDetails, trackDetailsSchema } from '../../contracts/track';
import type { Audio } from '../../engine/measure/measurement';
import { MixDecoder } from '../../engine/sources/mix-decoder';
import { api, send } from '../api';
import { downloadAudio } from '../audio-download';

export interface OpenTrackState {
  /** What the server knows of the track. */
  details: TrackDetails;
  /** Share of the mix that has arrived; 1 when it can be heard. */
  arrived: number;
  audio: Audio | null;
  /** Names of the uploaded impulse responses that are here. */
  impulses: readonly string[];
  /** What went wrong, in words. */
  problem: string | null;
}

/** How long a mix is, in frames at its sample rate in Hz. */
export interface MixLength {
  frames: number;
  sampleRate: number;
}

export function mixLength(mix: TrackDetails['mix']): MixLength {
  return { frames: mix?.report?.frames ?? 1, sampleRate: mix?.source.sampleRate ?? 44100 };
}

/** The track itself: what the server knows of it, its mix, and what went wrong. */
export class OpenTrack {
  readonly store;
  /** How often the server was asked, and the number of the answer that is shown. */
  private asked = 0;
  private taken = 0;

  constructor(details: TrackDetails) {
    this.store = createStore<OpenTrackState>(() => ({
      details,
      arrived: 0,
      audio: null,
      impulses: [],
      problem: null,
    }));
  }

  get details(): TrackDetails {
    return this.store.getState().details;
  }

  /** Shows a problem in words; null takes it away. */
  report(problem: string | null): void {
    this.store.setState({ problem });
  }

  /** Downloads and decodes the mix. Throws an Error with a sentence. */
  async fetchMix(): Promise<Audio> {
    const { mix } = this.details;
    if (!mix) throw new Error('This track has no mix.');
    const { frames, sampleRate } = mixLength(mix);
    const decoder = new MixDecoder(frames, sampleRate);
    await downloadAudio(`/api/mixes/${mix.id}/audio`, {
      take: (bytes) => decoder.push(bytes),
      onShare: (arrived) => this.store.setState({ arrived }),
    });
    return decoder.finish();
  }

  /** The mix can be heard. */
  ready(audio: Audio): void {
    this.store.setState({ audio, arrived: 1 });
  }

  addImpulse(name: string): void {
    this.store.setState({ impulses: [...this.store.getState().impulses, name] });
  }

  /** Takes what the server knows of the track now, unless an answer that was asked for later was here before. */
  async refresh(): Promise<TrackDetails> {
    const number = (this.asked += 1);
    const details = await api(trackDetailsSchema, `/api/tracks/${this.details.track.id}`);
    if (number > this.taken) {
      this.taken = number;
      this.store.setState({ details });
    }
    return details;
  }

  /** Sets what of a version differs for a destination. */
  async adjust(versionId: string, destinationId: string, adjustment: Adjustment): Promise<void> {
    try {
      await send(`/api/versions/${versionId}/adjustments/${destinationId}`, { method: 'PUT', body: adjustment });
      await this.refresh();
    } catch (error) {
      this.report(sentenceOf(error));
    }
  }

  /** Keeps with the track what its listening bar offers, also when the page is left. Throws with a sentence. */
  async saveCandidates(candidates: Candidate[]): Promise<void> {
    const path = `/api/tracks/${this.details.track.id}/candidates`;
    await send(path, { method: 'PUT', body: { candidates }, keepalive: true });
  }

  /** Has another mix of the track used; the page must then be opened again. False when it was not possible. */
  async chooseMix(mixId: string): Promise<boolean> {
    try {
      await send(`/api/tracks/${this.details.track.id}/mix`, { method: 'PUT', body: { mixId } });
      return true;
    } catch (error) {
      this.report(sentenceOf(error));
      return false;
    }
  }
}
