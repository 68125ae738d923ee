import type { Problem } from '@wily-jester/motley';

/** The problems of several sheets as SARIF 2.1.0 (OASIS), which build servers and code hosts read. */
export function sarifOf(
  version: string,
  files: readonly { readonly file: string; readonly problems: readonly Problem[] }[],
): object {
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'wily check', version, rules: [] } },
        columnKind: 'utf16CodeUnits',
        results: files.flatMap(({ file, problems }) =>
          problems.map(({ severity, line, column, endColumn, message }) => ({
            level: severity,
            message: { text: message },
            locations: [
              {
                physicalLocation: {
                  artifactLocation: { uri: file.split('\\').join('/') },
                  region: { startLine: line, startColumn: column, endLine: line, endColumn },
                },
              },
            ],
          })),
        ),
      },
    ],
  };
}
