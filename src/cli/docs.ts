import { writeFileSync } from 'node:fs';
import { laneFileDocumentation } from '../core/lane/documentation';
import { keysAsMarkdown } from '../ui/track/key-table';

// docs: writes the pages that are made from the schemas and the table of keys.
writeFileSync('docs/lane-file.md', laneFileDocumentation());
writeFileSync('docs/keys.md', keysAsMarkdown());
