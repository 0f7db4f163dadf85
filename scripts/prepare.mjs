// Everything a fresh Debian 12 with Node 20 lacks: Debian packages, npm packages, the built page.
// Plain JavaScript without dependencies: it runs before anything is installed.
import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = join(dirname(fileURLToPath(import.meta.url)), '..')

const say = (line) => process.stderr.write(`${line}\n`)

function find(...names) {
  const places = [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/bin', '/sbin', '/bin']
  for (const name of names) for (const place of places) if (place && existsSync(join(place, name))) return join(place, name)
  return undefined
}

/** What each Debian package is needed for, and the program that shows that it is there. */
const packages = {
  'mariadb-server': { programs: ['mariadbd'], why: 'the database' },
  chromium: { programs: ['chromium'], why: 'the tests in a browser' },
  'librsvg2-bin': { programs: ['rsvg-convert'], why: 'a reference that drawings are compared with' },
  potrace: { programs: ['potrace'], why: 'a reference in the benchmarks' },
  imagemagick: { programs: ['convert-im6.q16', 'convert-im6'], why: 'a reference that pictures are compared with' },
}

/** Installs the Debian packages that are missing, as root or through sudo; says what to install where neither is possible. */
export function debianPackages(names) {
  const missing = names.filter((name) => !find(...packages[name].programs))
  if (missing.length === 0) return
  const root = process.getuid?.() === 0
  const sudo = !root && find('sudo') && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0
  const wanted = `apt-get install -y --no-install-recommends ${missing.join(' ')}`
  if (!root && !sudo) {
    const why = missing.map((name) => `${name} (${packages[name].why})`).join(', ')
    throw new Error(`Missing: ${why}. Install it once with: sudo ${wanted}`)
  }
  say(`Installing from Debian: ${missing.join(', ')} …`)
  const run = (command) => {
    const [file, ...args] = root ? command : ['sudo', '-n', ...command]
    const done = spawnSync(file, args, {
      encoding: 'utf8',
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      maxBuffer: 1 << 28,
    })
    if (done.status !== 0)
      throw new Error(`${command.join(' ')} failed:\n${(done.stderr ?? '').trim().split('\n').slice(-8).join('\n')}`)
  }
  const quiet = root && missing.includes('mariadb-server')
  const restore = quiet ? noServiceStarts() : () => {}
  try {
    run(['apt-get', 'update', '-qq'])
    run(wanted.split(' '))
  } finally {
    restore()
  }
}

/** While a Debian package installs, no service of it starts: the project runs its own, elsewhere. Returns the undo. */
function noServiceStarts() {
  const policy = '/usr/sbin/policy-rc.d'
  const kept = `${policy}.kept-by-neotaxis`
  if (existsSync(policy)) renameSync(policy, kept)
  writeFileSync(policy, '#!/bin/sh\nexit 101\n')
  chmodSync(policy, 0o755)
  return () => {
    rmSync(policy, { force: true })
    if (existsSync(kept)) renameSync(kept, policy)
  }
}

/** `npm ci` when node_modules is missing or older than the lock file. */
export function npmPackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex')
  const stamp = join(root, 'node_modules', '.neotaxis-lock')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  say('Installing the npm packages …')
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  })
  if (done.status !== 0)
    throw new Error(`npm ci failed:\n${`${done.stdout}\n${done.stderr}`.trim().split('\n').slice(-12).join('\n')}`)
  writeFileSync(stamp, lock)
}

/** Source files below a folder, without tests and what is built. */
export function* filesBelow(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (entry.name === 'node_modules' || entry.name.startsWith('dist')) continue
    const path = join(folder, entry.name)
    if (entry.isDirectory()) yield* filesBelow(path)
    else if (!entry.name.includes('.test.')) yield path
  }
}

/** Builds the page when a source of it changed since the last build. */
export function buildPage() {
  const sum = createHash('sha256')
  for (const folder of ['core', 'web']) {
    for (const file of [...filesBelow(join(root, folder))].sort()) sum.update(file.slice(root.length)).update(readFileSync(file))
  }
  sum.update(readFileSync(join(root, 'package-lock.json')))
  const wanted = sum.digest('hex')
  const dist = join(root, 'web', 'dist')
  const stamp = join(dist, '.stamp')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  say('Building the page …')
  const vite = join(root, 'node_modules', 'vite', 'bin', 'vite.js')
  execFileSync(process.execPath, [vite, 'build', '--logLevel', 'warn'], {
    cwd: join(root, 'web'),
    stdio: ['ignore', 'inherit', 'inherit'],
  })
  writeFileSync(stamp, wanted)
}

/** The project's own data directory, never the system's. */
export function dataDirectory(name) {
  const folder = join(process.env.NEOTAXIS_DATA ?? join(root, '.data'), name)
  mkdirSync(folder, { recursive: true })
  if (!statSync(folder).isDirectory()) throw new Error(`${folder} is not a folder.`)
  return folder
}
