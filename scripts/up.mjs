// `npm run demo`, `npm start`, `npm run dev`: everything from nothing, until Ctrl-C.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { buildPrograms, program } from './build.mjs'
import { freePort, startDatabase } from './database.mjs'
import { endProcess } from './end.mjs'
import { buildPage, dataDirectory, debianPackages, npmPackages, root } from './prepare.mjs'
import { startCameras, startMachines } from './stand-ins.mjs'

const mode = process.argv[2] ?? 'start'
const children = []
let database
let machines
let cameras
let stopping = false
/** A program that was asked to end gets so long. */
const GRACE_MS = 4000

async function stop(code) {
  if (stopping) return
  stopping = true
  for (const child of children.reverse()) await endProcess(child, GRACE_MS)
  cameras?.stop()
  machines?.stop()
  await database?.stop()
  process.exit(code)
}
process.on('SIGINT', () => stop(0))
process.on('SIGTERM', () => stop(0))
process.on('SIGHUP', () => stop(0))

function run(name, args, env, { cwd = root, once = false } = {}) {
  const child = spawn(process.execPath, args, {
    cwd,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    detached: true,
  })
  child.once('exit', (code) => {
    if (!stopping && !(once && code === 0)) {
      process.stderr.write(`${name} ended (${code}).\n`)
      stop(1)
    }
  })
  children.push(child)
  return child
}

try {
  debianPackages(['mariadb-server'])
  npmPackages()
  if (mode !== 'dev') buildPage()
  await buildPrograms()
  const folder = dataDirectory(mode === 'demo' ? 'demo' : 'shop')
  database = await startDatabase(folder, mode === 'demo' ? 33_971 : 33_970, {
    onDeath: () => stopping || process.stderr.write('The database ended by itself: it is started again.\n'),
  })
  const port = await freePort(Number(process.env.PORT ?? 4310))
  // As real machines do, they differ a little from what is written down about them.
  machines = await startMachines([
    { profile: 'bench-60', pace: process.env.NEOTAXIS_PACE ?? 1, seed: 7, share: 0.03 },
    { profile: 'scan-20', pace: process.env.NEOTAXIS_PACE ?? 1, seed: 11, share: 0.03 },
  ])
  cameras = await startCameras(machines.simulated)
  const env = {
    NEOTAXIS_SIMULATED: machines.simulated,
    NEOTAXIS_CAMERAS: cameras.cameras,
    NEOTAXIS_PORT: String(port),
    NEOTAXIS_DB_PORT: String(database.port),
    NEOTAXIS_COPIES: dataDirectory('copies'),
    NEOTAXIS_LOG: process.env.NEOTAXIS_LOG ?? 'warn',
  }
  const server =
    mode === 'dev'
      ? run(
          'The server',
          ['--watch-path=server/src', '--watch-path=core/src', '--import', 'tsx', join(root, 'server/src/main.ts')],
          env,
        )
      : run('The server', ['--enable-source-maps', program('server', 'main')], env)
  await new Promise((resolve, reject) => {
    if (mode === 'dev') return resolve()
    server.on('message', (message) => message?.listening && resolve())
    server.once('exit', () => reject(new Error('The server did not start.')))
  })
  const host = process.env.NEOTAXIS_HOST ?? '127.0.0.1'
  const scheme = process.env.NEOTAXIS_TLS_CERTIFICATE ? 'https' : 'http'
  let address = `${scheme}://${host === '0.0.0.0' ? '127.0.0.1' : host}:${port}`
  if (mode === 'demo') {
    const seed = run(
      'The demo data',
      [program('demo', 'seed'), address],
      { ...env, NEOTAXIS_FILES: dataDirectory('files') },
      { once: true },
    )
    await new Promise((resolve) => seed.once('exit', resolve))
  }
  if (mode === 'dev') {
    const webPort = await freePort(5173)
    run(
      'Vite',
      [join(root, 'node_modules/vite/bin/vite.js'), '--port', String(webPort), '--strictPort'],
      { NEOTAXIS_API: address },
      { cwd: join(root, 'web') },
    )
    address = `http://127.0.0.1:${webPort}`
  }
  process.stdout.write(`\nNeotaxis is ready: ${address}/jobs\n`)
  if (mode === 'demo') process.stdout.write(`Files to drop on it: ${dataDirectory('files')}\n`)
  process.stdout.write('Ctrl-C stops it.\n')
} catch (error) {
  process.stderr.write(`${error.message}\n`)
  await stop(1)
}
