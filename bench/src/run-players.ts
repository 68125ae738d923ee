/** The players alone, as JSON: for a process of its own. */
import { measurePlayers } from './players.js';

process.stdout.write(JSON.stringify(measurePlayers()));
