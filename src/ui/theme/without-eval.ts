import { z } from 'zod';

// Schemas would otherwise try to compile themselves, which the policy of the pages forbids, and the browser's console tells.
z.config({ jitless: true });
