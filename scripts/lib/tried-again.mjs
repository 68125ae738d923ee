/** A reporter that names the tests which passed or failed only once they were tried again, and says why. */
export default class TriedAgain {
  onTestCaseResult(test) {
    if ((test.diagnostic()?.retryCount ?? 0) === 0) return;
    const { state, errors = [] } = test.result();
    process.stdout.write(`tried once more (${state}): ${test.module.relativeModuleId}: ${test.fullName}\n`);
    for (const { message, stacks = [] } of errors) {
      const own = stacks.find(({ file }) => file.endsWith('.test.ts'));
      process.stdout.write(`  ${message.split('\n', 3).join(' ')}${own ? ` (line ${own.line})` : ''}\n`);
    }
  }
}
