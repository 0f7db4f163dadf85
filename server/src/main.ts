import { readFileSync } from 'node:fs'
import { createServer as createPlain, type Server } from 'node:http'
import { createServer as createSecure } from 'node:https'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import pino from 'pino'
import { allowedHosts } from './access/guard.ts'
import { accessSettings } from './access/settings.ts'
import { createApp } from './app.ts'
import { fillCatalogue } from './catalogue.ts'
import { databaseSettings, openDatabase } from './database.ts'
import { fillFonts } from './fonts.ts'
import { readCameras } from './machines/camera.ts'
import { Desks, readSimulated } from './machines/desks.ts'
import { serveLive } from './machines/live.ts'
import { Work } from './work/work.ts'

const log = pino({ level: process.env.NEOTAXIS_LOG ?? 'info' })

/** Something that whoever starts it must put right: one sentence, no stack. */
function giveUp(cause: unknown): never {
  process.stderr.write(`${cause instanceof Error ? cause.message : cause}\n`)
  process.exit(1)
}

async function start(): Promise<void> {
  const access = accessSettings(process.env)
  const database = databaseSettings(process.env)
  const sequelize = await openDatabase(database)
  await fillCatalogue()
  await fillFonts()
  const work = new Work(database)
  const cameras = readCameras(process.env.NEOTAXIS_CAMERAS)
  const desks = new Desks({ simulated: readSimulated(process.env.NEOTAXIS_SIMULATED), log, work, cameras })
  const page = process.env.NEOTAXIS_PAGE ?? join(fileURLToPath(import.meta.url), '../../../web/dist')
  const app = createApp({ sequelize, log, desks, work, access, cameras, page })
  const { tls } = access
  const server: Server = tls
    ? createSecure({ cert: readFileSync(tls.certificate), key: readFileSync(tls.key) }, app)
    : createPlain(app)
  // Longer than pages, programs and proxies leave a connection unused: none of them sends on one that is being closed here.
  server.keepAliveTimeout = 75_000
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(Number(process.env.NEOTAXIS_PORT ?? 4310), access.host, resolve)
  })
  const address = server.address()
  const port = typeof address === 'object' ? address?.port : undefined
  serveLive(server, desks, { hosts: allowedHosts(access.hosts), shopKey: access.shopKey })
  await desks.open(process.env.NEOTAXIS_SELF ?? `${tls ? 'https' : 'http'}://127.0.0.1:${port}`)
  log.info({ address }, 'listening')
  process.send?.({ listening: port })
  void work.warm().catch((err) => log.warn({ err }, 'threads are not warm'))

  // What fails beside a run ends no run.
  process.on('unhandledRejection', (err) => log.error({ err }, 'something failed that nobody waited for'))

  /** Ends open requests first; edits already acknowledged are in the database anyway. */
  let stopping = false
  const stop = async (): Promise<void> => {
    if (stopping) return
    stopping = true
    server.close()
    await desks.close()
    server.closeAllConnections()
    await work.close()
    await sequelize.close()
    process.exit(0)
  }
  process.on('SIGTERM', stop)
  process.on('SIGINT', stop)
  // Whoever started it is gone, even if it was killed: no server stays behind.
  process.on('disconnect', stop)
}

await start().catch(giveUp)
