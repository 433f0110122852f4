// Prepares the installations that the tests copy: prepare-templates.ts FOLDER.
import { mkdirSync } from 'node:fs';
import { prepareTemplates } from './template';

const folder = process.argv[2];
mkdirSync(folder, { recursive: true });
await prepareTemplates(folder, ['empty', 'demo']);
