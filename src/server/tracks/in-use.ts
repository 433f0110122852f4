/** Ready mixes of a track `t`. */
export const READY = `from mixes m where m.track_id = t.id and m.removed_at is null and m.status = 'ready'`;
/** The mix in use, and the chosen version, of a track `t`: as `mixInUse` and `chosenVersions` find them. */
const MIX_IN_USE = `(select m.id ${READY} order by (m.id = t.mix_id) desc nulls last, m.number desc limit 1)`;
const CHOSEN = `(select v.id from versions v where v.track_id = t.id and v.removed_at is null
    order by (v.id = t.chosen_version) desc nulls last, v.position, v.created_at limit 1)`;
/** Whether an approval `a` of the version `v` counts: the track `t` still is what was approved, version, step and mix. */
export const APPROVAL_COUNTS = `v.current = a.step and v.id = ${CHOSEN} and a.mix_id = ${MIX_IN_USE}`;
