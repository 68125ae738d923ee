export type Task = 'child' | 'compile-task' | 'solve-task' | 'stretch-task' | 'think-task';

/** Where a file stands that runs in a thread or a process of its own: a bundle (`scripts/bundle.mjs`), which loads in half the time. */
export const taskFile = (task: Task): URL => new URL(`../bundled/${task}.js`, import.meta.url);
