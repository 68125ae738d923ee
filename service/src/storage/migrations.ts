import { DataTypes, type QueryInterface } from 'sequelize';
import { type RunnableMigration, SequelizeStorage, Umzug } from 'umzug';

const long = () => ({ type: DataTypes.TEXT('long'), allowNull: false });
const moment = () => ({ type: DataTypes.DATE(3), allowNull: false });
const whole = () => ({ type: DataTypes.INTEGER, allowNull: false });
const tableId = () => ({ type: DataTypes.CHAR(12), allowNull: false });
const house = () => ({ type: DataTypes.CHAR(8), allowNull: false, defaultValue: '' });
/** The name that the database gives the first foreign key of its own. */
const TABLE_OF_CHOICE = 'choices_ibfk_1';
const CHARSET = { charset: 'utf8mb4', collate: 'utf8mb4_bin' };

/** The tables that hold words which requests are compared with. */
const COMPARED = ['sheets', 'tables', 'choices', 'keys', 'faults', 'audits', 'houses', 'presences', 'notices'];
/** The name that the database gives the foreign key from a table to its sheet. */
const SHEET_OF_TABLE = 'tables_ibfk_1';

/** Converts all tables to a collation. */
async function collate(query: QueryInterface, collation: string): Promise<void> {
  await query.removeConstraint('tables', SHEET_OF_TABLE);
  for (const table of COMPARED)
    await query.sequelize.query(`ALTER TABLE \`${table}\` CONVERT TO CHARACTER SET utf8mb4 COLLATE ${collation}`);
  await query.addConstraint('tables', {
    name: SHEET_OF_TABLE,
    type: 'foreign key',
    fields: ['sheetHash'],
    references: { table: 'sheets', field: 'hash' },
    onDelete: 'restrict',
    onUpdate: 'restrict',
  });
}

const migrations: RunnableMigration<QueryInterface>[] = [
  {
    name: '001-sheets-tables-choices-keys',
    up: async ({ context: query }) => {
      await query.createTable(
        'sheets',
        {
          hash: { type: DataTypes.CHAR(64), primaryKey: true },
          name: { type: DataTypes.STRING(120), allowNull: false },
          source: long(),
          rehearsals: { type: DataTypes.TEXT('long') },
          program: long(),
          semantics: whole(),
          warnings: long(),
          addedAt: moment(),
        },
        CHARSET,
      );
      await query.addIndex('sheets', ['name', 'addedAt']);
      await query.createTable(
        'tables',
        {
          id: { ...tableId(), primaryKey: true },
          sheetHash: { type: DataTypes.CHAR(64), allowNull: false, references: { model: 'sheets', key: 'hash' } },
          header: long(),
          bots: long(),
          status: { type: DataTypes.STRING(10), allowNull: false },
          number: { ...whole(), defaultValue: 0 },
          chapter: { type: DataTypes.STRING(200), allowNull: false, defaultValue: '' },
          commitment: { type: DataTypes.STRING(64), allowNull: false },
          promisesFairness: { type: DataTypes.BOOLEAN, allowNull: false },
          pace: whole(),
          clocks: { type: DataTypes.BOOLEAN, allowNull: false },
          openedAt: moment(),
          changedAt: moment(),
        },
        CHARSET,
      );
      await query.addIndex('tables', ['openedAt']);
      await query.createTable(
        'choices',
        {
          tableId: { ...tableId(), primaryKey: true, references: { model: 'tables', key: 'id' } },
          number: { ...whole(), primaryKey: true },
          seat: { type: DataTypes.INTEGER },
          by: { type: DataTypes.STRING(10), allowNull: false },
          ask: whole(),
          option: { type: DataTypes.STRING(80), allowNull: false },
          args: long(),
          digest: { type: DataTypes.CHAR(32), allowNull: false },
          once: { type: DataTypes.STRING(80) },
          at: moment(),
        },
        CHARSET,
      );
      await query.addIndex('choices', ['tableId', 'once'], { unique: true });
      await query.createTable(
        'keys',
        {
          hash: { type: DataTypes.CHAR(64), primaryKey: true },
          role: { type: DataTypes.STRING(10), allowNull: false },
          tableId: { type: DataTypes.CHAR(12) },
          seat: { type: DataTypes.INTEGER },
        },
        CHARSET,
      );
    },
    down: async ({ context: query }) => {
      for (const table of ['keys', 'choices', 'tables', 'sheets']) await query.dropTable(table);
    },
  },
  {
    name: '002-faults-audits',
    up: async ({ context: query }) => {
      const id = () => ({ type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true });
      await query.createTable(
        'faults',
        {
          id: id(),
          tableId: tableId(),
          number: whole(),
          message: long(),
          line: whole(),
          column: whole(),
          state: long(),
          at: moment(),
        },
        CHARSET,
      );
      await query.addIndex('faults', ['tableId']);
      await query.createTable(
        'audits',
        {
          id: id(),
          tableId: tableId(),
          what: { type: DataTypes.STRING(40), allowNull: false },
          number: whole(),
          at: moment(),
        },
        CHARSET,
      );
      await query.addIndex('audits', ['tableId']);
    },
    down: async ({ context: query }) => {
      for (const table of ['audits', 'faults']) await query.dropTable(table);
    },
  },
  {
    name: '003-choices-as-sent',
    up: async ({ context: query }) => {
      await query.addColumn('choices', 'sent', { type: DataTypes.TEXT('long') });
    },
    down: async ({ context: query }) => {
      await query.removeColumn('choices', 'sent');
    },
  },
  {
    name: '004-several-processes-seats-branches',
    up: async ({ context: query }) => {
      // One order over all tables, so that a process finds what others have kept since it last looked.
      await query.sequelize.query(
        'ALTER TABLE choices ADD COLUMN seq BIGINT UNSIGNED NOT NULL AUTO_INCREMENT, ADD UNIQUE INDEX choices_seq (seq)',
      );
      await query.addColumn('choices', 'house', house());
      await query.renameColumn('tables', 'bots', 'holders');
      await query.addColumn('tables', 'parentId', { type: DataTypes.CHAR(12) });
      await query.addColumn('tables', 'parentNumber', { type: DataTypes.INTEGER });
      await query.addIndex('keys', ['tableId']);
      await query.createTable('houses', { id: { ...house(), primaryKey: true }, seenAt: moment() }, CHARSET);
      await query.createTable(
        'presences',
        {
          tableId: { ...tableId(), primaryKey: true },
          seat: { ...whole(), primaryKey: true },
          house: { ...house(), primaryKey: true },
        },
        CHARSET,
      );
      await query.createTable(
        'notices',
        {
          id: { type: DataTypes.BIGINT.UNSIGNED, primaryKey: true, autoIncrement: true },
          tableId: tableId(),
          house: house(),
          what: { type: DataTypes.STRING(40), allowNull: false },
          at: moment(),
        },
        CHARSET,
      );
    },
    down: async ({ context: query }) => {
      for (const table of ['notices', 'presences', 'houses']) await query.dropTable(table);
      await query.removeIndex('keys', ['tableId']);
      for (const column of ['parentId', 'parentNumber']) await query.removeColumn('tables', column);
      await query.renameColumn('tables', 'holders', 'bots');
      for (const column of ['house', 'seq']) await query.removeColumn('choices', column);
    },
  },
  {
    name: '005-choices-lock-no-tables',
    up: async ({ context: query }) => {
      // A choice that points at its table's row takes a lock there: while how many tables stand is written, choices
      // waited for it, and those written together were taken back now and then. No table's row is ever deleted.
      await query.removeConstraint('choices', TABLE_OF_CHOICE);
    },
    down: async ({ context: query }) => {
      await query.addConstraint('choices', {
        name: TABLE_OF_CHOICE,
        type: 'foreign key',
        fields: ['tableId'],
        references: { table: 'tables', field: 'id' },
        onDelete: 'restrict',
        onUpdate: 'restrict',
      });
    },
  },
  {
    name: '006-bytes-are-compared',
    // A comparison that pads with spaces takes two words for one, and so made two rooms of one table.
    up: ({ context: query }) => collate(query, 'utf8mb4_nopad_bin'),
    down: ({ context: query }) => collate(query, 'utf8mb4_bin'),
  },
  {
    name: '007-lists-and-unplayable-tables',
    up: async ({ context: query }) => {
      await query.addColumn('tables', 'unplayable', { type: DataTypes.TEXT('long') });
      await query.addColumn('sheets', 'shown', { type: DataTypes.TEXT('long') });
      await query.addIndex('tables', ['status', 'openedAt', 'id']);
      await query.addIndex('tables', ['openedAt', 'id']);
      await query.addIndex('tables', ['sheetHash', 'status']);
    },
    down: async ({ context: query }) => {
      await query.removeIndex('tables', ['sheetHash', 'status']);
      await query.removeIndex('tables', ['openedAt', 'id']);
      await query.removeIndex('tables', ['status', 'openedAt', 'id']);
      await query.removeColumn('sheets', 'shown');
      await query.removeColumn('tables', 'unplayable');
    },
  },
  {
    name: '008-logins',
    up: async ({ context: query }) => {
      await query.createTable(
        'logins',
        { hash: { type: DataTypes.CHAR(64), primaryKey: true }, until: moment() },
        { charset: 'utf8mb4', collate: 'utf8mb4_nopad_bin' },
      );
      await query.addColumn('keys', 'until', { type: DataTypes.DATE(3) });
    },
    down: async ({ context: query }) => {
      await query.removeColumn('keys', 'until');
      await query.dropTable('logins');
    },
  },
  {
    name: '009-checkpoints',
    up: async ({ context: query }) => {
      await query.createTable(
        'checkpoints',
        {
          tableId: { ...tableId(), primaryKey: true },
          number: { ...whole(), primaryKey: true },
          engine: { type: DataTypes.STRING(60), allowNull: false },
          position: { type: DataTypes.BLOB('long'), allowNull: false },
        },
        { charset: 'utf8mb4', collate: 'utf8mb4_nopad_bin' },
      );
      // How many open tables each sheet has is counted without reading a row.
      await query.addIndex('tables', ['status', 'sheetHash']);
    },
    down: async ({ context: query }) => {
      await query.removeIndex('tables', ['status', 'sheetHash']);
      await query.dropTable('checkpoints');
    },
  },
  {
    name: '010-trials',
    up: async ({ context: query }) => {
      await query.createTable(
        'trials',
        {
          id: { ...tableId(), primaryKey: true },
          sheetHash: { type: DataTypes.CHAR(64), allowNull: false },
          title: { type: DataTypes.STRING(120), allowNull: false },
          wish: long(),
          status: { type: DataTypes.STRING(10), allowNull: false },
          asked: whole(),
          played: { ...whole(), defaultValue: 0 },
          seconds: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 },
          kept: { type: DataTypes.TEXT('long') },
          figures: { type: DataTypes.TEXT('long') },
          problem: { type: DataTypes.STRING(500) },
          openedAt: moment(),
          heldUntil: moment(),
        },
        { charset: 'utf8mb4', collate: 'utf8mb4_nopad_bin' },
      );
      await query.addIndex('trials', ['status', 'heldUntil']);
      await query.addIndex('trials', ['openedAt']);
    },
    down: async ({ context: query }) => {
      await query.dropTable('trials');
    },
  },
  {
    name: '011-drafts',
    up: async ({ context: query }) => {
      const common = { charset: 'utf8mb4', collate: 'utf8mb4_nopad_bin' };
      const texts = () => ({ sheet: long(), rehearsals: long(), parts: long() });
      await query.createTable(
        'drafts',
        {
          id: { ...tableId(), primaryKey: true },
          title: { type: DataTypes.STRING(120), allowNull: false },
          number: whole(),
          ...texts(),
          origin: { type: DataTypes.STRING(500) },
          originHash: { type: DataTypes.CHAR(64), unique: true },
          shelf: { type: DataTypes.CHAR(64) },
          writer: { type: DataTypes.STRING(60) },
          changedAt: moment(),
        },
        common,
      );
      await query.addIndex('drafts', ['changedAt']);
      await query.createTable(
        'editions',
        {
          draftId: { ...tableId(), primaryKey: true },
          number: { ...whole(), primaryKey: true },
          title: { type: DataTypes.STRING(120), allowNull: false },
          ...texts(),
          shelf: { type: DataTypes.CHAR(64) },
          at: moment(),
        },
        common,
      );
    },
    down: async ({ context: query }) => {
      await query.dropTable('editions');
      await query.dropTable('drafts');
    },
  },
  {
    name: '012-hints',
    up: async ({ context: query }) => {
      await query.addColumn('tables', 'hints', { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true });
    },
    down: async ({ context: query }) => {
      await query.removeColumn('tables', 'hints');
    },
  },
  {
    name: '013-developers',
    up: async ({ context: query }) => {
      // Until now there was one.
      const developer = { type: DataTypes.STRING(30), allowNull: false, defaultValue: 'first' };
      for (const table of ['tables', 'trials', 'logins']) await query.addColumn(table, 'developer', { ...developer });
      await query.addColumn('keys', 'developer', { type: DataTypes.STRING(30) });
      await query.sequelize.query("UPDATE `keys` SET `developer` = 'first' WHERE `role` = 'developer'");
      await query.addColumn('audits', 'by', { type: DataTypes.STRING(30) });
    },
    down: async ({ context: query }) => {
      await query.removeColumn('audits', 'by');
      for (const table of ['keys', 'logins', 'trials', 'tables']) await query.removeColumn(table, 'developer');
    },
  },
  {
    name: '014-thinkers',
    up: async ({ context: query }) => {
      await query.addColumn('tables', 'thinker', { type: DataTypes.CHAR(8) });
      await query.addColumn('tables', 'thinkerUntil', { type: DataTypes.DATE(3) });
    },
    down: async ({ context: query }) => {
      await query.removeColumn('tables', 'thinkerUntil');
      await query.removeColumn('tables', 'thinker');
    },
  },
  {
    name: '015-gatherings',
    up: async ({ context: query }) => {
      await query.createTable(
        'gatherings',
        {
          id: { ...tableId(), primaryKey: true },
          developer: { type: DataTypes.STRING(30), allowNull: false },
          wish: long(),
          state: long(),
          isOpen: { type: DataTypes.BOOLEAN, allowNull: false },
          endsAt: moment(),
        },
        { charset: 'utf8mb4', collate: 'utf8mb4_nopad_bin' },
      );
      await query.addIndex('gatherings', ['isOpen', 'endsAt']);
    },
    down: async ({ context: query }) => {
      await query.dropTable('gatherings');
    },
  },
];

/** Brings the database to this version's form. */
export async function migrate(query: QueryInterface): Promise<void> {
  const umzug = new Umzug({
    migrations,
    context: query,
    storage: new SequelizeStorage({ sequelize: query.sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  await umzug.up();
}
