import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize,
} from 'sequelize';

/** The developer whose key lies in the data folder: all that earlier releases knew. */
export const FIRST_DEVELOPER = 'first';

/** One version of a sheet; it never changes. */
export class SheetRow extends Model<InferAttributes<SheetRow>, InferCreationAttributes<SheetRow>> {
  declare hash: string;
  declare name: string;
  declare source: string;
  declare rehearsals: string | null;
  /** The compiled program, as JSON. */
  declare program: string;
  declare semantics: number;
  declare warnings: string;
  declare addedAt: Date;
  /** What lists show of it, as JSON; `null` in rows of earlier releases until somebody lists them. */
  declare shown: CreationOptional<string | null>;
}

export type TableStatus = 'open' | 'over' | 'closed' | 'fault';

/** A table: what it was opened with, and how it stands. States follow from its choices. */
export class TableRow extends Model<InferAttributes<TableRow>, InferCreationAttributes<TableRow>> {
  declare id: string;
  declare sheetHash: string;
  /** Seats, settings, seed and promised cards, as JSON. */
  declare header: string;
  /** Who holds each seat, as JSON. */
  declare holders: string;
  declare status: TableStatus;
  declare number: CreationOptional<number>;
  declare chapter: CreationOptional<string>;
  declare commitment: string;
  declare promisesFairness: boolean;
  declare pace: number;
  declare clocks: boolean;
  declare hints: CreationOptional<boolean>;
  declare openedAt: Date;
  declare changedAt: Date;
  /** The table that this one branched off, and at which number. */
  declare parentId: CreationOptional<string | null>;
  declare parentNumber: CreationOptional<number | null>;
  /** Who opened it. */
  declare developer: CreationOptional<string>;
  /** Why it cannot be played again, as JSON; `null` for all others. */
  declare unplayable: CreationOptional<string | null>;
  /** The process that thinks for its seats, and until when no other one does. */
  declare thinker: CreationOptional<string | null>;
  declare thinkerUntil: CreationOptional<Date | null>;
}

/** A choice that was carried out. */
export class ChoiceRow extends Model<InferAttributes<ChoiceRow>, InferCreationAttributes<ChoiceRow>> {
  declare tableId: string;
  declare number: number;
  declare seat: number | null;
  declare by: string;
  declare ask: number;
  declare option: string;
  declare args: string;
  declare digest: string;
  /** The client's own word, with its seat before it; unique in its table. */
  declare once: string | null;
  /** The values as the client wrote them, as JSON: it may name a card by its face. */
  declare sent: CreationOptional<string | null>;
  declare at: Date;
  /** The process that kept it. */
  declare house: CreationOptional<string>;
  /** Its place in the order of all choices, given by the database. */
  declare seq: CreationOptional<number>;
}

/** A position of a long table, so that it need not be played from its beginning again. */
export class CheckpointRow extends Model<InferAttributes<CheckpointRow>, InferCreationAttributes<CheckpointRow>> {
  declare tableId: string;
  declare number: number;
  /** The release that wrote it: no other one reads it. */
  declare engine: string;
  declare position: Buffer;
}

/** A key, kept as its hash. */
export class KeyRow extends Model<InferAttributes<KeyRow>, InferCreationAttributes<KeyRow>> {
  declare hash: string;
  declare role: 'developer' | 'host' | 'seat' | 'watch' | 'look';
  /** The table, or for a key to look the draft, that it belongs to. */
  declare tableId: string | null;
  declare seat: number | null;
  /** Whose it is, of a developer's keys and sessions. */
  declare developer: CreationOptional<string | null>;
  /** When it ends by itself; `null` for keys that do not. */
  declare until: CreationOptional<Date | null>;
}

/** A table whose seats give chance before anything is dealt. */
export class GatheringRow extends Model<InferAttributes<GatheringRow>, InferCreationAttributes<GatheringRow>> {
  /** The table's. */
  declare id: string;
  declare developer: string;
  /** What the table is opened with, as JSON. */
  declare wish: string;
  /** How it stands, as JSON. */
  declare state: string;
  /** Whether all was shown. */
  declare isOpen: boolean;
  /** When it is forgotten. */
  declare endsAt: Date;
}

/** A word with which a page becomes a developer's, kept as its hash. */
export class LoginRow extends Model<InferAttributes<LoginRow>, InferCreationAttributes<LoginRow>> {
  declare hash: string;
  /** Who made it, and whoever uses it comes in as. */
  declare developer: CreationOptional<string>;
  declare until: Date;
}

/** A fault of a live table, with the state that it happened in. */
export class FaultRow extends Model<InferAttributes<FaultRow>, InferCreationAttributes<FaultRow>> {
  declare id: CreationOptional<number>;
  declare tableId: string;
  declare number: number;
  declare message: string;
  declare line: number;
  declare column: number;
  declare state: string;
  declare at: Date;
}

/** Something that was looked at with a developer's key: open hands. */
export class AuditRow extends Model<InferAttributes<AuditRow>, InferCreationAttributes<AuditRow>> {
  declare id: CreationOptional<number>;
  declare tableId: string;
  declare what: string;
  declare number: number;
  /** Who did it: a developer's name, or which key; `null` in rows of earlier releases. */
  declare by: CreationOptional<string | null>;
  declare at: Date;
}

/** A trial: what was asked, how far it is, and what was found. */
export class TrialRow extends Model<InferAttributes<TrialRow>, InferCreationAttributes<TrialRow>> {
  declare id: string;
  declare sheetHash: string;
  declare title: string;
  /** What was asked, as JSON. */
  declare wish: string;
  declare status: 'waiting' | 'running' | 'done' | 'stopped' | 'failed';
  declare asked: number;
  /** Who asked for it. */
  declare developer: CreationOptional<string>;
  declare played: CreationOptional<number>;
  /** How long it has been played. */
  declare seconds: CreationOptional<number>;
  /** Its sums so far, as JSON, from which it goes on; `null` once it is over. */
  declare kept: CreationOptional<string | null>;
  /** Its figures, as JSON. */
  declare figures: CreationOptional<string | null>;
  declare problem: CreationOptional<string | null>;
  declare openedAt: Date;
  /** The process that plays it says so until then; another one may take it up after. */
  declare heldUntil: Date;
}

/** A draft of the workshop, as it was kept last. */
export class DraftRow extends Model<InferAttributes<DraftRow>, InferCreationAttributes<DraftRow>> {
  declare id: string;
  declare title: string;
  declare number: number;
  declare sheet: string;
  declare rehearsals: string;
  /** Parts of its own by name, as JSON. */
  declare parts: string;
  declare origin: CreationOptional<string | null>;
  declare originHash: CreationOptional<string | null>;
  declare shelf: CreationOptional<string | null>;
  /** Who kept it last, in its own word. */
  declare writer: CreationOptional<string | null>;
  declare changedAt: Date;
}

/** A draft as it once was. */
export class EditionRow extends Model<InferAttributes<EditionRow>, InferCreationAttributes<EditionRow>> {
  declare draftId: string;
  declare number: number;
  declare title: string;
  declare sheet: string;
  declare rehearsals: string;
  declare parts: string;
  declare shelf: CreationOptional<string | null>;
  declare at: Date;
}

/** A process of the service that is up. */
export class HouseRow extends Model<InferAttributes<HouseRow>, InferCreationAttributes<HouseRow>> {
  declare id: string;
  declare seenAt: Date;
}

/** A seat that is connected to a process. */
export class PresenceRow extends Model<InferAttributes<PresenceRow>, InferCreationAttributes<PresenceRow>> {
  declare tableId: string;
  declare seat: number;
  declare house: string;
}

/** Something other than a choice that changed at a table, for the other processes to hear of. */
export class NoticeRow extends Model<InferAttributes<NoticeRow>, InferCreationAttributes<NoticeRow>> {
  declare id: CreationOptional<number>;
  declare tableId: string;
  declare house: string;
  declare what: string;
  declare at: Date;
}

const hash = (primaryKey: boolean) => ({ type: DataTypes.CHAR(64), primaryKey, allowNull: false }) as const;
const house = (primaryKey: boolean) => ({ type: DataTypes.CHAR(8), primaryKey, allowNull: false }) as const;
// Each column gets a definition of its own: the library writes into them.
const text = () => ({ type: DataTypes.TEXT('long'), allowNull: false }) as const;
const moment = () => ({ type: DataTypes.DATE(3), allowNull: false }) as const;
const whole = () => ({ type: DataTypes.INTEGER, allowNull: false }) as const;
const developer = () => ({ type: DataTypes.STRING(30), allowNull: false, defaultValue: FIRST_DEVELOPER }) as const;

/** Binds the models to a connection. The tables themselves are made by the migrations. */
export function bindModels(sequelize: Sequelize): void {
  const common = { sequelize, timestamps: false } as const;
  SheetRow.init(
    {
      hash: hash(true),
      name: { type: DataTypes.STRING(120), allowNull: false },
      source: text(),
      rehearsals: { type: DataTypes.TEXT('long') },
      program: text(),
      semantics: whole(),
      warnings: text(),
      addedAt: moment(),
      shown: { type: DataTypes.TEXT('long') },
    },
    { ...common, tableName: 'sheets' },
  );
  TableRow.init(
    {
      id: { type: DataTypes.CHAR(12), primaryKey: true },
      sheetHash: hash(false),
      header: text(),
      holders: text(),
      status: { type: DataTypes.STRING(10), allowNull: false },
      number: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      chapter: { type: DataTypes.STRING(200), allowNull: false, defaultValue: '' },
      commitment: { type: DataTypes.STRING(64), allowNull: false },
      promisesFairness: { type: DataTypes.BOOLEAN, allowNull: false },
      pace: whole(),
      clocks: { type: DataTypes.BOOLEAN, allowNull: false },
      hints: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
      openedAt: moment(),
      changedAt: moment(),
      parentId: { type: DataTypes.CHAR(12) },
      parentNumber: { type: DataTypes.INTEGER },
      developer: developer(),
      unplayable: { type: DataTypes.TEXT('long') },
      thinker: { type: DataTypes.CHAR(8) },
      thinkerUntil: { type: DataTypes.DATE(3) },
    },
    { ...common, tableName: 'tables' },
  );
  ChoiceRow.init(
    {
      tableId: { type: DataTypes.CHAR(12), primaryKey: true },
      number: { type: DataTypes.INTEGER, primaryKey: true },
      seat: { type: DataTypes.INTEGER },
      by: { type: DataTypes.STRING(10), allowNull: false },
      ask: whole(),
      option: { type: DataTypes.STRING(80), allowNull: false },
      args: text(),
      digest: { type: DataTypes.CHAR(32), allowNull: false },
      once: { type: DataTypes.STRING(80) },
      sent: { type: DataTypes.TEXT('long') },
      at: moment(),
      house: { type: DataTypes.CHAR(8), allowNull: false, defaultValue: '' },
      seq: { type: DataTypes.BIGINT.UNSIGNED, unique: true },
    },
    { ...common, tableName: 'choices' },
  );
  CheckpointRow.init(
    {
      tableId: { type: DataTypes.CHAR(12), primaryKey: true },
      number: { type: DataTypes.INTEGER, primaryKey: true },
      engine: { type: DataTypes.STRING(60), allowNull: false },
      position: { type: DataTypes.BLOB('long'), allowNull: false },
    },
    { ...common, tableName: 'checkpoints' },
  );
  KeyRow.init(
    {
      hash: hash(true),
      role: { type: DataTypes.STRING(10), allowNull: false },
      tableId: { type: DataTypes.CHAR(12) },
      seat: { type: DataTypes.INTEGER },
      developer: { type: DataTypes.STRING(30) },
      until: { type: DataTypes.DATE(3) },
    },
    { ...common, tableName: 'keys' },
  );
  LoginRow.init({ hash: hash(true), developer: developer(), until: moment() }, { ...common, tableName: 'logins' });
  FaultRow.init(
    {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      tableId: { type: DataTypes.CHAR(12), allowNull: false },
      number: whole(),
      message: text(),
      line: whole(),
      column: whole(),
      state: text(),
      at: moment(),
    },
    { ...common, tableName: 'faults' },
  );
  AuditRow.init(
    {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      tableId: { type: DataTypes.CHAR(12), allowNull: false },
      what: { type: DataTypes.STRING(40), allowNull: false },
      number: whole(),
      by: { type: DataTypes.STRING(30) },
      at: moment(),
    },
    { ...common, tableName: 'audits' },
  );
  TrialRow.init(
    {
      id: { type: DataTypes.CHAR(12), primaryKey: true },
      sheetHash: hash(false),
      title: { type: DataTypes.STRING(120), allowNull: false },
      wish: text(),
      status: { type: DataTypes.STRING(10), allowNull: false },
      asked: whole(),
      developer: developer(),
      played: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      seconds: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 },
      kept: { type: DataTypes.TEXT('long') },
      figures: { type: DataTypes.TEXT('long') },
      problem: { type: DataTypes.STRING(500) },
      openedAt: moment(),
      heldUntil: moment(),
    },
    { ...common, tableName: 'trials' },
  );
  const draftTexts = () => ({ sheet: text(), rehearsals: text(), parts: text() });
  DraftRow.init(
    {
      id: { type: DataTypes.CHAR(12), primaryKey: true },
      title: { type: DataTypes.STRING(120), allowNull: false },
      number: whole(),
      ...draftTexts(),
      origin: { type: DataTypes.STRING(500) },
      originHash: { type: DataTypes.CHAR(64) },
      shelf: { type: DataTypes.CHAR(64) },
      writer: { type: DataTypes.STRING(60) },
      changedAt: moment(),
    },
    { ...common, tableName: 'drafts' },
  );
  EditionRow.init(
    {
      draftId: { type: DataTypes.CHAR(12), primaryKey: true },
      number: { type: DataTypes.INTEGER, primaryKey: true },
      title: { type: DataTypes.STRING(120), allowNull: false },
      ...draftTexts(),
      shelf: { type: DataTypes.CHAR(64) },
      at: moment(),
    },
    { ...common, tableName: 'editions' },
  );
  GatheringRow.init(
    {
      id: { type: DataTypes.CHAR(12), primaryKey: true },
      developer: developer(),
      wish: text(),
      state: text(),
      isOpen: { type: DataTypes.BOOLEAN, allowNull: false },
      endsAt: moment(),
    },
    { ...common, tableName: 'gatherings' },
  );
  HouseRow.init({ id: house(true), seenAt: moment() }, { ...common, tableName: 'houses' });
  PresenceRow.init(
    {
      tableId: { type: DataTypes.CHAR(12), primaryKey: true },
      seat: { type: DataTypes.INTEGER, primaryKey: true },
      house: house(true),
    },
    { ...common, tableName: 'presences' },
  );
  NoticeRow.init(
    {
      id: { type: DataTypes.BIGINT.UNSIGNED, primaryKey: true, autoIncrement: true },
      tableId: { type: DataTypes.CHAR(12), allowNull: false },
      house: house(false),
      what: { type: DataTypes.STRING(40), allowNull: false },
      at: moment(),
    },
    { ...common, tableName: 'notices' },
  );
}
