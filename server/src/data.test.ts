import { spawnSync } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { encodePng } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import type { Sequelize } from 'sequelize'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { buildPrograms, program } from '../../scripts/build.mjs'
import { missingParts, runningIn, startDatabase } from '../../scripts/database.mjs'
import { restoreCopy } from '../../scripts/restore.mjs'
import { fillCatalogue } from './catalogue.ts'
import { keepCopy } from './copies.ts'
import { type DatabaseSettings, databaseSettings, openDatabase } from './database.ts'
import { isDatabaseAway, isDiskFull } from './database-errors.ts'
import { type Shop, serverOn } from './testing/shop.ts'
import { Work } from './work/work.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-data-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
beforeAll(() => buildPrograms())

/** Everything in a folder, by name, size and content. */
function inventory(path: string): string {
  const sum = createHash('sha256')
  const add = (at: string): void => {
    for (const name of readdirSync(at).sort()) {
      const file = join(at, name)
      if (statSync(file).isDirectory()) add(file)
      else sum.update(file).update(readFileSync(file))
    }
  }
  add(path)
  return sum.digest('hex')
}

/** A server on a database, with one job in it. */
async function shopOn(settings: DatabaseSettings): Promise<Shop> {
  const sequelize = await openDatabase(settings)
  await fillCatalogue()
  return serverOn({ name: settings.name }, sequelize, new Work(settings, program('server', 'tasks')))
}

async function addJob({ ask }: Shop): Promise<string> {
  const picture = squarePicture(20, 5)
  const png = encodePng({ widthPx: 30, heightPx: 30, channels: 1, samples: picture.samples as Uint8Array, full: 255 })
  const { body } = await ask
    .post('/api/assets')
    .set('Content-Type', 'application/octet-stream')
    .send(Buffer.from(png))
    .expect(201)
  const sample = sampleJob({ picture })
  const job = { ...sample, nodes: { ...sample.nodes, source: { ...sample.nodes.source, asset: body.asset } } }
  return (await ask.post('/api/jobs').send({ job }).expect(201)).body.id
}

describe('a data folder', () => {
  it('belongs to one process at a time: a second start is refused, and leaves the first alone', async () => {
    const home = join(folder, 'owned')
    const database = await startDatabase(home)
    const start = `import(${JSON.stringify(new URL('../../scripts/database.mjs', import.meta.url).href)}).then((m) => m.startDatabase(${JSON.stringify(home)})).then(() => process.exit(0), (e) => { console.error(e.message); process.exit(3) })`
    const second = spawnSync(process.execPath, ['-e', start], { encoding: 'utf8' })
    expect([second.status, second.stderr.trim()]).toEqual([
      3,
      `Neotaxis runs on these data already (process ${process.pid}): ${home}`,
    ])
    // What somebody killed left behind belongs to nobody.
    writeFileSync(join(home, 'owner.json'), JSON.stringify({ owner: process.pid, born: '1', port: 1 }))
    expect(runningIn(home)).toBeUndefined()
    await database.stop()
    expect(existsSync(join(home, 'owner.json'))).toBe(false)
  })

  it('is made where there is none; one that is damaged or half there is refused by name, and nothing of it touched', async () => {
    const home = join(folder, 'damaged')
    const data = join(home, 'mariadb')
    expect(missingParts(data)).toBeUndefined()
    await (await startDatabase(home)).stop()
    expect(missingParts(data)).toEqual([])
    for (const part of ['mysql', 'ibdata1', 'aria_log_control']) {
      renameSync(join(data, part), join(home, part))
      const before = inventory(data)
      await expect(startDatabase(home)).rejects.toThrow(
        new RegExp(`damaged, and nothing of them was touched\\. Missing: ${part}\\.`),
      )
      expect(inventory(data)).toBe(before)
      renameSync(join(home, part), join(data, part))
    }
    // Something that is no database at all stays too.
    const strange = join(folder, 'strange', 'mariadb')
    mkdirSync(strange, { recursive: true })
    writeFileSync(join(strange, 'holiday.txt'), 'photos')
    await expect(startDatabase(join(folder, 'strange'))).rejects.toThrow('damaged')
    expect(readFileSync(join(strange, 'holiday.txt'), 'utf8')).toBe('photos')
    await (await startDatabase(home)).stop()
  })
})

describe('copies', () => {
  let database: Awaited<ReturnType<typeof startDatabase>>
  let settings: DatabaseSettings
  beforeAll(async () => {
    database = await startDatabase(join(folder, 'copies-of'))
    settings = { ...databaseSettings({}), port: database.port, name: 'neotaxis', copies: join(folder, 'copies') }
  })
  afterAll(() => database.stop())

  it('hold everything, and bring it back as it was; what was there stays under another name', async () => {
    const shop = await shopOn(settings)
    const id = await addJob(shop)
    const before = (await shop.ask.get(`/api/jobs/${id}`)).body
    const card = (await shop.ask.get(`/api/jobs/${id}/card.png`)).body as Buffer
    const file = await keepCopy(settings, 'by hand')
    expect(readdirSync(settings.copies!).filter((name) => name.endsWith('.part'))).toEqual([])
    await shop.ask.delete(`/api/jobs/${id}`).expect(204)
    const later = await addJob(shop)
    await shop.work.close()
    await shop.desks.close()
    await shop.sequelize.close()

    const old = await restoreCopy(file, settings.port, settings.name)
    const again = await shopOn(settings)
    expect((await again.ask.get(`/api/jobs/${id}`).expect(200)).body).toEqual(before)
    expect(Buffer.compare((await again.ask.get(`/api/jobs/${id}/card.png`)).body as Buffer, card)).toBe(0)
    await again.ask.get(`/api/jobs/${later}`).expect(404)
    const [rows] = await again.sequelize.query(`SELECT id FROM ${old}.jobs WHERE id = '${later}'`)
    expect(rows).toHaveLength(1)
    await again.work.close()
    await again.desks.close()
    await again.sequelize.close()
  })

  it('are made and brought back by command; where there are no data, nothing is made of nothing', {
    timeout: 120_000,
  }, async () => {
    const home = join(folder, 'by-command')
    const command = (...args: string[]) => {
      const script = new URL('../../scripts/copies.mjs', import.meta.url).pathname
      const env = { ...process.env, NEOTAXIS_DATA: home, NEOTAXIS_COPIES: '' }
      const { status, stdout, stderr } = spawnSync(process.execPath, [script, ...args], { env, encoding: 'utf8' })
      return { status, said: stdout.trim(), wrong: stderr.trim() }
    }
    expect(command('backup')).toMatchObject({ status: 1, wrong: expect.stringContaining('There are no data in') })
    expect(readdirSync(join(home, 'shop'))).toEqual([])
    expect(command('restore').wrong).toContain('Which copy?')

    const on = async <T>(work: (shop: Shop) => Promise<T>): Promise<T> => {
      const { port, stop } = await startDatabase(join(home, 'shop'))
      const shop = await shopOn({ ...databaseSettings({}), port, name: 'neotaxis' })
      const result = await work(shop)
      await shop.desks.close()
      await shop.work.close()
      await shop.sequelize.close()
      await stop()
      return result
    }
    const id = await on(addJob)
    const copy = command('backup')
    expect(copy).toMatchObject({ status: 0, wrong: '' })
    await on(({ ask }) => ask.delete(`/api/jobs/${id}`).expect(204))
    expect(command('restore', copy.said)).toMatchObject({ status: 0, said: expect.stringContaining('are in place') })
    await on(({ ask }) => ask.get(`/api/jobs/${id}`).expect(200))
  })

  it('that are damaged or cut short change nothing', async () => {
    const sequelize = await openDatabase(settings)
    const count = async (): Promise<unknown> => (await sequelize.query('SELECT COUNT(*) AS n FROM jobs'))[0]
    const before = await count()
    const whole = join(settings.copies!, readdirSync(settings.copies!)[0])
    const short = join(folder, 'short.sql.gz')
    writeFileSync(short, readFileSync(whole))
    truncateSync(short, Math.floor(statSync(whole).size / 2))
    const text = join(folder, 'no copy.sql.gz')
    writeFileSync(text, 'hello')
    for (const file of [short, text, join(folder, 'missing.sql.gz')])
      await expect(restoreCopy(file, settings.port, settings.name)).rejects.toThrow(/nothing is changed|There is no file/)
    expect(await count()).toEqual(before)
    await sequelize.close()
  })

  it('are kept before every migration; where none can be kept, nothing is changed', async () => {
    const sequelize = await openDatabase(settings)
    const undo = async (): Promise<void> => {
      for (const table of ['machine_leases', 'people', 'certificates', 'sessions', 'sign_in_tries'])
        await sequelize.query(`DROP TABLE IF EXISTS ${table}`)
      await sequelize.query("DELETE FROM migrations WHERE name = '0006-leases-and-people'")
    }
    await undo()
    const before = readdirSync(settings.copies!).length
    await (await openDatabase(settings)).close()
    const copies = readdirSync(settings.copies!)
    expect(copies).toHaveLength(before + 1)
    expect(copies.some((name) => name.includes('before 0006-leases-and-people'))).toBe(true)
    await undo()
    // A file stands where the folder for copies should be.
    const blocked = join(folder, 'blocked')
    writeFileSync(blocked, '')
    await expect(openDatabase({ ...settings, copies: blocked })).rejects.toThrow()
    const [tables] = await sequelize.query("SHOW TABLES LIKE 'people'")
    expect(tables).toEqual([])
    await (await openDatabase(settings)).close()
    await sequelize.close()
  })
})

describe('a database that dies', () => {
  it('is noticed and started again where it was, and the server finds it', { timeout: 60_000 }, async () => {
    let deaths = 0
    const database = await startDatabase(join(folder, 'mortal'), 0, { onDeath: () => deaths++ })
    const settings = { ...databaseSettings({}), port: database.port, name: 'neotaxis' }
    const shop = await shopOn(settings)
    const id = await addJob(shop)
    for (let round = 1; round <= 2; round++) {
      process.kill(database.pid, 'SIGKILL')
      await expect.poll(async () => (await shop.ask.get('/api/health')).status).toBe(503)
      await expect.poll(async () => (await shop.ask.get('/api/health')).status, { timeout: 20_000 }).toBe(200)
      await shop.ask.get(`/api/jobs/${id}`).expect(200)
      expect(deaths).toBe(round)
    }
    await shop.end()
    await database.stop()
    expect(deaths).toBe(2)
  })
})

describe('a full disk', () => {
  let sequelize: Sequelize | undefined
  it('is named as such; what did not fit is not half there, and what is there can be read', { timeout: 120_000 }, async () => {
    // All tables in files that may not grow beyond 28 MB: to the database that is a full disk.
    const database = await startDatabase(join(folder, 'full'), 0, {
      extra: ['--innodb-file-per-table=0', '--innodb-data-file-path=ibdata1:12M;ibdata2:16M'],
    })
    const settings = { ...databaseSettings({}), port: database.port, name: 'neotaxis' }
    const shop = await shopOn(settings)
    sequelize = shop.sequelize
    const id = await addJob(shop)
    const noise = (): Buffer => {
      const samples = new Uint8Array(randomBytes(1500 * 1500))
      return Buffer.from(encodePng({ widthPx: 1500, heightPx: 1500, channels: 1, samples, full: 255 }))
    }
    let answer: { status: number; body: { code?: string; message?: string } } = { status: 201, body: {} }
    for (let n = 0; answer.status === 201 && n < 30; n++)
      answer = await shop.ask.post('/api/assets').set('Content-Type', 'application/octet-stream').send(noise())
    expect(answer.status).toBe(507)
    expect(answer.body).toMatchObject({ code: 'disk-full', message: expect.stringContaining('The disk of the server is full') })
    const [[{ whole }]] = (await sequelize.query(
      'SELECT COUNT(*) AS whole FROM assets a WHERE a.chunks <> (SELECT COUNT(*) FROM asset_chunks c WHERE c.sha256 = a.sha256)',
    )) as [{ whole: number }[], unknown]
    expect(whole).toBe(0)
    await shop.ask.get(`/api/jobs/${id}`).expect(200)
    await shop.work.close()
    await shop.desks.close()
    await sequelize.close()
    await database.stop()
  })

  it('is told from other errors by its number, in whatever thread it came up', () => {
    expect([1114, 1021, 1026].map((errno) => isDiskFull({ errno }))).toEqual([true, true, true])
    expect(isDiskFull({ original: { errno: 1114 } })).toBe(true)
    expect([isDiskFull({ original: { errno: 1062 } }), isDiskFull(new Error('x')), isDiskFull(undefined)]).toEqual([
      false,
      false,
      false,
    ])
    expect(isDatabaseAway({ name: 'SequelizeConnectionRefusedError' })).toBe(true)
    expect(existsSync(folder)).toBe(true)
  })
})
