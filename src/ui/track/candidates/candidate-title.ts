import type { Candidate } from '../../../contracts/candidate';
import type { TrackDetails } from '../../../contracts/track';
import { encodeName } from '../../../core/deliver/encode';
import { stageTitle, type Lane } from '../../../core/lane/schema';
import { LIVE, MIX } from '../../../engine/sources/source-mixer';
import { dateAndTime } from '../../kit/format';

/** What is known where candidates are named: the track, and the lane of the open version. */
export interface Known {
  details: TrackDetails;
  lane: Lane;
}

/** Identifies a candidate on a page, and its source in the worklet. */
export function candidateId(what: Candidate): string {
  switch (what.kind) {
    case 'mix':
      return what.mixId === null ? MIX : `mix-${what.mixId}`;
    case 'edited':
      return LIVE;
    case 'version':
      return `version-${what.versionId}`;
    case 'without':
      return `without-${what.stage}`;
    case 'track':
      return `track-${what.trackId}`;
    case 'reference':
      return `reference-${what.referenceId}`;
    case 'encode':
      return `encode-${what.encodeId}`;
    case 'delivery':
      return `delivery-${what.deliveryId}`;
  }
}

/** A short name for its chip, and one that tells it from all others. */
export interface CandidateTitle {
  short: string;
  full: string;
}

/** What a candidate is called; null when what it stands for is not there (any longer). */
export function candidateTitle(what: Candidate, { details, lane }: Known): CandidateTitle | null {
  switch (what.kind) {
    case 'mix': {
      if (what.mixId === null) return { short: 'Mix', full: `Mix ${details.mix?.number ?? ''}, untouched` };
      const mix = details.mixes.find(({ id, status }) => id === what.mixId && status === 'ready');
      return mix ? { short: `Mix ${mix.number}`, full: `Mix ${mix.number}: ${mix.fileName}` } : null;
    }
    case 'edited':
      return { short: 'Master', full: 'Master of the open version' };
    case 'version': {
      const version = details.versions.find(({ id }) => id === what.versionId);
      return version ? { short: version.name, full: `Version “${version.name}”, as saved` } : null;
    }
    case 'without': {
      const stage = lane.stages.find(({ id, on }) => on && id === what.stage);
      if (!stage) return null;
      const title = stageTitle(stage);
      return { short: `Without ${title.toLowerCase()}`, full: `Master without “${title}”` };
    }
    case 'track': {
      const track = details.tracks.find(({ id }) => id === what.trackId);
      return track ? { short: track.title, full: `Master of ${track.position} · ${track.title}` } : null;
    }
    case 'reference': {
      const reference = details.references.find(({ id, status }) => id === what.referenceId && status === 'ready');
      return reference ? { short: reference.title, full: `Reference: ${reference.title}` } : null;
    }
    case 'encode': {
      const encode = details.encodes.find(({ id, status }) => id === what.encodeId && status === 'finished');
      return encode
        ? { short: encodeName(encode), full: `Master in ${encodeName(encode)}, as it was when checked` }
        : null;
    }
    case 'delivery': {
      const delivery = details.deliveries.find(({ id, status }) => id === what.deliveryId && status === 'finished');
      if (!delivery) return null;
      const { name } = delivery.destination;
      return { short: `${name} file`, full: `Delivered file: ${name}, ${dateAndTime(delivery.createdAt)}` };
    }
  }
}

/** Everything of the track and its release that can be a candidate, by kind. */
export function possibleCandidates({ details, lane }: Known, openVersion: string): Candidate[] {
  return [
    { kind: 'mix', mixId: null },
    { kind: 'edited' },
    ...details.mixes.flatMap(({ id, status }): Candidate[] =>
      status === 'ready' && id !== details.mix?.id ? [{ kind: 'mix', mixId: id }] : [],
    ),
    ...details.versions.flatMap(({ id }): Candidate[] =>
      id === openVersion ? [] : [{ kind: 'version', versionId: id }],
    ),
    ...lane.stages.flatMap(({ id, on }): Candidate[] => (on ? [{ kind: 'without', stage: id }] : [])),
    ...details.tracks.flatMap(({ id }): Candidate[] =>
      id === details.track.id ? [] : [{ kind: 'track', trackId: id }],
    ),
    ...details.references.flatMap(({ id, status }): Candidate[] =>
      status === 'ready' ? [{ kind: 'reference', referenceId: id, place: 'same', loop: null }] : [],
    ),
    ...details.encodes.flatMap(({ id, status }): Candidate[] =>
      status === 'finished' ? [{ kind: 'encode', encodeId: id }] : [],
    ),
    ...details.deliveries.flatMap(({ id, status }): Candidate[] =>
      status === 'finished' ? [{ kind: 'delivery', deliveryId: id }] : [],
    ),
  ];
}
