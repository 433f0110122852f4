import { rmSync } from 'node:fs';
import { benchBegin } from './begin';
import { benchBrowser } from './browser';
import { benchCore } from './core';
import { benchDeliveries } from './deliveries';
import { benchListening } from './listening';
import { benchLoud } from './loud';
import { makeMaterial } from './material';

// bench: speeds as ratios in one run, as tables for docs/performance.md. `core`, `loud`, `begin`,
// `browser`, `deliveries` or `listening` runs a part.
const [part] = process.argv.slice(2);
if (part === undefined || part === 'core' || part === 'loud') {
  const material = await makeMaterial();
  if (part !== 'loud') await benchCore(material);
  if (part !== 'core') await benchLoud(material);
  rmSync(material.folder, { recursive: true });
}
if (part === undefined || part === 'begin') await benchBegin();
if (part === undefined || part === 'browser') await benchBrowser();
if (part === undefined || part === 'deliveries') await benchDeliveries();
if (part === undefined || part === 'listening') await benchListening();
