import { Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { keepCopy } from './copies.ts'
import { MIGRATIONS } from './migrations/index.ts'
import { defineModels } from './models/index.ts'

export interface DatabaseSettings {
  readonly host: string
  readonly port: number
  readonly user: string
  readonly password: string
  readonly name: string
  /** Folder for copies that are kept before a migration. */
  readonly copies?: string
}

/** Settings from the environment, as the start command sets them. */
export const databaseSettings = (env: NodeJS.ProcessEnv): DatabaseSettings => ({
  host: env.NEOTAXIS_DB_HOST ?? '127.0.0.1',
  port: Number(env.NEOTAXIS_DB_PORT ?? 3306),
  user: env.NEOTAXIS_DB_USER ?? 'root',
  password: env.NEOTAXIS_DB_PASSWORD ?? '',
  name: env.NEOTAXIS_DB_NAME ?? 'neotaxis',
  copies: env.NEOTAXIS_COPIES,
})

/** Connects, creates the database where it is missing, and brings its tables up to date. */
export async function openDatabase(settings: DatabaseSettings): Promise<Sequelize> {
  const name = safeName(settings)
  const server = new Sequelize('', settings.user, settings.password, optionsOf(settings))
  await server.query(`CREATE DATABASE IF NOT EXISTS \`${name}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`)
  await server.close()
  const sequelize = connection(settings)
  await migrate(sequelize, settings)
  defineModels(sequelize)
  return sequelize
}

const optionsOf = ({ host, port }: DatabaseSettings) => ({
  dialect: 'mysql' as const,
  host,
  port,
  logging: false as const,
  dialectOptions: { connectTimeout: 5000 },
})

/** Only letters that need no quoting. */
const safeName = ({ name }: DatabaseSettings): string => name.replace(/[^A-Za-z0-9_]/g, '')

const connection = (settings: DatabaseSettings, max = 10): Sequelize =>
  new Sequelize(safeName(settings), settings.user, settings.password, { ...optionsOf(settings), pool: { max, idle: 30_000 } })

/** Connects to a database that is up to date already: for threads. */
export function connectDatabase(settings: DatabaseSettings): Sequelize {
  const sequelize = connection(settings, 2)
  defineModels(sequelize)
  return sequelize
}

/** A copy is kept before anything is changed: without it nothing is. */
async function migrate(sequelize: Sequelize, settings: DatabaseSettings): Promise<void> {
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, up }) => ({ name, up: () => up(sequelize.getQueryInterface()) })),
    storage: new SequelizeStorage({ sequelize, modelName: 'migrations' }),
    logger: undefined,
  })
  const pending = await umzug.pending()
  const done = await umzug.executed()
  if (pending.length > 0 && done.length > 0 && settings.copies) await keepCopy(settings, `before ${pending[0].name}`)
  await umzug.up()
}
