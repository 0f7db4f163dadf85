// `npm run backup [-- demo]`, `npm run restore -- FILE [demo]`: all data as one file, and back.
import { spawnSync } from 'node:child_process'
import { readdirSync } from 'node:fs'
import { buildPrograms, program } from './build.mjs'
import { runningIn, startDatabase } from './database.mjs'
import { dataDirectory, debianPackages, npmPackages } from './prepare.mjs'
import { restoreCopy } from './restore.mjs'

const [what, ...args] = process.argv.slice(2)
const which = args.includes('demo') ? 'demo' : 'shop'
const file = args.find((arg) => arg !== 'demo')
let database
try {
  debianPackages(['mariadb-server'])
  npmPackages()
  await buildPrograms()
  const folder = dataDirectory(which)
  // A copy is taken of what runs; nothing is brought back under it.
  const running = runningIn(folder)
  if (what === 'backup' && readdirSync(folder).length === 0)
    throw new Error(`There are no data in ${folder}: there is nothing to keep.`)
  if (running && what === 'restore')
    throw new Error(`Neotaxis runs on these data (process ${running.owner}): end it first, then bring them back.`)
  if (!running) database = await startDatabase(folder)
  const port = running?.port ?? database.port
  const copies = dataDirectory('copies')
  if (what === 'backup') {
    const env = { ...process.env, NEOTAXIS_DB_PORT: String(port), NEOTAXIS_COPIES: copies }
    process.exitCode = spawnSync(process.execPath, [program('server', 'copies')], { env, stdio: 'inherit' }).status ?? 1
  } else {
    if (!file) throw new Error('Which copy? npm run restore -- FILE')
    const old = await restoreCopy(file, port, 'neotaxis')
    process.stdout.write(`The data of ${file} are in place.${old ? ` Those before stay in the database ${old}.` : ''}\n`)
  }
} catch (error) {
  process.stderr.write(`${error.message}\n`)
  process.exitCode = 1
} finally {
  await database?.stop()
}
