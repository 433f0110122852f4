import { writeFileSync } from 'node:fs';
import { laneFileDocumentation } from '../core/lane/documentation';

// docs: writes the pages that are made from the schemas.
writeFileSync('docs/lane-file.md', laneFileDocumentation());
