// What is started from a bundle. Node's own modules only.
import { join } from 'node:path';
import { ROOT } from './machine.mjs';

/** Libraries stay as they are: some find files and threads of their own beside them. */
const LIBRARIES = /^(?!@wily-jester\/|@noble\/)[@\w]/;

/** By package: the programs by name with the file that each was compiled to, and what stays apart from them. */
export const BUNDLES = {
  cli: { programs: { wily: 'main.js', 'block-task': 'trial/block-task.js' }, apart: ['piscina'] },
  service: {
    programs: {
      main: 'main.js',
      child: 'workers/child.js',
      'compile-task': 'sheets/compile-task.js',
      'solve-task': 'thinking/solve-task.js',
      'stretch-task': 'trials/stretch-task.js',
      'think-task': 'thinking/think-task.js',
    },
    apart: [LIBRARIES],
  },
};

export const bundleOf = (part, name) => join(ROOT, part, 'dist', 'bundled', `${name}.js`);
