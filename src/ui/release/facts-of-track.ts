import type { ReleaseDetail, TrackSummary } from '../../contracts/release';
import type { Facts } from '../../core/deliver/facts';
import { masterFacts } from '../../core/deliver/master-facts';
import { tagsOf, type Tags } from '../../core/deliver/tags';

/** What a file of a track says about itself. */
function tagsOfTrack(release: ReleaseDetail, track: TrackSummary): Tags {
  return tagsOf({
    ...{ title: track.title, position: track.position, tracks: release.tracks.length },
    ...{ trackArtist: track.artist, isrc: track.isrc, composer: track.composer, trackCopyright: track.copyright },
    ...{ release: release.title, releaseArtist: release.artist, releaseCopyright: release.copyright },
    ...{ ean: release.ean, year: release.year },
  });
}

/** What is known of the master of a track; null before it is measured. */
export function factsOfTrack(release: ReleaseDetail, track: TrackSummary): Facts | null {
  const { mix, master } = track;
  if (!mix || !master?.summary) return null;
  const { summary, edges, encodes } = master;
  return masterFacts(summary, mix, { tags: tagsOfTrack(release, track), edges, encodes });
}
