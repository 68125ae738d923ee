import { ServiceError, Unreachable } from '@wily-jester/client';
import { FaceError, Fault, HandError, SetupError } from '@wily-jester/core';
import { RELEASE } from '@wily-jester/protocol';
import { Command, CommanderError } from 'commander';
import { addAuditCommand } from './commands/audit.js';
import { addBotsCommand } from './commands/bots.js';
import { addCardCommands } from './commands/cards.js';
import { addDeveloperCommands } from './commands/developers.js';
import { addHandCommands } from './commands/hands.js';
import { addHoldsCommand } from './commands/holds.js';
import { addLspCommand } from './commands/lsp.js';
import { addMatchCommand } from './commands/match.js';
import { addPlayCommand } from './commands/play.js';
import { addRemoteCommands } from './commands/remote.js';
import { addSheetCommands } from './commands/sheet.js';
import { addSoakCommand } from './commands/soak.js';
import { addSolveCommand } from './commands/solve.js';
import { addStartsCommand } from './commands/starts.js';
import { addTallyCommand } from './commands/tally.js';
import { addTrialCommand } from './commands/trial.js';
import { addVerifyCommand } from './commands/verify.js';
import { addWeighCommand } from './commands/weigh.js';
import { addWorkshopCommand } from './commands/workshop.js';
import { DONE, EXIT_CODES, Exit, NO, WRONG_USE } from './exit.js';
import { complain } from './show/print.js';

const program = new Command('wily')
  .description('Rules engines for card games: write the rules once, as a rule sheet.')
  .version(RELEASE)
  .exitOverride()
  .configureHelp({ showGlobalOptions: true, sortSubcommands: false })
  .showHelpAfterError('Add --help to see how it is used.')
  .addHelpText('after', `\nExit codes:\n${EXIT_CODES.map(([code, words]) => `  ${code}  ${words}`).join('\n')}`);

addCardCommands(program);
addHandCommands(program);
addHoldsCommand(program);
addStartsCommand(program);
addSheetCommands(program);
addSoakCommand(program);
addMatchCommand(program);
addBotsCommand(program);
addWeighCommand(program);
addSolveCommand(program);
addTallyCommand(program);
addTrialCommand(program);
addAuditCommand(program);
addVerifyCommand(program);
addLspCommand(program);
addPlayCommand(program);
addRemoteCommands(program);
addDeveloperCommands(program);
addWorkshopCommand(program);
for (const command of program.commands) {
  command.exitOverride();
  for (const inner of command.commands) inner.exitOverride();
}

/** Says what went wrong and gives the exit code. */
function exitCodeFor(error: unknown): number {
  if (error instanceof CommanderError) return error.exitCode === 0 ? DONE : WRONG_USE;
  if (error instanceof Exit) {
    complain(error.message);
    if (error.next) complain(error.next);
    return error.code;
  }
  if (error instanceof ServiceError) {
    const { detail, line, problems } = error.problem;
    complain(line === undefined || detail.includes(`ine ${line}`) ? detail : `${detail} (line ${line} of the sheet)`);
    for (const problem of problems?.slice(1) ?? [])
      complain(`  line ${problem.line}, column ${problem.column}: ${problem.message}`);
    return error.kind === 'malformed' ? WRONG_USE : NO;
  }
  if (error instanceof Unreachable) {
    complain(error.message);
    return NO;
  }
  if (error instanceof SetupError || error instanceof FaceError || error instanceof HandError) {
    complain(error.message);
    return WRONG_USE;
  }
  if (error instanceof Fault) {
    complain(`The sheet made a fault in line ${error.line}, column ${error.column}: ${error.message}`);
    return NO;
  }
  const { message, stack } = error instanceof Error ? error : new Error(String(error));
  complain(`Something went wrong here that should not: ${message}`);
  complain(process.env.WILY_TRACE ? (stack ?? '') : 'It is a mistake of ours. WILY_TRACE=1 shows where it happened.');
  return NO;
}

// Whoever reads the output may stop early, as `head` does.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(DONE);
  throw error;
});

try {
  await program.parseAsync();
} catch (error) {
  process.exitCode = exitCodeFor(error);
}
