import Box from '@mui/material/Box';
import { adjustedVerdict } from '../../../contracts/adjustment';
import type { Destination } from '../../../core/deliver/destination';
import type { LevelReading } from '../../../core/deliver/meet';
import { adjustedWords, StandingMark } from '../../kit/standing';
import { useLane, useMeasurements, useTrack } from '../context';
import { useAdjustments } from '../use-adjustment';
import { useMasterFacts } from '../use-master-facts';

/** What the other destinations of the release would say of a master with these levels; what encodes of it come to is not known. */
export function OtherDestinations({ met, reading }: { met: Destination; reading: LevelReading }) {
  const destinations = useTrack((state) => state.details.destinations);
  const facts = useMasterFacts(useMeasurements((state) => state.measurement?.master));
  const step = useLane((state) => state.version.step);
  const adjustmentFor = useAdjustments();
  const others = destinations.filter(({ settings }) => settings.name !== met.name);
  if (!facts || others.length === 0) return null;
  const after = { ...facts, ...reading };
  return (
    <Box component="section" aria-label="The other destinations" sx={{ mt: 1, fontSize: 12.5 }}>
      <Box sx={{ color: 'text.secondary' }}>The other destinations, with this way, encodes aside:</Box>
      <Box component="ul" sx={{ m: 0, pl: 0, listStyle: 'none', display: 'flex', flexWrap: 'wrap', columnGap: 3 }}>
        {others.map(({ id, settings }) => {
          const held = adjustedVerdict({ ...settings, encodes: [] }, after, adjustmentFor(id), step);
          return (
            <Box component="li" key={id} sx={{ display: 'flex', gap: 1 }}>
              <span>{settings.name}</span>
              <StandingMark standing={held.verdict.standing} words={adjustedWords(held)} />
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
