import { ConnectionError, ForeignKeyConstraintError, Sequelize, UniqueConstraintError } from 'sequelize';
import { migrate } from './migrations.js';
import { bindModels } from './models.js';

/** Connects, binds the models and migrates. */
export async function openDatabase(address: string): Promise<Sequelize> {
  const sequelize = new Sequelize(address, {
    dialect: 'mariadb',
    logging: false,
    define: { charset: 'utf8mb4' },
    pool: { max: 12, min: 0, acquire: 3_000, idle: 10_000 },
    dialectOptions: { connectTimeout: 2_000 },
  });
  await sequelize.authenticate();
  bindModels(sequelize);
  await migrate(sequelize.getQueryInterface());
  return sequelize;
}

/** Whether a row was there already. */
export const isTaken = (error: unknown): boolean => error instanceof UniqueConstraintError;
/** Whether the database did not answer, so that trying again later may do. */
export const isAway = (error: unknown): boolean =>
  error instanceof ConnectionError ||
  (error instanceof Error &&
    /pool|ECONN|timeout|closed|socket/i.test(`${error.name} ${error.message}`) &&
    !(error instanceof ForeignKeyConstraintError));
