import { afterEach, describe, expect, it, vi } from 'vitest';
import { listDrafts, listEditions } from '../src/drafts/drafts.js';
import { DraftRow, EditionRow } from '../src/storage/models.js';

afterEach(() => {
  vi.restoreAllMocks();
});

/** The columns that are asked for, by the names under which they come. */
const columnsOf = (options: unknown): string[] =>
  ((options as { attributes?: (string | [unknown, string])[] }).attributes ?? ['all of them']).map((one) =>
    typeof one === 'string' ? one : one[1],
  );

describe('lists of drafts', () => {
  it('read no texts: the database counts their lines', async () => {
    const row = { id: 'abcdefghijkm', title: 'Reeds', number: 3, changedAt: new Date(0), lines: '12' };
    const find = vi.spyOn(DraftRow, 'findAll').mockResolvedValue([row as never]);
    expect(await listDrafts()).toEqual([
      expect.objectContaining({ id: 'abcdefghijkm', title: 'Reeds', number: 3, lines: 12, origin: null }),
    ]);
    expect(columnsOf(find.mock.calls[0]?.[0])).toEqual([
      'id',
      'title',
      'number',
      'changedAt',
      'origin',
      'shelf',
      'writer',
      'lines',
    ]);
  });

  it('nor do lists of their editions', async () => {
    vi.spyOn(DraftRow, 'findByPk').mockResolvedValue({} as never);
    const find = vi.spyOn(EditionRow, 'findAll').mockResolvedValue([]);
    expect(await listEditions('abcdefghijkm')).toEqual([]);
    expect(columnsOf(find.mock.calls[0]?.[0])).toEqual(['number', 'at', 'title', 'shelf', 'lines']);
  });
});
