import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import {
  CodeActionKind,
  CompletionItemKind,
  createConnection,
  DiagnosticSeverity,
  ErrorCodes,
  FoldingRangeKind,
  InsertTextFormat,
  type Location,
  MarkupKind,
  ProposedFeatures,
  type Range,
  ResponseError,
  SemanticTokensBuilder,
  SymbolKind,
  TextDocumentSyncKind,
  TextDocuments,
  type TextEdit,
} from 'vscode-languageserver/node.js';
import { TextDocument } from 'vscode-languageserver-textdocument';
import { format, laidOut } from '../format/format.js';
import type { Problem } from '../problems.js';
import { Analysis, type Place, RenameError, type Suggestion } from './analysis.js';
import { type Family, familyOf, type Texts } from './family.js';
import { foldsOf, TOKEN_KINDS, tokensOf } from './shape.js';
import { snippetsAt } from './snippets.js';
import { TooSlow, withinTime } from './within-time.js';

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

const folderOf = (uri: string): string => uri.slice(0, uri.lastIndexOf('/') + 1);

/** A file's text, where it can be read. */
function fileText(uri: string): string | undefined {
  try {
    return uri.startsWith('file:') ? readFileSync(fileURLToPath(uri), 'utf8') : undefined;
  } catch {
    return undefined;
  }
}

/** The sheets, parts and rehearsals in a folder. */
function filesIn(folder: string): string[] {
  try {
    const names = folder.startsWith('file:') ? readdirSync(fileURLToPath(folder)) : [];
    return names
      .filter((name) => name.endsWith('.motley'))
      .map((name) => new URL(encodeURIComponent(name), folder).href);
  } catch {
    return [];
  }
}

const isSame = (a: Family, b: Family): boolean =>
  a.self.text === b.self.text &&
  a.files.length === b.files.length &&
  a.files.every((file, i) => file.uri === b.files[i]?.uri && file.text === b.files[i]?.text);

/** Serves editors over the Language Server Protocol 3.17, on standard input and output, until the editor ends it. */
export function serveEditors(input: NodeJS.ReadableStream, output: NodeJS.WritableStream): void {
  const connection = createConnection(ProposedFeatures.all, input, output);
  const documents = new TextDocuments(TextDocument);
  const known = new Map<string, Analysis>();

  let takesSnippets = false;
  connection.onInitialize(({ capabilities: theirs }) => {
    takesSnippets = theirs.textDocument?.completion?.completionItem?.snippetSupport === true;
    return {
      capabilities: {
        textDocumentSync: TextDocumentSyncKind.Incremental,
        completionProvider: { triggerCharacters: ['.'] },
        hoverProvider: true,
        definitionProvider: true,
        referencesProvider: true,
        signatureHelpProvider: { triggerCharacters: ['(', ','] },
        documentSymbolProvider: true,
        workspaceSymbolProvider: true,
        foldingRangeProvider: true,
        semanticTokensProvider: { legend: { tokenTypes: [...TOKEN_KINDS], tokenModifiers: [] }, full: true },
        renameProvider: { prepareProvider: true },
        documentFormattingProvider: true,
        documentRangeFormattingProvider: true,
        codeActionProvider: { codeActionKinds: [CodeActionKind.QuickFix] },
      },
      serverInfo: { name: 'motley' },
    };
  });

  const texts: Texts = {
    text: (uri) => documents.get(uri)?.getText() ?? fileText(uri),
    beside: (uri) => {
      const folder = folderOf(uri);
      const open = documents.keys().filter((other) => folderOf(other) === folder);
      return [...new Set([...open, ...filesIn(folder)])];
    },
  };
  const look = (document: TextDocument): Analysis => {
    const { uri } = document;
    const before = known.get(uri);
    const family = familyOf(uri, texts);
    if (before && isSame(before.family, family)) return before;
    const analysis = withinTime(() => Analysis.of(family, before));
    known.set(uri, analysis);
    return analysis;
  };
  const problemsIn = (document: TextDocument): readonly Problem[] => {
    try {
      return look(document).problems;
    } catch (error) {
      if (!(error instanceof TooSlow)) throw error;
      return [{ severity: 'error', line: 1, column: 1, endColumn: 2, message: error.message }];
    }
  };
  const publish = async (document: TextDocument): Promise<void> => {
    const problems = problemsIn(document);
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
    // What tells the same game is checked together, so a change here may mend or break it.
    for (const other of documents.all())
      if (other !== document && familyOf(other.uri, texts).files.some(({ uri }) => uri === document.uri))
        await publish(other);
  });
  documents.onDidClose(({ document }) => {
    known.delete(document.uri);
    void connection.sendDiagnostics({ uri: document.uri, diagnostics: [] });
  });

  /** The range of a stretch of a file's text. */
  const rangeIn = (uri: string, from: number, to: number): Range => {
    const document = documents.get(uri) ?? TextDocument.create(uri, 'motley', 0, texts.text(uri) ?? '');
    return { start: document.positionAt(from), end: document.positionAt(to) };
  };
  const locationOf = ({ uri, offset, end }: Place): Location => ({ uri, range: rangeIn(uri, offset, end) });
  /** Answers a question about a place of an open text. */
  const at = <T>(
    params: { textDocument: { uri: string }; position: { line: number; character: number } },
    answer: (analysis: Analysis, offset: number) => T,
  ): T | null => {
    const document = documents.get(params.textDocument.uri);
    return document ? answer(look(document), document.offsetAt(params.position)) : null;
  };

  connection.onHover((params) =>
    at(params, (analysis, offset) => {
      const found = analysis.hover(offset);
      if (!found) return null;
      const [first = '', ...more] = found.text.split('\n\n');
      return {
        contents: { kind: MarkupKind.Markdown, value: ['```motley', first, '```', ...more].join('\n') },
        range: rangeIn(params.textDocument.uri, found.offset, found.end),
      };
    }),
  );
  connection.onSignatureHelp((params) =>
    at(params, (analysis, offset) => {
      const found = analysis.signature(offset);
      if (!found) return null;
      const values = (/\((.*)\)/.exec(found.label)?.[1] ?? '').split(',').map((label) => ({ label: label.trim() }));
      return {
        signatures: [{ label: found.label, parameters: values }],
        activeSignature: 0,
        activeParameter: Math.min(found.index, values.length - 1),
      };
    }),
  );
  connection.onDefinition((params) => at(params, (analysis, offset) => analysis.definitions(offset).map(locationOf)));
  connection.onReferences((params) => at(params, (analysis, offset) => analysis.references(offset).map(locationOf)));
  connection.onCompletion((params) =>
    at(params, (analysis, offset) => [
      ...analysis.suggestions(offset).map(({ name, kind, detail }) => ({
        label: name,
        kind: KINDS[kind],
        ...(detail === undefined ? {} : { detail }),
      })),
      ...(takesSnippets ? snippetsAt(analysis.text, offset) : []).map(({ label, detail, body }) => ({
        label,
        detail,
        kind: CompletionItemKind.Snippet,
        insertText: body,
        insertTextFormat: InsertTextFormat.Snippet,
      })),
    ]),
  );
  connection.onPrepareRename((params) =>
    at(params, (analysis, offset) => {
      const [first] = analysis.definitions(offset);
      const here = analysis
        .references(offset)
        .find((one) => one.uri === params.textDocument.uri && one.offset <= offset && offset <= one.end);
      return first && here ? locationOf(here).range : null;
    }),
  );
  connection.onRenameRequest((params) =>
    at(params, (analysis, offset) => {
      try {
        const changes: Record<string, TextEdit[]> = {};
        for (const place of analysis.rename(offset, params.newName)) {
          changes[place.uri] ??= [];
          changes[place.uri]?.push({ range: locationOf(place).range, newText: params.newName });
        }
        return { changes };
      } catch (error) {
        if (error instanceof RenameError) throw new ResponseError(ErrorCodes.InvalidRequest, error.message);
        throw error;
      }
    }),
  );
  connection.onDocumentSymbol(({ textDocument }) => {
    const document = documents.get(textDocument.uri);
    if (!document) return [];
    return look(document)
      .outline()
      .map(({ name, detail, offset, end }) => {
        const range = { start: document.positionAt(offset), end: document.positionAt(end) };
        return { name, detail, kind: SYMBOLS[detail] ?? SymbolKind.Constant, range, selectionRange: range };
      });
  });
  connection.onWorkspaceSymbol(({ query }) =>
    documents.all().flatMap((document) =>
      look(document)
        .outline()
        .filter(({ name }) => name.toLowerCase().includes(query.toLowerCase()))
        .map(({ name, detail, offset, end }) => ({
          name,
          kind: SYMBOLS[detail] ?? SymbolKind.Constant,
          location: { uri: document.uri, range: rangeIn(document.uri, offset, end) },
        })),
    ),
  );
  connection.onFoldingRanges(({ textDocument }) =>
    foldsOf(documents.get(textDocument.uri)?.getText() ?? '').map(({ from, to, kind }) => ({
      startLine: from,
      endLine: to,
      ...(kind === 'comment' ? { kind: FoldingRangeKind.Comment } : {}),
    })),
  );
  connection.languages.semanticTokens.on(({ textDocument }) => {
    const builder = new SemanticTokensBuilder();
    for (const { line, column, length, kind } of tokensOf(documents.get(textDocument.uri)?.getText() ?? ''))
      builder.push(line, column, length, kind, 0);
    return builder.build();
  });
  connection.onDocumentFormatting(({ textDocument }) => {
    const document = documents.get(textDocument.uri);
    if (!document) return [];
    const text = document.getText();
    const formatted = format(text);
    if (formatted === text) return [];
    return [{ range: { start: document.positionAt(0), end: document.positionAt(text.length) }, newText: formatted }];
  });
  connection.onDocumentRangeFormatting(({ textDocument, range: { start, end } }) => {
    const text = documents.get(textDocument.uri)?.getText() ?? '';
    const lines = text.split(/\r\n?|\n/);
    // A range that ends at the beginning of a line does not mean that line.
    const until = end.character === 0 && end.line > start.line ? end.line - 1 : end.line;
    return laidOut(text).flatMap((line, i): TextEdit[] => {
      if (i < start.line || i > until || line === lines[i]) return [];
      const from = { line: i, character: 0 };
      if (line === null) return [{ range: { start: from, end: { line: i + 1, character: 0 } }, newText: '' }];
      return [{ range: { start: from, end: { line: i, character: lines[i]?.length ?? 0 } }, newText: line }];
    });
  });
  connection.onCodeAction(({ textDocument, range: wanted }) => {
    const document = documents.get(textDocument.uri);
    if (!document) return [];
    const problems = problemsIn(document);
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
