import { ConnectionError } from 'sequelize';
import { describe, expect, it } from 'vitest';
import { toldError } from '../src/log.js';

describe('an error in the log', () => {
  it("of a line that was reset is the system's, and says so", () => {
    const reset = Object.assign(new Error('read ECONNRESET'), { errno: -104, code: 'ECONNRESET', syscall: 'read' });
    expect(toldError(reset)).toMatchObject({ message: 'read ECONNRESET', errno: -104 });
  });

  it('of the database tells its number and no statement', () => {
    const driver = Object.assign(new Error('(conn:1) Duplicate entry - sql: INSERT … parameters:[secret]'), {
      errno: 1062,
      sqlState: '23000',
      sqlMessage: 'Duplicate entry',
    });
    expect(toldError(new ConnectionError(driver))).toMatchObject({ message: 'Duplicate entry', errno: 1062 });
    expect(JSON.stringify(toldError(new ConnectionError(driver)))).not.toContain('secret');
  });
});
