import { deserialize, serialize } from 'node:v8';
import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { Frozen, Table } from '@wily-jester/core';
import { RELEASE } from '@wily-jester/protocol';
import { Op } from 'sequelize';
import { CheckpointRow } from '../storage/models.js';

/** A position is kept each so many choices. */
export const EVERY = 5_000;
/** So many of a table are kept, the latest. */
const KEPT = 2;
/** Positions with much to take back are large; one that is larger than this is not kept. */
const MOST_BYTES = 4 * 1024 * 1024;

/** Only the release that wrote a position, on the same kind of machine, reads it. */
const ENGINE = `${RELEASE} ${process.arch}`;

/** Keeps the position in which a table stands, and lets go of older ones. */
export async function keepCheckpoint(tableId: string, table: Table): Promise<void> {
  const { number } = table;
  const position = deflateRawSync(serialize(table.freeze()), { level: 1 });
  if (position.length > MOST_BYTES) return;
  await CheckpointRow.upsert({ tableId, number, engine: ENGINE, position });
  const kept = await CheckpointRow.findAll({
    attributes: ['number'],
    where: { tableId },
    order: [['number', 'DESC']],
    limit: KEPT,
    raw: true,
  });
  const oldest = kept.at(-1)?.number;
  if (oldest !== undefined) await CheckpointRow.destroy({ where: { tableId, number: { [Op.lt]: oldest } } });
}

/**
 * Takes a fresh table to the latest position kept of it, not after a number; one that does not fit is thrown away.
 * @returns the number at which the table stands now: 0 where nothing fits
 */
export async function toCheckpoint(tableId: string, table: Table, latest = Number.MAX_SAFE_INTEGER): Promise<number> {
  const rows = await CheckpointRow.findAll({
    where: { tableId, number: { [Op.lte]: latest } },
    order: [['number', 'DESC']],
    raw: true,
  });
  for (const { number, engine, position } of rows) {
    if (engine === ENGINE && fits(table, position)) return number;
    await CheckpointRow.destroy({ where: { tableId, number } });
  }
  return 0;
}

/** Takes a table to a position, where it can be read and fits: whatever stands there, the table can still be played. */
function fits(table: Table, position: Buffer): boolean {
  try {
    return table.thaw(deserialize(inflateRawSync(position)) as Frozen);
  } catch {
    return false;
  }
}

/** Throws away what is kept of a table, so that it is played from its beginning again. */
export const forgetCheckpoints = (tableId: string): Promise<number> => CheckpointRow.destroy({ where: { tableId } });
