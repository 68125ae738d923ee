import { type ChildProcess, spawn } from 'node:child_process';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
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
    expect(await hover('deck')).toBeUndefined();
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
    expect(afterPoint).toEqual(expect.arrayContaining(['bank', 'hand', 'score', 'pips']));
    expect(afterPoint).not.toContain('deck');
    const plain = await labels(SHEET.replace('s.bank -= 1', 'sa'), 'pass { sa', 3);
    expect(plain).toEqual(expect.arrayContaining(['say', 'total', 'rounds', 'turnOf', 'sum']));
    const clock = await labels(SHEET.replace('else pass {', 'else p {'), 'else p', 4);
    expect(clock).toEqual(expect.arrayContaining(['draw', 'pass']));
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
});
