import { readdirSync, readFileSync } from 'node:fs';
import { digestOfView, type Header, type Program, type Row, replay, type View } from '@wily-jester/core';
import { describe, expect, test } from 'vitest';
import { programOf } from './support.js';

const FOLDER = new URL('./fixtures/', import.meta.url);

/** A record as a release of the past wrote it, with the program that its table was opened on. */
interface OldRecord {
  readonly made: string;
  readonly sheet: string;
  readonly program: Program;
  readonly header: Header;
  readonly rows: readonly Row[];
  /** A digest of the last view of the open viewer, of those who watch, and of each seat. */
  readonly seen: readonly string[];
}

/** What later releases added to views. */
const ADDED: ReadonlySet<string> = new Set(['how', 'sure']);
const asThen = (view: View): unknown =>
  JSON.parse(JSON.stringify(view, (key, value) => (ADDED.has(key) ? undefined : value)));

describe.each(readdirSync(FOLDER))('the record %s', (file) => {
  const old = JSON.parse(readFileSync(new URL(file, FOLDER), 'utf8')) as OldRecord;

  test('leads to the same digests on the program that it was made with', () => {
    const table = replay(old.program, old.header, old.rows, { live: true });
    expect(table.number).toBe(old.rows.at(-1)?.number);
    const viewers = [-2, -1, ...old.header.seats.keys()];
    expect(viewers.map((viewer) => digestOfView(asThen(table.view(viewer))))).toEqual(old.seen);
  });

  test('leads to the same digests on its sheet as it compiles today', () => {
    expect(replay(programOf(old.sheet), old.header, old.rows, { live: true }).number).toBe(old.rows.at(-1)?.number);
  });
});
