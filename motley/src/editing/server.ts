import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import {
  CodeActionKind,
  CompletionItemKind,
  createConnection,
  DiagnosticSeverity,
  ErrorCodes,
  MarkupKind,
  ProposedFeatures,
  type Range,
  ResponseError,
  SymbolKind,
  TextDocumentSyncKind,
  TextDocuments,
} from 'vscode-languageserver/node.js';
import { TextDocument } from 'vscode-languageserver-textdocument';
import { format } from '../format/format.js';
import type { Problem } from '../problems.js';
import { Analysis, RenameError, type Suggestion } from './analysis.js';

const REHEARSAL = '.rehearsal.motley';
const KINDS: Readonly<Record<Suggestion['kind'], CompletionItemKind>> = {
  keyword: CompletionItemKind.Keyword,
  function: CompletionItemKind.Function,
  member: CompletionItemKind.Field,
  name: CompletionItemKind.Variable,
  option: CompletionItemKind.Event,
  bot: CompletionItemKind.Class,
};
const SYMBOLS: Readonly<Record<string, SymbolKind>> = {
  setting: SymbolKind.Property,
  pile: SymbolKind.Array,
  var: SymbolKind.Variable,
  def: SymbolKind.Function,
  routine: SymbolKind.Method,
  option: SymbolKind.Event,
  kind: SymbolKind.Enum,
  bot: SymbolKind.Class,
};

const rangeOf = (problem: Problem): Range => ({
  start: { line: problem.line - 1, character: problem.column - 1 },
  end: { line: problem.line - 1, character: problem.endColumn - 1 },
});

/** Serves editors over the Language Server Protocol 3.17, on standard input and output, until the editor ends it. */
export function serveEditors(input: NodeJS.ReadableStream, output: NodeJS.WritableStream): void {
  const connection = createConnection(ProposedFeatures.all, input, output);
  const documents = new TextDocuments(TextDocument);
  const known = new Map<string, Analysis>();

  connection.onInitialize(() => ({
    capabilities: {
      textDocumentSync: TextDocumentSyncKind.Incremental,
      completionProvider: { triggerCharacters: ['.'] },
      hoverProvider: true,
      definitionProvider: true,
      referencesProvider: true,
      documentSymbolProvider: true,
      renameProvider: { prepareProvider: true },
      documentFormattingProvider: true,
      codeActionProvider: { codeActionKinds: [CodeActionKind.QuickFix] },
    },
    serverInfo: { name: 'motley' },
  }));

  /** The text of the sheet that a file of rehearsals tests: as it is open in the editor, else from its file. */
  const sheetFor = async (uri: string): Promise<string> => {
    const sheet = uri.replace(REHEARSAL, '.motley');
    const open = documents.get(sheet);
    if (open) return open.getText();
    return sheet.startsWith('file:') ? readFile(fileURLToPath(sheet), 'utf8').catch(() => '') : '';
  };
  const look = async (document: TextDocument): Promise<Analysis> => {
    const text = document.getText();
    const before = known.get(document.uri);
    if (before?.text === text && !document.uri.endsWith(REHEARSAL)) return before;
    const analysis = document.uri.endsWith(REHEARSAL)
      ? Analysis.ofRehearsals(text, await sheetFor(document.uri), before)
      : Analysis.ofSheet(text, before);
    known.set(document.uri, analysis);
    return analysis;
  };
  const publish = async (document: TextDocument): Promise<void> => {
    const { problems } = await look(document);
    await connection.sendDiagnostics({
      uri: document.uri,
      version: document.version,
      diagnostics: problems.map((problem) => ({
        range: rangeOf(problem),
        severity: problem.severity === 'error' ? DiagnosticSeverity.Error : DiagnosticSeverity.Warning,
        source: 'motley',
        message: problem.message,
      })),
    });
  };

  documents.onDidChangeContent(async ({ document }) => {
    await publish(document);
    // Rehearsals are checked against the sheet, so a change there may mend or break them.
    const beside = documents.get(document.uri.replace(/\.motley$/, REHEARSAL));
    if (beside && beside !== document) await publish(beside);
  });
  documents.onDidClose(({ document }) => {
    known.delete(document.uri);
    void connection.sendDiagnostics({ uri: document.uri, diagnostics: [] });
  });

  /** Answers a question about a place of an open text. */
  const at = async <T>(
    params: { textDocument: { uri: string }; position: { line: number; character: number } },
    answer: (analysis: Analysis, offset: number, range: (from: number, to: number) => Range) => T,
  ): Promise<T | null> => {
    const document = documents.get(params.textDocument.uri);
    if (!document) return null;
    const range = (from: number, to: number): Range => ({
      start: document.positionAt(from),
      end: document.positionAt(to),
    });
    return answer(await look(document), document.offsetAt(params.position), range);
  };

  connection.onHover((params) =>
    at(params, (analysis, offset, range) => {
      const found = analysis.hover(offset);
      if (!found) return null;
      const [first = '', ...more] = found.text.split('\n\n');
      return {
        contents: { kind: MarkupKind.Markdown, value: ['```motley', first, '```', ...more].join('\n') },
        range: range(found.offset, found.end),
      };
    }),
  );
  connection.onDefinition((params) =>
    at(params, (analysis, offset, range) =>
      analysis.definitions(offset).map((one) => ({ uri: params.textDocument.uri, range: range(one.offset, one.end) })),
    ),
  );
  connection.onReferences((params) =>
    at(params, (analysis, offset, range) =>
      analysis.references(offset).map((one) => ({ uri: params.textDocument.uri, range: range(one.offset, one.end) })),
    ),
  );
  connection.onCompletion((params) =>
    at(params, (analysis, offset) =>
      analysis.suggestions(offset).map(({ name, kind, detail }) => ({
        label: name,
        kind: KINDS[kind],
        ...(detail === undefined ? {} : { detail }),
      })),
    ),
  );
  connection.onPrepareRename((params) =>
    at(params, (analysis, offset, range) => {
      const [first] = analysis.definitions(offset);
      const here = analysis.references(offset).find((one) => one.offset <= offset && offset <= one.end);
      return first && here ? range(here.offset, here.end) : null;
    }),
  );
  connection.onRenameRequest((params) =>
    at(params, (analysis, offset, range) => {
      try {
        const edits = analysis
          .rename(offset, params.newName)
          .map((one) => ({ range: range(one.offset, one.end), newText: params.newName }));
        return { changes: { [params.textDocument.uri]: edits } };
      } catch (error) {
        if (error instanceof RenameError) throw new ResponseError(ErrorCodes.InvalidRequest, error.message);
        throw error;
      }
    }),
  );
  connection.onDocumentSymbol(async ({ textDocument }) => {
    const document = documents.get(textDocument.uri);
    if (!document) return [];
    return (await look(document)).outline().map(({ name, detail, offset, end }) => {
      const range = { start: document.positionAt(offset), end: document.positionAt(end) };
      return { name, detail, kind: SYMBOLS[detail] ?? SymbolKind.Constant, range, selectionRange: range };
    });
  });
  connection.onDocumentFormatting(({ textDocument }) => {
    const document = documents.get(textDocument.uri);
    if (!document) return [];
    const text = document.getText();
    const formatted = format(text);
    if (formatted === text) return [];
    return [{ range: { start: document.positionAt(0), end: document.positionAt(text.length) }, newText: formatted }];
  });
  connection.onCodeAction(async ({ textDocument, range: wanted }) => {
    const document = documents.get(textDocument.uri);
    if (!document) return [];
    const { problems } = await look(document);
    return problems.flatMap((problem) => {
      const range = rangeOf(problem);
      if (problem.fix === undefined || range.start.line > wanted.end.line || range.end.line < wanted.start.line)
        return [];
      const edit = { changes: { [textDocument.uri]: [{ range, newText: problem.fix }] } };
      return [{ title: `Write "${problem.fix}"`, kind: CodeActionKind.QuickFix, edit }];
    });
  });

  documents.listen(connection);
  connection.listen();
}
