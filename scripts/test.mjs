// `npm test`: set-up, checks, unit and API tests, the browser. Ends with one line that counts them all. With `--campaigns` the long
// campaigns come after it; `npm run campaigns` runs them alone.
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildPrograms, program } from './build.mjs'
import { freePort, startDatabase } from './database.mjs'
import { buildPage, debianPackages, npmPackages, root } from './prepare.mjs'
import { startCameras, startMachines } from './stand-ins.mjs'

const bin = (name) => join(root, 'node_modules', '.bin', name)
const count = { passed: 0, failed: 0 }
/** What failed, and what came right only when it was tried once more: told together at the end. */
const told = []
const scratch = mkdtempSync(join(tmpdir(), 'neotaxis-test-'))
let database
let server
let machines
let cameras

function step(title) {
  process.stdout.write(`\n== ${title}\n`)
}

/** A check that passes or fails as one. */
function check(title, command, args) {
  step(title)
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit' })
  if (done.status === 0) count.passed++
  else {
    count.failed++
    told.push(`FAILED ${title}`)
  }
}

/** Runs a test runner while this process goes on answering. @returns its exit code */
const run = (command, args, env, cwd = root) =>
  new Promise((resolve) =>
    spawn(command, args, { cwd, stdio: 'inherit', env: { ...process.env, ...env } }).once('exit', (code) => resolve(code ?? 1)),
  )

/** Adds a runner's numbers; one that failed without a failed test counts as one failure. */
function add(passed, failed, code) {
  count.passed += passed
  count.failed += failed > 0 || code === 0 ? failed : 1
}

/** The tests of a report of Vitest that failed. */
const failedOf = ({ testResults = [] }) =>
  testResults.flatMap(({ name, assertionResults = [] }) =>
    assertionResults
      .filter(({ status }) => status === 'failed')
      .map((test) => `FAILED ${name.replace(`${root}/`, '')} › ${test.fullName}: ${firstLine(test.failureMessages?.[0])}`),
  )

/** The same of a report of Playwright, with those that came right in the second try. */
const failedSpecs = ({ suites = [] }) =>
  suites.flatMap((suite) => [
    ...failedSpecs(suite),
    ...(suite.specs ?? []).flatMap(({ title, file, tests }) =>
      tests
        .filter(({ status }) => status === 'unexpected' || status === 'flaky')
        .map(({ status, results }) => {
          const word = status === 'flaky' ? 'CAME RIGHT IN THE SECOND TRY' : 'FAILED'
          // Each try, and what it waited for when its time was over.
          const tries = results.map(({ errors = [] }) => errors.map(({ message }) => firstLine(message)).join(' · '))
          return `${word} ${file} › ${title}: ${tries.filter(Boolean).join(' — then: ')}`
        }),
    ),
  ])

// biome-ignore lint/suspicious/noControlCharactersInRegex: colours of a terminal
const ANSI = /\u001b\[[0-9;]*m/g
const firstLine = (text = '') => text.split('\n').slice(0, 3).join(' ').slice(0, 400)

/** The page on a server of its own, with its own data. @param specs those that are tried; none: all */
async function served(env, ...specs) {
  const port = await freePort()
  machines = await startMachines([
    { profile: 'bench-60', pace: 40 },
    { profile: 'scan-20', pace: 40 },
  ])
  cameras = await startCameras(machines.simulated)
  server = spawn(process.execPath, ['--enable-source-maps', program('server', 'main')], {
    cwd: root,
    env: {
      ...process.env,
      ...env,
      NEOTAXIS_SIMULATED: machines.simulated,
      NEOTAXIS_CAMERAS: cameras.cameras,
      NEOTAXIS_DB_NAME: `e2e${port}`,
      NEOTAXIS_PORT: String(port),
    },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  })
  await new Promise((resolve, reject) => {
    server.on('message', (message) => message?.listening && resolve())
    server.once('exit', () => reject(new Error('The server did not start.')))
  })
  await browser({ ...env, NEOTAXIS_URL: `http://127.0.0.1:${port}` }, specs)
  await unserved()
}

async function unserved() {
  // One that a signal ended has no exit code, and says nothing any more.
  if (server?.exitCode === null && server.signalCode === null) {
    const gone = new Promise((resolve) => server.once('exit', resolve))
    server.kill('SIGTERM')
    await gone
  }
  cameras?.stop()
  machines?.stop()
}

function checks() {
  check('format and lint', bin('biome'), ['check', '.'])
  check('types', process.execPath, ['scripts/typecheck.mjs'])
  check('dead code', bin('knip'), [])
  check('licences', process.execPath, ['scripts/licences.mjs'])
  check('kernels', process.execPath, ['scripts/kernels.mjs', '--check'])
}

/** Tests of Vitest: what is named, or all of them. One that fails is tried once more, and that is told. */
async function vitest(title, name, env, ...args) {
  step(title)
  const report = join(scratch, `${name}.json`)
  const second = join(scratch, `${name}.txt`)
  const reporters = [
    '--reporter=default',
    '--reporter=json',
    '--reporter=./scripts/second-try.mjs',
    `--outputFile.json=${report}`,
  ]
  const code = await run(bin('vitest'), ['run', '--retry=1', ...reporters, ...args], { ...env, NEOTAXIS_SECOND_TRY: second })
  const made = JSON.parse(readFileSync(report, 'utf8'))
  told.push(...failedOf(made))
  if (existsSync(second)) told.push(...readFileSync(second, 'utf8').trim().split('\n'))
  const { numPassedTests = 0, numFailedTests = 0 } = made
  add(numPassedTests, numFailedTests, code)
}

/** Tests that grow with the patience one has: each reads from its environment how long it is to be. */
const CAMPAIGNS = [
  'web/src/store/saver.model.test.ts',
  'server/src/machines/desk.model.test.ts',
  'server/src/jobs/save-edits.test.ts',
  'server/src/kill.test.ts',
  'server/src/run-kill.test.ts',
  'link/src/link.test.ts',
  'link/src/hostile.test.ts',
  'cli/src/any-job.test.ts',
  'cli/src/beds.test.ts',
  'cli/src/close-camera.test.ts',
  'core/src/formats/formats.test.ts',
  'intake/src/take-in.test.ts',
]

/** Only where there is all the time of the world: photos as large as the camera's own. */
const LONGEST = ['cli/src/camera.test.ts']

/** Whether a long part begins, which it does before so many minutes have passed; what does not is told. */
function before(minutes, what) {
  const passed = performance.now() / 60_000
  if (only === 'campaigns' || passed < minutes) return true
  told.push(`LEFT OUT ${what}: ${passed.toFixed(0)} minutes had passed, and it begins within ${minutes}`)
  return false
}

/** Every whole job, and hands that do whatever comes to them: in a browser. */
async function longJobs(env, seed) {
  const hands = only === 'campaigns' ? '8' : '2'
  await served({ ...env, NEOTAXIS_CAMPAIGN: '1', NEOTAXIS_HANDS: hands, NEOTAXIS_SEED: seed }, 'all-jobs', 'any-hand')
}

async function campaigns(env) {
  const seed = process.env.NEOTAXIS_SEED ?? String(1 + (Math.floor(Date.now() / 86_400_000) % 1e6) * 10_000)
  process.stdout.write(`Histories begin with seed ${seed}; NEOTAXIS_SEED=${seed} repeats them.\n`)
  if (before(45, 'the whole jobs')) await longJobs(env, seed)
  if (!before(60, 'the histories')) return
  // After everything else a part of them: the seed is another one every day.
  const histories = only === 'campaigns' ? '10000' : '800'
  const long = { ...env, NEOTAXIS_CAMPAIGN: '1', NEOTAXIS_HISTORIES: histories, NEOTAXIS_SEED: seed }
  await vitest('campaigns', 'campaigns', long, '--testTimeout=1200000', ...CAMPAIGNS, ...(only === 'campaigns' ? LONGEST : []))
}

async function browser(env, specs) {
  step('whole jobs in the browser')
  const report = join(scratch, 'e2e.json')
  const code = await run(bin('playwright'), ['test', ...specs], { ...env, E2E_REPORT: report }, join(root, 'e2e'))
  const made = JSON.parse(readFileSync(report, 'utf8'))
  told.push(...failedSpecs(made))
  const { stats } = made
  add(stats.expected + stats.flaky, stats.unexpected, code)
}

const args = process.argv.slice(2)
const only = args.includes('--only') ? args[args.indexOf('--only') + 1] : undefined
const wanted = (part) => only === undefined || only === part

try {
  debianPackages(['mariadb-server', 'chromium', 'librsvg2-bin', 'imagemagick'])
  npmPackages()
  if (wanted('checks')) checks()
  step('the page')
  buildPage()
  await buildPrograms()
  database = await startDatabase(join(scratch, 'data'))
  const env = { NEOTAXIS_DB_PORT: String(database.port), NEOTAXIS_LOG: 'warn' }
  if (wanted('unit')) await vitest('unit and API tests', 'vitest', env)
  // On a very slow day: what runs a machine, and the seams.
  if (wanted('browser')) await served(env, ...(before(60, 'most of the browser tests') ? [] : ['run', 'seams', 'whole-job']))
  if (only === 'campaigns' || args.includes('--campaigns')) await campaigns(env)
} catch (error) {
  process.stdout.write(`${error.stack}\n`)
  count.failed++
} finally {
  await unserved()
  await database?.stop()
  rmSync(scratch, { recursive: true, force: true })
}
for (const line of told) process.stdout.write(`\n${line.replace(ANSI, '')}`)
process.stdout.write(`\n${count.passed} passed, ${count.failed} failed\n`)
process.exitCode = count.failed === 0 ? 0 : 1
