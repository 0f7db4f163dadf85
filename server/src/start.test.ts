// The server as a process: how it starts, refuses to start, and ends.
import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { request } from 'node:https'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { buildPrograms, program } from '../../scripts/build.mjs'
import { endProcess } from '../../scripts/end.mjs'
import { dropLeftPrograms, keepWithin, programInFile } from './runs/program-file.ts'
import { runFolder } from './work/work.ts'

const children: ChildProcess[] = []
const folder = mkdtempSync(join(tmpdir(), 'neotaxis-start-'))
beforeAll(() => buildPrograms())
afterAll(() => {
  for (const child of children) child.kill('SIGKILL')
  rmSync(folder, { recursive: true, force: true })
})
const path = (file: string): string => fileURLToPath(new URL(file, import.meta.url))

function server(env: NodeJS.ProcessEnv): {
  child: ChildProcess
  port: Promise<number>
  said: () => string
  ended: Promise<number>
} {
  let said = ''
  const child = spawn(process.execPath, [program('server', 'main')], {
    env: { ...process.env, NEOTAXIS_PORT: '0', NEOTAXIS_LOG: 'silent', NEOTAXIS_DB_NAME: `start_${process.pid}`, ...env },
    stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
  })
  children.push(child)
  child.stderr!.on('data', (data: Buffer) => {
    said += data.toString('utf8')
  })
  const ended = new Promise<number>((resolve) => child.once('exit', (code) => resolve(code ?? -1)))
  const port = new Promise<number>((resolve, reject) => {
    child.once('message', (message) => resolve((message as { listening: number }).listening))
    void ended.then(() => reject(new Error(said)))
  })
  port.catch(() => {})
  return { child, port, said: () => said, ended }
}

interface Answer {
  readonly status: number
  readonly cookie: string | undefined
  readonly body: string
}

describe('a server on a network', () => {
  it('ends with a sentence where it has no key', async () => {
    const { ended, said } = server({ NEOTAXIS_HOST: '0.0.0.0', NEOTAXIS_SHOP_KEY: '' })
    expect(await ended).toBe(1)
    expect(said()).toMatch(/^NEOTAXIS_HOST=0\.0\.0\.0 opens this server to a network.*NEOTAXIS_SHOP_KEY/)
    expect(said()).not.toContain('    at ')
  })

  it('speaks TLS with the operator’s certificate, by the names it has, and its cookies stay on TLS', async () => {
    const key = 'the key under the third float'
    const { child, port } = server({
      NEOTAXIS_SHOP_KEY: key,
      NEOTAXIS_HOSTS: 'laser.saltmere.test',
      NEOTAXIS_TLS_CERTIFICATE: path('./testing/tls/certificate.pem'),
      NEOTAXIS_TLS_KEY: path('./testing/tls/key.pem'),
    })
    const at = await port
    const ca = readFileSync(path('./testing/tls/certificate.pem'))
    const ask = (method: string, route: string, host: string, body?: object): Promise<Answer> =>
      new Promise((resolve, reject) => {
        const headers = { Host: host, 'Content-Type': 'application/json' }
        const call = request(
          { host: '127.0.0.1', port: at, path: route, method, headers, ca, servername: 'laser.saltmere.test' },
          (answer) => {
            let text = ''
            answer.on('data', (data: Buffer) => {
              text += data.toString('utf8')
            })
            answer.once('end', () =>
              resolve({ status: answer.statusCode ?? 0, cookie: answer.headers['set-cookie']?.[0], body: text }),
            )
          },
        )
        call.once('error', reject)
        call.end(body && JSON.stringify(body))
      })
    expect((await ask('GET', '/api/health', 'laser.saltmere.test')).status).toBe(200)
    expect((await ask('GET', '/api/health', 'evil.test')).status).toBe(403)
    expect((await ask('GET', '/api/jobs', 'laser.saltmere.test')).status).toBe(401)
    const first = await ask('POST', '/api/session/first', 'laser.saltmere.test', { key, name: 'Mara', pin: '4711' })
    expect(first.status).toBe(201)
    expect(first.cookie).toMatch(/; HttpOnly; SameSite=Strict; Max-Age=\d+; Secure$/)
    await endProcess(child, 5000)
    expect(child.exitCode).toBe(0)
  })
})

describe('a program that is to end', () => {
  const stubborn = (handler: string) =>
    spawn(process.execPath, ['-e', `${handler}; setInterval(() => {}, 1000); process.send('up')`], {
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    })

  it('is asked, and ended for good where it does not answer within its grace', async () => {
    for (const [handler, signal] of [
      ["process.on('SIGTERM', () => process.exit(0))", null],
      ["process.on('SIGTERM', () => {})", 'SIGKILL'],
      ["process.on('SIGTERM', () => { for (;;); })", 'SIGKILL'],
    ] as const) {
      const child = stubborn(handler)
      await new Promise((resolve) => child.once('message', resolve))
      const before = performance.now()
      await endProcess(child, 300)
      expect(child.signalCode).toBe(signal)
      expect(performance.now() - before).toBeLessThan(3000)
      // Twice is once.
      await endProcess(child, 300)
    }
  })
})

describe('programs of runs on the disk', () => {
  it('are read from any line, from the nearest mark', () => {
    const file = join(folder, 'long.gcode')
    const lines = Array.from({ length: 9000 }, (_, i) => `G1X${i}`)
    writeFileSync(file, lines.join('\n'))
    const byte = lines.slice(0, 4096).reduce((sum, line) => sum + line.length + 1, 0)
    const marks = [{ lines: 4096, byte, modes: {} as never }]
    const all = programInFile({ file, lines: 9000, marks })
    for (const from of [1, 2, 4096, 4097, 4098, 9000]) expect([...all.lines(from)][0]).toBe(`G1X${from - 1}`)
    expect([...all.lines(4097)]).toHaveLength(9000 - 4096)
    expect([...all.lines(9001)]).toEqual([])
  })

  it('of servers that are gone are deleted at the start; the oldest that no run uses go when they are too many', () => {
    const dead = runFolder(4_000_000)
    const own = runFolder(process.pid)
    const alive = runFolder(process.ppid)
    for (const one of [dead, own, alive]) {
      mkdirSync(one, { recursive: true })
      for (const [i, name] of ['a', 'b', 'c'].entries()) {
        writeFileSync(join(one, `${name}.gcode`), 'x'.repeat(100))
        utimesSync(join(one, `${name}.gcode`), 1000 + i, 1000 + i)
      }
    }
    dropLeftPrograms(own)
    expect([dead, own, alive].map(existsSync)).toEqual([false, true, true])
    keepWithin(own, 250, new Set([join(own, 'a.gcode')]))
    expect(['a', 'b', 'c'].map((name) => existsSync(join(own, `${name}.gcode`)))).toEqual([true, false, true])
    keepWithin(join(folder, 'none'), 0, new Set())
    for (const one of [own, alive]) rmSync(one, { recursive: true, force: true })
  })
})
