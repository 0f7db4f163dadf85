import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import pino from 'pino'
import { createApp } from './app.ts'
import { fillCatalogue } from './catalogue.ts'
import { databaseSettings, openDatabase } from './database.ts'
import { fillFonts } from './fonts.ts'
import { Desks, readSimulated } from './machines/desks.ts'
import { serveLive } from './machines/live.ts'

const log = pino({ level: process.env.NEOTAXIS_LOG ?? 'info' })
const sequelize = await openDatabase(databaseSettings(process.env))
await fillCatalogue()
await fillFonts()
const desks = new Desks(readSimulated(process.env.NEOTAXIS_SIMULATED), log)
const page = process.env.NEOTAXIS_PAGE ?? join(fileURLToPath(import.meta.url), '../../../web/dist')
const server = createApp({ sequelize, log, desks, page }).listen(
  Number(process.env.NEOTAXIS_PORT ?? 4310),
  process.env.NEOTAXIS_HOST ?? '127.0.0.1',
  () => {
    const address = server.address()
    log.info({ address }, 'listening')
    process.send?.({ listening: typeof address === 'object' ? address?.port : address })
  },
)
serveLive(server, desks)
await desks.open()
server.on('error', (error) => {
  log.error({ err: error }, 'cannot listen')
  process.exit(1)
})

/** Ends open requests first; edits already acknowledged are in the database anyway. */
async function stop(): Promise<void> {
  server.close()
  await desks.close()
  server.closeAllConnections()
  await sequelize.close()
  process.exit(0)
}
process.on('SIGTERM', stop)
process.on('SIGINT', stop)
// Whoever started it is gone, even if it was killed: no server stays behind.
process.on('disconnect', stop)
