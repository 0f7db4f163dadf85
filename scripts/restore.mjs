// Bringing all data back from one file, as `npm run backup` and every migration keep it.
import { spawn } from 'node:child_process'
import { createReadStream, existsSync } from 'node:fs'
import { finished, pipeline } from 'node:stream/promises'
import { createGunzip } from 'node:zlib'
import { program } from './database.mjs'

/** Runs one piece of SQL. @returns what it prints */
function ask(port, sql) {
  return new Promise((resolve, reject) => {
    const client = spawn(program('mariadb'), [
      '--no-defaults',
      '--host=127.0.0.1',
      `--port=${port}`,
      '--user=root',
      '-N',
      '-e',
      sql,
    ])
    let out = ''
    let said = ''
    client.stdout.on('data', (data) => {
      out += data
    })
    client.stderr.on('data', (data) => {
      said += data
    })
    client.once('error', reject)
    client.once('exit', (code) => (code === 0 ? resolve(out) : reject(new Error(said.trim()))))
  })
}

/** Reads the whole file once, and that it ends as a copy ends: before anything is changed. */
async function checkCopy(file) {
  if (!existsSync(file)) throw new Error(`There is no file ${file}.`)
  let tail = ''
  const unpacked = createReadStream(file).pipe(createGunzip())
  unpacked.on('data', (data) => {
    tail = (tail + data.toString('latin1')).slice(-200)
  })
  await finished(unpacked).catch(() => {
    throw new Error(`${file} is damaged, or no copy of ours: nothing is changed.`)
  })
  if (!tail.includes('Dump completed')) throw new Error(`${file} is not whole: nothing is changed.`)
}

/**
 * Puts the data of a copy in place of those of a database. They are read into another one first; only when that is whole, its tables take
 * the place of the old ones, which stay under another name. @returns the name under which the old ones stay, or '' where none were
 */
export async function restoreCopy(file, port, name) {
  await checkCopy(file)
  const fresh = `${name}_restoring`
  await ask(port, `DROP DATABASE IF EXISTS ${fresh}; CREATE DATABASE ${fresh} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`)
  const client = spawn(program('mariadb'), [
    '--no-defaults',
    '--host=127.0.0.1',
    `--port=${port}`,
    '--user=root',
    '--max-allowed-packet=128M',
    fresh,
  ])
  let said = ''
  client.stderr.on('data', (data) => {
    said += data
  })
  const ended = new Promise((resolve) => client.once('exit', resolve))
  await pipeline(createReadStream(file), createGunzip(), client.stdin).catch(() => {})
  if ((await ended) !== 0) {
    await ask(port, `DROP DATABASE IF EXISTS ${fresh}`)
    throw new Error(`The copy could not be read in (${said.trim()}): nothing is changed.`)
  }
  const tablesOf = async (schema) =>
    (await ask(port, `SELECT table_name FROM information_schema.tables WHERE table_schema = '${schema}'`))
      .split('\n')
      .filter(Boolean)
  const before = await tablesOf(name)
  const old = `${name}_before_${new Date().toISOString().replace(/\D/g, '').slice(0, 14)}`
  await ask(
    port,
    `CREATE DATABASE IF NOT EXISTS ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci; CREATE DATABASE ${old}`,
  )
  const moves = [
    ...before.map((table) => `${name}.${table} TO ${old}.${table}`),
    ...(await tablesOf(fresh)).map((table) => `${fresh}.${table} TO ${name}.${table}`),
  ]
  // One statement: all of it, or nothing.
  await ask(port, `SET foreign_key_checks = 0; RENAME TABLE ${moves.join(', ')}`)
  await ask(port, `DROP DATABASE ${fresh}`)
  if (before.length === 0) await ask(port, `DROP DATABASE ${old}`)
  return before.length === 0 ? '' : old
}
