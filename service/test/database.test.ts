import { ConnectionRefusedError, DatabaseError, UniqueConstraintError } from 'sequelize';
import { describe, expect, it } from 'vitest';
import { passingProblem } from '../src/failure.js';
import { isAway, isContested, isTaken } from '../src/storage/database.js';

/** An error as the driver gives it. */
const said = (errno: number, sqlState: string, fatal: boolean, message: string): Error =>
  Object.assign(new Error(message), { errno, sqlState, fatal });

const KILLED = said(1927, '70100', true, 'Connection was killed');
const SHUTDOWN = said(1053, '08S01', false, 'Server shutdown in progress');
const INTERRUPTED = said(1317, '70100', false, 'Query execution was interrupted');
const TAKEN = said(1062, '23000', false, "Duplicate entry 'a-1' for key 'PRIMARY'");
const DEADLOCK = said(1213, '40001', false, 'Deadlock found when trying to get lock; try restarting transaction');
const LONG_WAIT = said(1205, 'HY000', false, 'Lock wait timeout exceeded; try restarting transaction');
const WRONG = said(1054, '42S22', false, "Unknown column 'nothing'");

describe('what the database says', () => {
  it.each([KILLED, SHUTDOWN, INTERRUPTED])('is that it is away: %s', (error) => {
    expect(isAway(error)).toBe(true);
    expect(isAway(new DatabaseError(error as never))).toBe(true);
    expect(isTaken(error)).toBe(false);
  });

  it("is that it is away, in the library's own words", () => {
    expect(isAway(new ConnectionRefusedError(new Error('connect ECONNREFUSED')))).toBe(true);
    expect(isAway(new Error('(conn:-1) socket has unexpectedly been closed'))).toBe(true);
  });

  it.each([
    said(1114, 'HY000', false, "The table 'choices' is full"),
    said(1026, 'HY000', false, 'Error writing file'),
    said(1030, 'HY000', false, 'Got error 28 "No space left on device" from storage engine'),
    said(3, 'HY000', false, 'Error writing file (errno: 28 "No space left on device")'),
  ])('is that there is no room, which passes: %s', (error) => {
    for (const wrapped of [error, new DatabaseError(error as never)]) {
      expect(isAway(wrapped)).toBe(true);
      expect(passingProblem(wrapped)).toMatchObject({ kind: 'unavailable', extra: { retryAfter: 5 } });
    }
  });

  it('is that a row is there already, which is no reason to wait', () => {
    for (const error of [TAKEN, new UniqueConstraintError({})]) {
      expect(isTaken(error)).toBe(true);
      expect(isAway(error)).toBe(false);
    }
  });

  it.each([DEADLOCK, LONG_WAIT])('is that others were in the way, which has a word of its own: %s', (error) => {
    for (const wrapped of [error, new DatabaseError(error as never)]) {
      expect(isContested(wrapped)).toBe(true);
      expect(isAway(wrapped) || isTaken(wrapped)).toBe(false);
      expect(passingProblem(wrapped)).toMatchObject({
        kind: 'unavailable',
        message: expect.stringMatching(/try again/),
      });
    }
  });

  it('is none of these, where something is wrong with what was asked', () => {
    for (const error of [WRONG, new DatabaseError(WRONG as never), new Error('no'), null, undefined]) {
      expect(isAway(error) || isTaken(error) || isContested(error)).toBe(false);
      expect(passingProblem(error)).toBeNull();
    }
  });
});
