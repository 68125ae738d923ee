import type { Command } from 'commander';
import { Exit, WRONG_USE } from '../exit.js';

async function serve(options: { stdio?: boolean }): Promise<void> {
  if (!options.stdio)
    throw new Exit('The language server speaks over standard input and output: add --stdio.', WRONG_USE);
  const { serveEditors } = await import('@wily-jester/motley/editing');
  serveEditors(process.stdin, process.stdout);
}

/** `lsp`: the language server, for editors. */
export function addLspCommand(program: Command): void {
  program
    .command('lsp')
    .description('serve an editor: problems, completion, hover, definitions, renaming, formatting')
    .option('--stdio', 'over standard input and output (the Language Server Protocol)')
    .addHelpText('after', '\nExample:\n  ./wily lsp --stdio')
    .action(serve);
}
