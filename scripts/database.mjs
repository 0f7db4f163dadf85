// A MariaDB of the project's own: its own folder, its own port, loopback only, never the system's service.
import { execFileSync, spawn } from 'node:child_process'
import { closeSync, existsSync, mkdirSync, openSync, readFileSync, rmSync } from 'node:fs'
import { connect, createServer } from 'node:net'
import { userInfo } from 'node:os'
import { join } from 'node:path'

const program = (name) =>
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
  try {
    if (readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(data)) {
      process.kill(pid, 'SIGTERM')
      for (let i = 0; i < 200 && existsSync(`/proc/${pid}`); i++) await pause(50)
    }
  } catch {
    // It is gone already.
  }
  rmSync(pidFile, { force: true })
}

/**
 * Starts MariaDB in `folder`, made new where it is missing.
 * Returns its port and `stop`, which ends it cleanly.
 */
export async function startDatabase(folder, wantedPort = 0) {
  const data = join(folder, 'mariadb')
  const user = userInfo().username
  const pidFile = join(folder, 'mariadb.pid')
  mkdirSync(folder, { recursive: true })
  await endLeftover(pidFile, data)
  if (!existsSync(join(data, 'mysql'))) {
    rmSync(data, { recursive: true, force: true })
    execFileSync(
      program('mariadb-install-db'),
      ['--no-defaults', `--user=${user}`, `--datadir=${data}`, '--auth-root-authentication-method=normal', '--skip-test-db'],
      { stdio: 'ignore' },
    )
  }
  const port = await freePort(wantedPort)
  const log = openSync(join(folder, 'mariadb.log'), 'a')
  // Socket paths are short by law (108 bytes): the folder's own may be too long.
  const socket = join('/tmp', `neotaxis-${process.pid}-${port}.sock`)
  const child = spawn(
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
    ],
    { stdio: ['ignore', log, log], detached: true },
  )
  closeSync(log)
  let ended = false
  child.once('exit', () => {
    ended = true
  })
  for (let i = 0; i < 600 && !(await answers(port)); i++) {
    if (ended) throw new Error(`MariaDB did not start. Its log: ${join(folder, 'mariadb.log')}`)
    await pause(25)
  }
  return {
    port,
    pid: child.pid,
    async stop() {
      if (ended) return
      child.kill('SIGTERM')
      for (let i = 0; i < 400 && !ended; i++) await pause(25)
      if (!ended) child.kill('SIGKILL')
      rmSync(socket, { force: true })
    },
  }
}
