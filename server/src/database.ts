import { Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { MIGRATIONS } from './migrations/index.ts'
import { defineModels } from './models/index.ts'

export interface DatabaseSettings {
  readonly host: string
  readonly port: number
  readonly user: string
  readonly password: string
  readonly name: string
}

/** Settings from the environment, as the start command sets them. */
export const databaseSettings = (env: NodeJS.ProcessEnv): DatabaseSettings => ({
  host: env.NEOTAXIS_DB_HOST ?? '127.0.0.1',
  port: Number(env.NEOTAXIS_DB_PORT ?? 3306),
  user: env.NEOTAXIS_DB_USER ?? 'root',
  password: env.NEOTAXIS_DB_PASSWORD ?? '',
  name: env.NEOTAXIS_DB_NAME ?? 'neotaxis',
})

/** Connects, creates the database where it is missing, and brings its tables up to date. */
export async function openDatabase(settings: DatabaseSettings): Promise<Sequelize> {
  const options = {
    dialect: 'mysql' as const,
    host: settings.host,
    port: settings.port,
    logging: false,
    dialectOptions: { connectTimeout: 5000 },
  }
  const name = settings.name.replace(/[^A-Za-z0-9_]/g, '')
  const server = new Sequelize('', settings.user, settings.password, options)
  await server.query(`CREATE DATABASE IF NOT EXISTS \`${name}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`)
  await server.close()
  const sequelize = new Sequelize(name, settings.user, settings.password, { ...options, pool: { max: 10, idle: 30_000 } })
  await migrate(sequelize)
  defineModels(sequelize)
  return sequelize
}

async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, up }) => ({ name, up: () => up(sequelize.getQueryInterface()) })),
    storage: new SequelizeStorage({ sequelize, modelName: 'migrations' }),
    logger: undefined,
  })
  await umzug.up()
}
