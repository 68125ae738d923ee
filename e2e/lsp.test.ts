import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { newFolder } from './setup/programs.js';
import { ROOT } from './setup/service.js';

const URI = 'file:///nowhere/reed.motley';
const SHEET = `// Reed Draw: everybody draws, and the highest total scores.
game "Reed Draw" for 2 to 4 seats {
  setting rounds: 1..9 = 3 "rounds to play"
  deck standard
  pile stock face down
  pile hand of each seat face up as fan
  var bank of each seat: int = 10 "chips"
  def worth(c: card) = min(c.pips, 10)
  def total(h: cards) = sum(h, c => worth(c))
  play {
    move all from pack to stock
    for n in 1..rounds {
      for each s in seats { turnOf(s) }
    }
  }
  routine turnOf(s: seat) {
    ask s within 10s else pass {
      option draw needs total(s.hand) < 30 else "Too much." { deal 1 from stock to s.hand }
      option pass { s.bank -= 1 }
    }
  }
  bot plain { draw when total(me.hand) < 12  pass }
}
`;

type Message = { id?: number; method?: string; params?: unknown; result?: unknown; error?: { message: string } };

/** An editor that speaks the protocol to the server's process. */
class Editor {
  private readonly child: ChildProcess = spawn(process.execPath, [join(ROOT, 'wily'), 'lsp', '--stdio'], {
    cwd: ROOT,
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  private buffer = Buffer.alloc(0);
  private next = 1;
  private readonly waiting = new Map<number, (message: Message) => void>();
  private readonly heard: Message[] = [];
  private readonly listeners: (() => void)[] = [];

  constructor() {
    this.child.stdout?.on('data', (data: Buffer) => {
      this.buffer = Buffer.concat([this.buffer, data]);
      this.read();
    });
  }
  private read(): void {
    for (;;) {
      const end = this.buffer.indexOf('\r\n\r\n');
      if (end < 0) return;
      const length = Number(/Content-Length: (\d+)/i.exec(this.buffer.subarray(0, end).toString())?.[1]);
      if (this.buffer.length < end + 4 + length) return;
      const message = JSON.parse(this.buffer.subarray(end + 4, end + 4 + length).toString()) as Message;
      this.buffer = this.buffer.subarray(end + 4 + length);
      if (message.id !== undefined && message.method === undefined) this.waiting.get(message.id)?.(message);
      else {
        this.heard.push(message);
        for (const listener of this.listeners.splice(0)) listener();
      }
    }
  }
  private send(message: object): void {
    const text = JSON.stringify({ jsonrpc: '2.0', ...message });
    this.child.stdin?.write(`Content-Length: ${Buffer.byteLength(text)}\r\n\r\n${text}`);
  }
  request<T>(method: string, params: object): Promise<T> {
    const id = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, ({ result, error }) => (error ? reject(new Error(error.message)) : resolve(result as T)));
      this.send({ id, method, params });
    });
  }
  notify(method: string, params: object): void {
    this.send({ method, params });
  }
  /** The diagnostics of a version of a text, as soon as they come. */
  async diagnostics(uri: string, version: number): Promise<{ message: string; severity: number; range: object }[]> {
    for (;;) {
      const found = this.heard.find((m) => {
        const params = m.params as { uri?: string; version?: number };
        return m.method === 'textDocument/publishDiagnostics' && params.uri === uri && params.version === version;
      });
      if (found)
        return (found.params as { diagnostics: { message: string; severity: number; range: object }[] }).diagnostics;
      await new Promise<void>((resolve) => this.listeners.push(resolve));
    }
  }
  async close(): Promise<number | null> {
    const ended = new Promise<number | null>((resolve) => this.child.once('exit', resolve));
    await this.request('shutdown', {});
    this.notify('exit', {});
    return ended;
  }
}

describe('the language server', () => {
  let editor: Editor;
  beforeEach(async () => {
    editor = new Editor();
    await editor.request('initialize', { processId: null, rootUri: null, capabilities: {} });
    editor.notify('initialized', {});
  });
  afterEach(async () => {
    expect(await editor.close()).toBe(0);
  });

  const open = async (text: string, uri = URI) => {
    editor.notify('textDocument/didOpen', { textDocument: { uri, languageId: 'motley', version: 1, text } });
    return editor.diagnostics(uri, 1);
  };
  const change = (text: string, version: number) => {
    editor.notify('textDocument/didChange', { textDocument: { uri: URI, version }, contentChanges: [{ text }] });
    return editor.diagnostics(URI, version);
  };
  /** The place of a word in the sheet: the n-th time that it stands there. */
  const at = (word: string, n = 1, text = SHEET) => {
    let offset = -1;
    for (let i = 0; i < n; i++) offset = text.indexOf(word, offset + 1);
    const before = text.slice(0, offset).split('\n');
    return { textDocument: { uri: URI }, position: { line: before.length - 1, character: before.at(-1)?.length ?? 0 } };
  };
  type Places = { range: { start: { line: number; character: number } } }[];
  const lines = (places: Places): number[] => places.map((place) => place.range.start.line + 1);

  it('explains words of the language, and how a call is written while it is', async () => {
    await open(SHEET);
    type Hover = { contents: { value: string } } | null;
    const hover = await editor.request<Hover>('textDocument/hover', at('deal '));
    expect(hover?.contents.value).toContain('deal 5 each from pack to hand');
    expect((await editor.request<Hover>('textDocument/hover', at('min(c')))?.contents.value).toContain('min(');
    expect(await editor.request<Hover>('textDocument/hover', at('everybody draws'))).toBeNull();
    const place = at('c => worth');
    const help = await editor.request<{ signatures: { label: string }[]; activeParameter: number }>(
      'textDocument/signatureHelp',
      place,
    );
    expect(help).toMatchObject({ signatures: [{ label: expect.stringContaining('sum(list') }], activeParameter: 1 });
  });

  it('folds, colours, and finds symbols in all open texts', async () => {
    await open(SHEET);
    const { textDocument } = at('game');
    const folds = await editor.request<{ startLine: number }[]>('textDocument/foldingRange', { textDocument });
    expect(folds.map(({ startLine }) => startLine + 1)).toContain(
      SHEET.split('\n').findIndex((l) => l.includes('play {')) + 1,
    );
    const { data } = await editor.request<{ data: number[] }>('textDocument/semanticTokens/full', { textDocument });
    expect(data.length % 5).toBe(0);
    expect(data.length).toBeGreaterThan(100);
    const symbols = await editor.request<{ name: string }[]>('workspace/symbol', { query: 'turn' });
    expect(symbols.map(({ name }) => name)).toEqual(['turnOf']);
  });

  it('tells what is wrong at every change, and offers to mend it', async () => {
    expect(await open(SHEET)).toEqual([]);
    const wrong = SHEET.replace('total(me.hand)', 'totl(me.hand)');
    const [problem] = await change(wrong, 2);
    expect(problem?.message).toContain('Did you mean "total"?');
    expect(problem?.severity).toBe(1);
    const actions = await editor.request<{ title: string; edit: { changes: Record<string, { newText: string }[]> } }[]>(
      'textDocument/codeAction',
      { textDocument: { uri: URI }, range: problem?.range, context: { diagnostics: [] } },
    );
    expect(actions.map((action) => action.title)).toEqual(['Write "total"']);
    expect(actions[0]?.edit.changes[URI]?.[0]?.newText).toBe('total');
    expect(await change(SHEET, 3)).toEqual([]);
  });

  it('says what a name is, with its type and its help', async () => {
    await open(SHEET);
    const hover = async (word: string, n = 1) =>
      (await editor.request<{ contents: { value: string } } | null>('textDocument/hover', at(word, n)))?.contents.value;
    expect(await hover('rounds')).toContain('setting rounds: 1..9');
    expect(await hover('rounds', 3)).toContain('rounds to play');
    expect(await hover('total(me')).toContain('def total(h: cards): int');
    expect(await hover('bank -=')).toContain('var bank of each seat: int');
    expect(await hover('turnOf(s)')).toContain('routine turnOf(s: seat)');
    expect(await hover('pips')).toContain("a card's pips");
    expect(await hover('min(')).toContain('min(a, b)');
    expect(await hover('deck')).toContain('deck standard');
  });

  it('goes to where a name is declared, and finds all its places', async () => {
    await open(SHEET);
    expect(lines(await editor.request<Places>('textDocument/definition', at('total(me')))).toEqual([9]);
    expect(lines(await editor.request<Places>('textDocument/definition', at('pass {')))).toEqual([19]);
    expect(lines(await editor.request<Places>('textDocument/definition', at('hand) < 12')))).toEqual([6]);
    const references = { ...at('def total'), context: { includeDeclaration: true } };
    references.position.character += 4;
    expect(lines(await editor.request<Places>('textDocument/references', references))).toEqual([9, 18, 22]);
  });

  it('renames a thing everywhere, and nothing else of that name', async () => {
    await open(SHEET);
    type Edit = { changes: Record<string, Places> };
    const renamed = await editor.request<Edit>('textDocument/rename', { ...at('s: seat'), newName: 'player' });
    expect(lines(renamed.changes[URI] ?? [])).toEqual([16, 17, 18, 18, 19]);
    const option = await editor.request<Edit>('textDocument/rename', { ...at('pass {'), newName: 'rest' });
    expect(lines(option.changes[URI] ?? [])).toEqual([17, 19, 22]);
    const rename = (word: string, newName: string) => editor.request('textDocument/rename', { ...at(word), newName });
    await expect(rename('bank', 'deck')).rejects.toThrow('"deck" is a word of the language');
    await expect(rename('bank', 'sum')).rejects.toThrow("a name of the language's own");
    await expect(rename('bank', 'hand')).rejects.toThrow('"hand" is declared already');
    await expect(rename('bank', '2nd')).rejects.toThrow('is no name');
    await expect(rename('pips', 'dots')).rejects.toThrow('Only what this sheet declares');
  });

  it('suggests what may stand there, also while the text cannot be read', async () => {
    await open(SHEET);
    const labels = async (text: string, word: string, version: number) => {
      await change(text, version);
      const place = at(word, 1, text);
      place.position.character += word.length;
      return (await editor.request<{ label: string }[]>('textDocument/completion', place)).map((item) => item.label);
    };
    const afterPoint = await labels(SHEET.replace('s.bank -= 1', 's.'), 'pass { s.', 2);
    expect(afterPoint).toEqual(['bank', 'hand', 'score', 'place']);
    const plain = await labels(SHEET.replace('s.bank -= 1', 'sa'), 'pass { sa', 3);
    expect(plain).toEqual(expect.arrayContaining(['say', 'total', 'rounds', 'turnOf', 'sum']));
    const card = await labels(SHEET.replace('min(c.pips, 10)', 'min(c.'), 'min(c.', 5);
    expect(card).toEqual(expect.arrayContaining(['rank', 'pips', 'pile']));
    expect(card).not.toContain('bank');
    const unknown = await labels(SHEET.replace('worth(c))', 'x.'), 'x.', 6);
    expect(unknown).toEqual(expect.arrayContaining(['bank', 'rank', 'score']));
    const clock = await labels(SHEET.replace('else pass {', 'else p {'), 'else p', 7);
    expect(clock).toEqual(expect.arrayContaining(['draw', 'pass']));
  });

  it('lays out the lines that are marked, and no others', async () => {
    const text = SHEET.replace('  deck standard', '      deck standard').replace('  pile stock', '\n\n\n pile stock');
    await open(text);
    type Edit = { range: { start: { line: number; character: number }; end: { line: number } }; newText: string };
    const marked = (from: number, to: number) =>
      editor.request<Edit[]>('textDocument/rangeFormatting', {
        textDocument: { uri: URI },
        range: { start: { line: from, character: 0 }, end: { line: to, character: 0 } },
        options: { tabSize: 2, insertSpaces: true },
      });
    const deck = await marked(3, 4);
    expect(deck).toEqual([
      { range: { start: { line: 3, character: 0 }, end: { line: 3, character: 19 } }, newText: '  deck standard' },
    ]);
    const empty = await marked(4, 8);
    expect(empty.map(({ range, newText }) => [range.start.line, range.end.line, newText])).toEqual([
      [5, 6, ''],
      [6, 7, ''],
      [7, 7, '  pile stock face down'],
    ]);
  });

  it('offers whole forms to an editor that can fill them in, where they may stand', async () => {
    const other = new Editor();
    await other.request('initialize', {
      processId: null,
      rootUri: null,
      capabilities: { textDocument: { completion: { completionItem: { snippetSupport: true } } } },
    });
    other.notify('initialized', {});
    const forms = async (text: string, word: string, version: number) => {
      other.notify('textDocument/didOpen', { textDocument: { uri: URI, languageId: 'motley', version, text } });
      const place = at(word, 1, text);
      place.position.character += word.length;
      const items = await other.request<{ label: string; kind: number }[]>('textDocument/completion', place);
      other.notify('textDocument/didClose', { textDocument: { uri: URI } });
      return items.filter(({ kind }) => kind === 15).map(({ label }) => label);
    };
    expect(await forms(SHEET.replace('deck standard', 'deck standard\n  pq'), '  pq', 1)).toContain('pile hand');
    const inside = await forms(SHEET.replace('s.bank -= 1', ''), 'option pass { ', 1);
    expect(inside).toContain('for each');
    expect(inside).not.toContain('pile hand');
    expect(await forms(SHEET, 'sum(h, ', 1)).toEqual([]);
    expect(await other.close()).toBe(0);
  });

  it('lays a sheet out, and outlines it', async () => {
    await open(SHEET.replace('  deck standard', '      deck standard'));
    const edits = await editor.request<{ newText: string }[]>('textDocument/formatting', {
      textDocument: { uri: URI },
      options: { tabSize: 2, insertSpaces: true },
    });
    expect(edits[0]?.newText).toBe(SHEET);
    const symbols = await editor.request<{ name: string; detail: string }[]>('textDocument/documentSymbol', {
      textDocument: { uri: URI },
    });
    expect(symbols.map((symbol) => `${symbol.detail} ${symbol.name}`)).toEqual([
      'setting rounds',
      'pile stock',
      'pile hand',
      'var bank',
      'def worth',
      'def total',
      'script play',
      'routine turnOf',
      'option draw',
      'option pass',
      'bot plain',
    ]);
  });

  it('checks rehearsals against the sheet that is open beside them', async () => {
    await open(SHEET);
    const uri = URI.replace('.motley', '.rehearsal.motley');
    const text = 'rehearse "one may pass" {\n  seats Wren, Otter\n  Wren: pas\n  expect Wren.bank == 9\n}\n';
    const [problem] = await open(text, uri);
    expect(problem?.message).toContain('Did you mean "pass"?');
    expect(await open(text.replace('pas\n', 'pass\n'), uri.replace('reed', 'reed2'))).toHaveLength(1);
  });

  describe('beside the other files of a game', () => {
    const PART = `part "prizes" {
  needs def good(c: card): flag

  var won of each seat: int = 0 "won"

  routine award {
    for each s in seats where any(s.hand, good) { s.won += 5 }
  }
}
`;
    const NIGHT = `game "Night" for 1 to 4 seats {
  deck standard
  pile hand of each seat face up
  use "prizes"
  def good(c: card) = c.rank == A
  play {
    ask seats[1] { option pull { deal 1 from pack to seats[1].hand award() } }
    finish
  }
}
`;
    const REHEARSALS =
      'rehearse "an ace wins" {\n  seats Wren\n  Wren.hand gets "A♠"\n  Wren: pull\n  expect Wren.won == 5\n}\n';
    /** A folder with the three files of a game; what a test opens stands in the editor, the rest in files. */
    const onDisk = (part = PART, sheet = NIGHT): Record<'sheet' | 'part' | 'rehearsals', string> => {
      const folder = newFolder();
      const put = (name: string, text: string): string => {
        writeFileSync(join(folder, name), text);
        return pathToFileURL(join(folder, name)).href;
      };
      return {
        sheet: put('night.motley', sheet),
        part: put('prizes.motley', part),
        rehearsals: put('night.rehearsal.motley', REHEARSALS),
      };
    };
    const placeIn = (uri: string, text: string, word: string) => ({ ...at(word, 1, text), textDocument: { uri } });
    type Located = { uri: string; range: { start: { line: number } } }[];
    const located = (found: Located): string[] =>
      found.map(({ uri, range }) => `${uri.slice(uri.lastIndexOf('/') + 1)}:${range.start.line + 1}`).sort();

    it('renames a thing in all of them, and finds where it is declared', async () => {
      const uris = onDisk();
      expect(await open(NIGHT, uris.sheet)).toEqual([]);
      expect(await open(REHEARSALS, uris.rehearsals)).toEqual([]);
      const won = placeIn(uris.rehearsals, REHEARSALS, 'won ==');
      expect(located(await editor.request<Located>('textDocument/definition', won))).toEqual(['prizes.motley:4']);
      const references = { ...won, context: { includeDeclaration: true } };
      expect(located(await editor.request<Located>('textDocument/references', references))).toEqual([
        'night.rehearsal.motley:5',
        'prizes.motley:4',
        'prizes.motley:7',
      ]);
      type Edit = { changes: Record<string, Places> };
      const rename = (place: object, newName: string) =>
        editor.request<Edit>('textDocument/rename', { ...place, newName });
      const pulled = await rename(placeIn(uris.sheet, NIGHT, 'pull {'), 'draw');
      expect(Object.keys(pulled.changes).sort()).toEqual([uris.sheet, uris.rehearsals].sort());
      const good = await rename(placeIn(uris.sheet, NIGHT, 'good('), 'lucky');
      expect(lines(good.changes[uris.part] ?? [])).toEqual([2, 7]);
      expect(lines(good.changes[uris.sheet] ?? [])).toEqual([5]);
      await expect(rename(placeIn(uris.sheet, NIGHT, 'good('), 'won')).rejects.toThrow('"won" is declared already');
      // The part's own names are offered where a name may begin.
      const begins = placeIn(uris.sheet, NIGHT, 'award()');
      const offered = await editor.request<{ label: string }[]>('textDocument/completion', begins);
      expect(offered.map((one) => one.label)).toEqual(expect.arrayContaining(['won', 'award', 'good']));
    });

    it('checks a part as the sheet beside it uses it, and says so where the mistake is', async () => {
      const uris = onDisk();
      expect(await open(PART, uris.part)).toEqual([]);
      const wrong = PART.replace('s.won += 5', 's.wun += 5');
      const changed = { textDocument: { uri: uris.part, version: 2 }, contentChanges: [{ text: wrong }] };
      editor.notify('textDocument/didChange', changed);
      const [problem] = await editor.diagnostics(uris.part, 2);
      expect(problem?.message).toContain('Did you mean "won"?');
      expect(problem?.range).toMatchObject({ start: { line: 6 } });
      const [atUse] = await open(NIGHT, uris.sheet);
      expect(atUse).toMatchObject({
        message: expect.stringContaining('Part "prizes", line 7:'),
        range: { start: { line: 3 } },
      });
      const alone = pathToFileURL(join(newFolder(), 'prizes.motley')).href;
      expect(await open(wrong, alone)).toEqual([]);
      const [misplaced] = await open(
        PART.replace('needs def', 'deck standard needs def'),
        alone.replace('prizes', 'other'),
      );
      expect(misplaced).toMatchObject({
        message: expect.stringContaining('A part has no deck'),
        range: { start: { line: 1 } },
      });
    });

    it('keeps the names that a part of the language speaks of', async () => {
      const sheet = readFileSync(join(ROOT, 'sheets/long-pot.motley'), 'utf8');
      const uri = pathToFileURL(join(newFolder(), 'pot.motley')).href;
      expect(await open(sheet, uri)).toEqual([]);
      const place = placeIn(uri, sheet, 'button: seat');
      await expect(editor.request('textDocument/rename', { ...place, newName: 'dealer' })).rejects.toThrow(
        'comes with the language speaks of "button"',
      );
    });
  });
});
