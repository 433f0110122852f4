import type { ReleaseDetail, TrackSummary } from '../../contracts/release';
import { tagsOf, type Tags } from '../../core/deliver/tags';

/** What a file of a track says about itself. */
export function tagsOfTrack(release: ReleaseDetail, track: TrackSummary): Tags {
  return tagsOf({
    ...{ title: track.title, position: track.position, tracks: release.tracks.length },
    ...{ trackArtist: track.artist, isrc: track.isrc, composer: track.composer, trackCopyright: track.copyright },
    ...{ release: release.title, releaseArtist: release.artist, releaseCopyright: release.copyright },
    ...{ ean: release.ean, year: release.year },
  });
}
