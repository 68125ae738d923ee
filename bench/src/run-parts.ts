/** The parts alone, as JSON: for a process of its own. */
import { measureParts } from './parts.js';

process.stdout.write(JSON.stringify(measureParts()));
