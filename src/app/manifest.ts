import type { MetadataRoute } from 'next';
import { INSTALLED } from '@/ui/offline/installed';

/** Lets browsers install the application. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    ...{ name: 'Copper Lane', short_name: 'Copper Lane', start_url: '/', scope: '/' },
    description: 'From a finished mix to a master that proves its spec.',
    ...INSTALLED,
  };
}
