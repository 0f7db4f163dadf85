// A server of a test's own, on a database of its own: without a port, as supertest takes it.
import { wrongAnswer } from '@neotaxis/contract'
import pino from 'pino'
import type { Sequelize } from 'sequelize'
import request from 'supertest'
import type TestAgent from 'supertest/lib/agent.js'
import { buildPrograms, program } from '../../../scripts/build.mjs'
import { type AccessSettings, OPEN_ACCESS } from '../access/settings.ts'
import { createApp } from '../app.ts'
import { fillCatalogue } from '../catalogue.ts'
import { databaseSettings, openDatabase } from '../database.ts'
import type { CameraReach } from '../machines/camera.ts'
import { Desks, type Simulated } from '../machines/desks.ts'
import { lookAtAnswers } from '../routes/endpoint.ts'
import { Work } from '../work/work.ts'

export interface Shop {
  readonly sequelize: Sequelize
  readonly work: Work
  readonly desks: Desks
  readonly app: ReturnType<typeof createApp>
  /** Asks as a page does: with JSON, or as a file. */
  readonly ask: TestAgent
  /** The server ends, and another one begins on the same database. */
  restart(): Promise<Shop>
  end(): Promise<void>
}

export interface ShopSetting {
  readonly name: string
  readonly simulated?: Simulated
  readonly access?: Partial<AccessSettings>
  readonly cameras?: ReadonlyMap<string, CameraReach>
}

// Whatever a test asks: what is answered is what was promised.
lookAtAnswers((name, answer) => {
  const wrong = wrongAnswer(name, answer)
  if (wrong) throw new Error(`${name} answers otherwise than promised: ${wrong}`)
})

const log = pino({ level: process.env.NEOTAXIS_LOG === 'debug' ? 'debug' : 'silent' })

/** Opens a shop. Its database is dropped when it ends. */
export async function openShop(setting: ShopSetting): Promise<Shop> {
  const database = { ...databaseSettings(process.env), name: `${setting.name}_${process.pid}` }
  const sequelize = await openDatabase(database)
  await fillCatalogue()
  // Built threads are there at once; loaders of TypeScript in each would take seconds.
  await buildPrograms()
  return serverOn(setting, sequelize, new Work(database, program('server', 'tasks')))
}

/** A server on a database that is open. @param url where other servers reach it */
export async function serverOn(setting: ShopSetting, sequelize: Sequelize, work: Work, url = ''): Promise<Shop> {
  const desks = new Desks({ simulated: setting.simulated ?? new Map(), log, work, cameras: setting.cameras ?? new Map() })
  await desks.open(url)
  const app = createApp({
    sequelize,
    log,
    desks,
    work,
    access: { ...OPEN_ACCESS, ...setting.access },
    cameras: setting.cameras ?? new Map(),
  })
  const ask = request.agent(app).set('Content-Type', 'application/json')
  return {
    sequelize,
    work,
    desks,
    app,
    ask,
    async restart() {
      await desks.close()
      return serverOn(setting, sequelize, work)
    },
    async end() {
      await desks.close()
      await work.close()
      await sequelize.query(`DROP DATABASE \`${sequelize.getDatabaseName()}\``)
      await sequelize.close()
    },
  }
}
