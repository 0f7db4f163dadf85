// A MariaDB of the project's own: its own folder, its own port, loopback only, never the system's service.
import { execFileSync, spawn } from 'node:child_process'
import {
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { connect, createServer } from 'node:net'
import { userInfo } from 'node:os'
import { join } from 'node:path'

export const program = (name) =>
  ['/usr/sbin', '/usr/bin', '/usr/local/sbin', '/usr/local/bin'].map((place) => join(place, name)).find(existsSync) ?? name

/** A port on loopback that nobody uses: the wanted one, or any. */
export function freePort(wanted = 0) {
  return new Promise((resolve, reject) => {
    const server = createServer()
    server.once('error', (error) => (wanted === 0 ? reject(error) : resolve(freePort(0))))
    server.listen(wanted, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => resolve(port))
    })
  })
}

const answers = (port) =>
  new Promise((resolve) => {
    const socket = connect({ port, host: '127.0.0.1' })
    socket.once('data', () => {
      socket.destroy()
      resolve(true)
    })
    socket.once('error', () => resolve(false))
    socket.setTimeout(1000, () => {
      socket.destroy()
      resolve(false)
    })
  })

const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

/** A server that a killed run left behind in this folder is ended first: two of them must never share it. */
async function endLeftover(pidFile, data) {
  if (!existsSync(pidFile)) return
  const pid = Number(readFileSync(pidFile, 'utf8'))
  const isOurs = () => {
    try {
      return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(data)
    } catch {
      return false
    }
  }
  if (isOurs()) {
    process.kill(pid, 'SIGTERM')
    for (let i = 0; i < 200 && isOurs(); i++) await pause(50)
    if (isOurs()) process.kill(pid, 'SIGKILL')
    for (let i = 0; i < 100 && isOurs(); i++) await pause(50)
  }
  rmSync(pidFile, { force: true })
}

/** When a process began, as the kernel counts it: with its id it names one process for good. */
function bornAt(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19]
  } catch {
    return undefined
  }
}

/** The database that somebody else has running in a folder now: its port, and the process that started it. */
export function runningIn(folder) {
  try {
    const { owner, born, port } = JSON.parse(readFileSync(join(folder, 'owner.json'), 'utf8'))
    if (owner === process.pid || bornAt(owner) !== born) return undefined
    return { owner, port }
  } catch {
    return undefined
  }
}

/** What every data folder of MariaDB holds once it is made. */
const PARTS = ['mysql', 'ibdata1', 'aria_log_control']

/**
 * What of a data folder is missing: undefined where there is none yet, so that one can be made; empty where it is whole.
 * Nothing in it is touched.
 */
export function missingParts(data) {
  if (!existsSync(data)) return undefined
  if (!statSync(data).isDirectory()) return ['it is no folder']
  const names = readdirSync(data)
  if (names.length === 0) return undefined
  return PARTS.filter((part) => !names.includes(part))
}

/** Makes a data folder beside its place, and puts it there whole: one that is half made is never taken for one. */
function install(data, user) {
  const fresh = `${data}.new`
  rmSync(fresh, { recursive: true, force: true })
  execFileSync(
    program('mariadb-install-db'),
    ['--no-defaults', `--user=${user}`, `--datadir=${fresh}`, '--auth-root-authentication-method=normal', '--skip-test-db'],
    { stdio: 'ignore' },
  )
  if (existsSync(data)) rmSync(data, { recursive: true })
  renameSync(fresh, data)
}

/**
 * Starts MariaDB in `folder`, made new only where nothing is there yet: what is damaged is refused, and stays as it is.
 * @param options `extra` arguments; `onDeath` is told when it ends by itself, and it is started again on the same port
 * @returns its port, process and `stop`, which ends it cleanly
 */
export async function startDatabase(folder, wantedPort = 0, { extra = [], onDeath } = {}) {
  const data = join(folder, 'mariadb')
  const user = userInfo().username
  const pidFile = join(folder, 'mariadb.pid')
  mkdirSync(folder, { recursive: true })
  const other = runningIn(folder)
  if (other) throw new Error(`Neotaxis runs on these data already (process ${other.owner}): ${folder}`)
  await endLeftover(pidFile, data)
  const missing = missingParts(data)
  if (missing === undefined) install(data, user)
  else if (missing.length > 0)
    throw new Error(
      `The data in ${data} are damaged, and nothing of them was touched. Missing: ${missing.join(', ')}.\n` +
        'Put back what is missing, or move that folder away and bring in a copy: npm run restore -- FILE.',
    )
  const port = await freePort(wantedPort)
  const ownerFile = join(folder, 'owner.json')
  writeFileSync(ownerFile, JSON.stringify({ owner: process.pid, born: bornAt(process.pid), port }))
  const logFile = join(folder, 'mariadb.log')
  // Socket paths are short by law (108 bytes): the folder's own may be too long.
  const socket = join('/tmp', `neotaxis-${process.pid}-${port}.sock`)
  const database = { port, pid: 0, stop }
  let child
  let ended = false
  let stopping = false

  async function launch() {
    ended = false
    const log = openSync(logFile, 'a')
    child = spawn(
      program('mariadbd'),
      [
        '--no-defaults',
        `--user=${user}`,
        `--datadir=${data}`,
        `--socket=${socket}`,
        `--pid-file=${pidFile}`,
        '--bind-address=127.0.0.1',
        `--port=${port}`,
        '--skip-name-resolve',
        '--character-set-server=utf8mb4',
        '--skip-log-bin',
        '--max-allowed-packet=128M',
        ...extra,
      ],
      { stdio: ['ignore', log, log], detached: true },
    )
    closeSync(log)
    database.pid = child.pid
    const own = child
    own.once('exit', () => {
      if (own === child) ended = true
    })
    for (let i = 0; i < 600 && !(await answers(port)); i++) {
      if (ended) throw new Error(`MariaDB did not start. Its log: ${logFile}`)
      await pause(25)
    }
    if (onDeath) own.once('exit', () => void again())
    if (onDeath && ended) void again()
  }

  /** It died: it is started again, later each time it does not stay. */
  async function again(wait = 100) {
    if (stopping) return
    onDeath()
    await pause(wait)
    if (stopping) return
    await launch().catch(() => again(Math.min(10_000, wait * 2)))
  }

  async function stop() {
    stopping = true
    if (!ended) {
      child.kill('SIGTERM')
      for (let i = 0; i < 400 && !ended; i++) await pause(25)
      if (!ended) child.kill('SIGKILL')
    }
    rmSync(socket, { force: true })
    rmSync(ownerFile, { force: true })
  }

  await launch()
  return database
}
