import { spawn } from 'node:child_process'
import { createWriteStream, existsSync } from 'node:fs'
import { mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { createGzip } from 'node:zlib'
import type { DatabaseSettings } from './database.ts'

const PLACES = ['/usr/bin', '/usr/local/bin', '/bin']
const program = (name: string): string => PLACES.map((place) => join(place, name)).find(existsSync) ?? name

/**
 * Keeps a copy of the whole database, assets too, in the folder for copies: one file, whole or not there.
 * `npm run restore` reads it. @throws Error with a sentence where it cannot be kept
 */
export async function keepCopy(settings: DatabaseSettings, why: string): Promise<string> {
  const { host, port, user, name, copies } = settings
  if (!copies) throw new Error('There is no folder for copies.')
  await mkdir(copies, { recursive: true })
  const stamp = new Date().toISOString().replace(/[:.]/g, '-')
  const file = join(copies, `${stamp} ${why.replace(/[^\w -]/g, '')}.sql.gz`)
  const part = `${file}.part`
  const dump = spawn(
    program('mariadb-dump'),
    [
      '--no-defaults',
      `--host=${host}`,
      `--port=${port}`,
      `--user=${user}`,
      '--single-transaction',
      '--quick',
      '--hex-blob',
      name,
    ],
    { stdio: ['ignore', 'pipe', 'pipe'], env: { ...process.env, MYSQL_PWD: settings.password } },
  )
  let said = ''
  dump.stderr.on('data', (data: Buffer) => {
    said += data.toString('utf8')
  })
  const ended = new Promise<number>((resolve) => {
    dump.once('error', () => resolve(1))
    dump.once('exit', (code) => resolve(code ?? 1))
  })
  try {
    await pipeline(dump.stdout, createGzip(), createWriteStream(part))
    if ((await ended) !== 0) throw new Error(said.trim())
    await rename(part, file)
  } catch (cause) {
    await rm(part, { force: true })
    throw new Error(`No copy of the data could be kept (${cause instanceof Error ? cause.message : cause}): nothing is changed.`)
  }
  return file
}
