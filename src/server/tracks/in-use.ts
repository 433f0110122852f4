/** Ready mixes of a track `t`. */
export const READY = `from mixes m where m.track_id = t.id and m.removed_at is null and m.status = 'ready'`;
/**
 * Whether an approval `a` of the version `v` counts: the track `t` still is what was approved, version, step and mix. The
 * mix in use and the chosen version are found as `mixInUse` and `chosenVersions` find them, by asking whether another would
 * come before, which the database answers for thousands of tracks at once.
 */
export const APPROVAL_COUNTS = `v.current = a.step and v.removed_at is null
    and not exists (select from versions o where o.track_id = t.id and o.removed_at is null and o.id <> v.id
      and (o.id = t.chosen_version or (v.id is distinct from t.chosen_version
        and (o.position, o.created_at) < (v.position, v.created_at))))
    and exists (select ${READY} and m.id = a.mix_id)
    and not exists (select ${READY} and m.id <> a.mix_id and (m.id = t.mix_id or (a.mix_id is distinct from t.mix_id
      and m.number > (select approved.number from mixes approved where approved.id = a.mix_id))))`;
/**
 * Whether a track `t` is delivered: something of it meets its destination, and nothing that failed or missed has not been
 * followed by one that meets the same destination.
 */
export const DELIVERED = `exists (select from deliveries d
      where d.track_id = t.id and d.status = 'finished' and d.standing = 'meets')
    and not exists (select from deliveries d where d.track_id = t.id
      and (d.status = 'failed' or (d.status = 'finished' and d.standing <> 'meets'))
      and not exists (select from deliveries later where later.track_id = d.track_id and later.created_at > d.created_at
        and later.destination ->> 'name' = d.destination ->> 'name'
        and later.status = 'finished' and later.standing = 'meets'))`;
