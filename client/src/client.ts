import type {
  AddedDeveloper,
  Analysis,
  BranchWish,
  Check,
  Choice,
  Chosen,
  DeveloperList,
  Draft,
  DraftSummary,
  Edition,
  EditionSummary,
  Gather,
  Gathered,
  GatheringView,
  Health,
  Hint,
  KeepDraft,
  Login,
  LoginWish,
  Looks,
  MadeKey,
  NewDraft,
  NewKey,
  NewTrial,
  Offers,
  Opened,
  OpenTable,
  Past,
  Plan,
  ProblemDetails,
  SeatPart,
  Session,
  Settings,
  SettingsWish,
  Sheet,
  SheetSummary,
  SheetText,
  ShelfWish,
  Shelved,
  Step,
  TableList,
  TableSummary,
  TableView,
  Trial,
  TrialSummary,
} from '@wily-jester/protocol';
import { Follow, type FollowOptions } from './follow.js';
import { type ClientOptions, ServiceError, Unreachable, type Viewer } from './options.js';

const query = (values: Readonly<Record<string, string | number | undefined>>): string => {
  const pairs = Object.entries(values).filter((pair): pair is [string, string | number] => pair[1] !== undefined);
  return pairs.length === 0 ? '' : `?${pairs.map(([name, value]) => `${name}=${encodeURIComponent(value)}`).join('&')}`;
};

/** Speaks to a service over HTTP; {@link Client.follow} over its WebSocket. */
/** Which tables are listed, and from where on. */
export interface TablesWish {
  readonly status?: TableSummary['status'] | undefined;
  readonly after?: string | undefined;
  readonly limit?: number | undefined;
}

export class Client {
  constructor(readonly options: ClientOptions) {}

  /** The same service with another key. */
  withKey(key: string): Client {
    return new Client({ ...this.options, key });
  }

  private async request(
    method: 'GET' | 'POST' | 'PUT' | 'DELETE',
    path: string,
    body?: unknown,
    signal?: AbortSignal,
  ): Promise<Response> {
    const headers: Record<string, string> = {};
    if (this.options.key !== undefined) headers.authorization = `Bearer ${this.options.key}`;
    if (body !== undefined) headers['content-type'] = 'application/json';
    const send = (): Promise<Response> =>
      fetch(`${this.options.address}${path}`, {
        method,
        headers,
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        ...(signal ? { signal } : {}),
      });
    let response: Response;
    try {
      // A line that was kept open may have been closed at the other end just now: what only reads is asked once more.
      response = await send().catch((error: unknown) => {
        if (method !== 'GET' || signal?.aborted) throw error;
        return send();
      });
    } catch (error) {
      if (signal?.aborted) throw error;
      throw new Unreachable(
        `There is no answer from ${this.options.address || 'the service'}. Is it running? "npm start" starts it.`,
        { cause: error },
      );
    }
    if (response.ok || (response.headers.get('content-type') ?? '').includes('application/json')) return response;
    throw new ServiceError(await problemIn(response));
  }

  private async json<T>(method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, body?: unknown): Promise<T> {
    return (await this.request(method, path, body)).json() as Promise<T>;
  }

  health(): Promise<Health> {
    return this.json('GET', '/health');
  }
  session(): Promise<Session> {
    return this.json('GET', '/api/session');
  }

  async sheets(): Promise<SheetSummary[]> {
    return (await this.json<{ sheets: SheetSummary[] }>('GET', '/api/sheets')).sheets;
  }
  sheet(word: string): Promise<Sheet> {
    return this.json('GET', `/api/sheets/${encodeURIComponent(word)}`);
  }
  /** The settings of a sheet, where some have these values. */
  async settings(word: string, settings: SettingsWish['settings']): Promise<Settings['settings']> {
    const path = `/api/sheets/${encodeURIComponent(word)}/settings`;
    return (await this.json<Settings>('POST', path, { settings })).settings;
  }
  checkSheet(text: SheetText): Promise<Check> {
    return this.json('POST', '/api/sheets/check', text);
  }
  addSheet(text: SheetText): Promise<Sheet> {
    return this.json('POST', '/api/sheets', text);
  }

  /** Tables, the newest first: a page of 50 unless more are asked for, at most 200. */
  async tables(wish: TablesWish = {}): Promise<TableSummary[]> {
    return (await this.tablePage(wish)).tables as TableSummary[];
  }
  /** The same with where the next page begins. */
  tablePage(wish: TablesWish = {}): Promise<TableList> {
    return this.json('GET', `/api/tables${query({ ...wish })}`);
  }
  /** Deletes a table with its record and keys. */
  async deleteTable(id: string): Promise<void> {
    await this.request('DELETE', `/api/tables/${id}`);
  }
  /** What was looked at, or done, at a table with a right that others do not have; the latest first. */
  async looks(id: string): Promise<Looks['looks']> {
    return (await this.json<Looks>('GET', `/api/tables/${id}/looks`)).looks;
  }
  /** Ends all keys to watch a table. */
  async endWatchKeys(id: string): Promise<void> {
    await this.request('DELETE', `/api/tables/${id}/keys/watch`);
  }
  /** Makes a word with which a page becomes a developer's, once. */
  makeLogin(wish: LoginWish = {}): Promise<Login> {
    return this.json('POST', '/api/logins', wish);
  }
  /** Those who develop on this service. */
  async developers(): Promise<DeveloperList['developers']> {
    return (await this.json<DeveloperList>('GET', '/api/developers')).developers;
  }
  /** Adds a developer, with the key of the data folder; their key is shown this once. */
  addDeveloper(name: string): Promise<AddedDeveloper> {
    return this.json('POST', '/api/developers', { name });
  }
  /** Ends the keys and sessions of a developer; what they made stays. */
  async endDeveloper(name: string): Promise<void> {
    await this.request('DELETE', `/api/developers/${encodeURIComponent(name)}`);
  }
  /** Uses such a word up: the page has a cookie then. */
  comeIn(word: string): Promise<Session> {
    return this.json('POST', '/api/session', { word });
  }
  /** Tries once more to load a table that could not be played again. */
  retryTable(id: string): Promise<TableSummary> {
    return this.json('POST', `/api/tables/${id}/retry`);
  }
  /** Deletes a version of a sheet that no table uses. */
  async deleteSheet(word: string): Promise<void> {
    await this.request('DELETE', `/api/sheets/${encodeURIComponent(word)}`);
  }
  openTable(wanted: OpenTable): Promise<Opened> {
    return this.json('POST', '/api/tables', wanted);
  }
  table(id: string): Promise<TableSummary> {
    return this.json('GET', `/api/tables/${id}`);
  }
  plan(id: string): Promise<Plan> {
    return this.json('GET', `/api/tables/${id}/plan`);
  }
  view(id: string, as?: Viewer): Promise<TableView> {
    return this.json('GET', `/api/tables/${id}/view${query({ as })}`);
  }
  offers(id: string, seat?: number): Promise<Offers> {
    return this.json('GET', `/api/tables/${id}/choices${query({ seat })}`);
  }
  /** Opens a table whose seats give chance first; it is there once all have shown what they promised. */
  gather(wish: Gather): Promise<Gathered> {
    return this.json('POST', '/api/gatherings', wish);
  }
  gathering(id: string): Promise<GatheringView> {
    return this.json('GET', `/api/gatherings/${id}`);
  }
  /** Sends a seat's promise, or what it promised. */
  giveChance(id: string, part: SeatPart): Promise<GatheringView> {
    return this.json('POST', `/api/gatherings/${id}/parts`, part);
  }
  /** Waits for nobody else's promise. */
  dealNow(id: string): Promise<GatheringView> {
    return this.json('POST', `/api/gatherings/${id}/deal`);
  }
  /** What a choice was worth beside the others, looking back. Over an open table only developers look. */
  analysis(id: string, number: number, wish: { milliseconds?: number | undefined } = {}): Promise<Analysis> {
    return this.json('GET', `/api/tables/${id}/analysis/${number}${query(wish)}`);
  }
  /** What thinking for a moment would choose; it is written down at the table. */
  hint(id: string, wish: { seat?: number | undefined; milliseconds?: number | undefined } = {}): Promise<Hint> {
    return this.json('GET', `/api/tables/${id}/hint${query(wish)}`);
  }
  choose(id: string, choice: Choice): Promise<Chosen> {
    return this.json('POST', `/api/tables/${id}/choices`, choice);
  }
  /** All steps after a number, or from the opening on: as many answers as it takes. */
  async steps(id: string, from?: number, as?: Viewer): Promise<Step[]> {
    const steps: Step[] = [];
    for (let after = from; ; after = steps.at(-1)?.number) {
      const path = `/api/tables/${id}/events${query({ from: after, as })}`;
      const answer = await this.json<{ steps: Step[]; more: boolean }>('GET', path);
      steps.push(...answer.steps);
      if (!answer.more || answer.steps.length === 0) return steps;
    }
  }
  /** What a viewer may check of the shuffles, as NDJSON: promises, and the cards that were seen with their proofs. */
  async fairness(id: string, as?: Viewer): Promise<string> {
    return (await this.request('GET', `/api/tables/${id}/fairness${query({ as })}`)).text();
  }
  /** The record, as NDJSON. */
  async record(id: string): Promise<string> {
    return (await this.request('GET', `/api/tables/${id}/record`)).text();
  }
  closeTable(id: string): Promise<TableSummary> {
    return this.json('POST', `/api/tables/${id}/close`);
  }

  /** Takes a seat, back from a bot too. */
  takeSeat(id: string, seat: number): Promise<TableSummary> {
    return this.json('POST', `/api/tables/${id}/seats/${seat}/take`);
  }
  /** Leaves a seat: its clock answers at once until it is taken again. */
  leaveSeat(id: string, seat: number): Promise<TableSummary> {
    return this.json('POST', `/api/tables/${id}/seats/${seat}/leave`);
  }
  /** Hands a seat to a bot; without a name, to the sheet's first. */
  botSeat(id: string, seat: number, bot?: string): Promise<TableSummary> {
    return this.json('POST', `/api/tables/${id}/seats/${seat}/bot`, bot === undefined ? {} : { bot });
  }
  /** Makes a new key: of a seat, whose old keys end, or to watch. */
  newKey(id: string, wish: NewKey): Promise<MadeKey> {
    return this.json('POST', `/api/tables/${id}/keys`, wish);
  }

  /** Asks for very many games of a sheet. */
  openTrial(wish: NewTrial): Promise<TrialSummary> {
    return this.json('POST', '/api/trials', wish);
  }
  /** The trials, the latest first. */
  async trials(): Promise<TrialSummary[]> {
    return (await this.json<{ trials: TrialSummary[] }>('GET', '/api/trials')).trials;
  }
  trial(id: string): Promise<Trial> {
    return this.json('GET', `/api/trials/${id}`);
  }
  /** Ends a trial; what it has found is kept. */
  stopTrial(id: string): Promise<Trial> {
    return this.json('POST', `/api/trials/${id}/stop`);
  }
  async deleteTrial(id: string): Promise<void> {
    await this.request('DELETE', `/api/trials/${id}`);
  }
  /** A trial as it grows: each is the whole of it, and the last one is over. */
  followTrial(id: string, signal?: AbortSignal): AsyncGenerator<Trial> {
    return this.heard(`/api/trials/${id}/events`, signal);
  }

  /** The data of server-sent events, until they end. */
  private async *heard<T>(path: string, signal?: AbortSignal): AsyncGenerator<T> {
    const { body } = await this.request('GET', path, undefined, signal);
    const reader = body?.pipeThrough(new TextDecoderStream()).getReader();
    let text = '';
    for (;;) {
      const { value, done } = (await reader?.read()) ?? { value: undefined, done: true };
      if (done) return;
      text += value;
      const events = text.split('\n\n');
      text = events.pop() ?? '';
      for (const event of events) yield JSON.parse(event.slice(event.indexOf('data: ') + 6)) as T;
    }
  }

  /** The drafts of the workshop, the latest first. */
  async drafts(): Promise<DraftSummary[]> {
    return (await this.json<{ drafts: DraftSummary[] }>('GET', '/api/drafts')).drafts;
  }
  draft(id: string): Promise<Draft> {
    return this.json('GET', `/api/drafts/${id}`);
  }
  /** Begins a draft; with the origin of one that is there, that one goes on. */
  addDraft(wish: NewDraft): Promise<Draft> {
    return this.json('POST', '/api/drafts', wish);
  }
  /** Keeps the texts of a draft. @throws ServiceError `changed` where somebody else kept it meanwhile */
  keepDraft(id: string, texts: KeepDraft): Promise<DraftSummary> {
    return this.json('PUT', `/api/drafts/${id}`, texts);
  }
  async deleteDraft(id: string): Promise<void> {
    await this.request('DELETE', `/api/drafts/${id}`);
  }
  /** How a draft came to be, the latest first. */
  async editions(id: string): Promise<EditionSummary[]> {
    return (await this.json<{ editions: EditionSummary[] }>('GET', `/api/drafts/${id}/editions`)).editions;
  }
  edition(id: string, number: number): Promise<Edition> {
    return this.json('GET', `/api/drafts/${id}/editions/${number}`);
  }
  /** Puts a draft on the shelf: its sheet is checked and becomes a version. */
  shelveDraft(id: string, wish: ShelfWish): Promise<Shelved> {
    return this.json('POST', `/api/drafts/${id}/shelf`, wish);
  }
  /** Makes a key with which a draft is looked at, and no more. */
  async shareDraft(id: string): Promise<string> {
    return (await this.json<MadeKey>('POST', `/api/drafts/${id}/keys`)).key;
  }
  /** Ends all keys to look at a draft. */
  async endLooks(id: string): Promise<void> {
    await this.request('DELETE', `/api/drafts/${id}/keys`);
  }
  /** Hears of each time that a draft is kept, of the last time at once. */
  followDraft(id: string, signal?: AbortSignal): AsyncGenerator<{ number: number; window: string | null }> {
    return this.heard(`/api/drafts/${id}/events`, signal);
  }

  /** The state after a number, and the step that led to it. */
  past(id: string, number: number, as?: Viewer): Promise<Past> {
    return this.json('GET', `/api/tables/${id}/past/${number}${query({ as })}`);
  }
  /** Goes on from a number as a new table. */
  branch(id: string, wish: BranchWish): Promise<Opened> {
    return this.json('POST', `/api/tables/${id}/branch`, wish);
  }
  /** Loads a record, as NDJSON, as a new table. */
  loadRecord(record: string, bots = false): Promise<Opened> {
    return this.json('POST', '/api/records', { record, bots });
  }

  /** Follows a table live: a view that keeps itself true, through lost connections too. */
  follow(id: string, options: FollowOptions): Follow {
    return new Follow(this.options, id, options);
  }
}

async function problemIn(response: Response): Promise<ProblemDetails> {
  try {
    return (await response.json()) as ProblemDetails;
  } catch {
    return {
      type: 'urn:wily-jester:problem:internal',
      title: 'No readable answer',
      status: response.status,
      detail: `The service answered ${response.status} without saying why.`,
    };
  }
}
