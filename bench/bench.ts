import { benchBrowser } from './browser';
import { benchCore } from './core';

// bench: speeds as ratios in one run, as tables for docs/performance.md. `core` or `browser` runs a part.
const [part] = process.argv.slice(2);
if (part !== 'browser') await benchCore();
if (part !== 'core') await benchBrowser();
