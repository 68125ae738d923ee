/** A reporter that names the tests which passed or failed only once they were tried again. */
export default class TriedAgain {
  onTestCaseResult(test) {
    if ((test.diagnostic()?.retryCount ?? 0) > 0)
      process.stdout.write(
        `tried once more (${test.result().state}): ${test.module.relativeModuleId}: ${test.fullName}\n`,
      );
  }
}
