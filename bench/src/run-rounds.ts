/** The rounds alone, as JSON: for a process of its own, with what its Node is told. */
import { measureRounds } from './rounds.js';

process.stdout.write(JSON.stringify(measureRounds()));
