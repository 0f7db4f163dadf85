// The programs that run without a loader of TypeScript: the server with its threads, the simulated machine, the demo data.
// Plain JavaScript: it runs before anything is built. npm packages stay where they are, the project's own are bundled in.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { filesBelow, root } from './prepare.mjs'

const WORKSPACES = ['core', 'contract', 'intake', 'link', 'stand-ins', 'server', 'demo']
/** Each program by its workspace: what goes in, what comes out. */
const PROGRAMS = [
  ['server', { main: 'src/main.ts', tasks: 'src/work/tasks.ts', copies: 'src/copies-main.ts' }],
  ['stand-ins', { main: 'src/main.ts', camera: 'src/camera/main.ts' }],
  ['demo', { seed: 'src/seed.ts' }],
]

export const program = (workspace, name) => join(root, workspace, 'dist', `${name}.mjs`)

function packages() {
  const names = new Set()
  for (const workspace of readdirSync(root)) {
    const file = join(root, workspace, 'package.json')
    if (!existsSync(file)) continue
    const { dependencies = {} } = JSON.parse(readFileSync(file, 'utf8'))
    for (const name of Object.keys(dependencies)) if (!name.startsWith('@neotaxis/')) names.add(name)
  }
  return [...names].flatMap((name) => [name, `${name}/*`])
}

/** Builds them when a source of theirs changed since the last build. Several may do so at once: each is put in place whole. */
export async function buildPrograms() {
  const sum = createHash('sha256')
  for (const folder of WORKSPACES)
    for (const file of [...filesBelow(join(root, folder))].sort()) sum.update(file.slice(root.length)).update(readFileSync(file))
  sum.update(readFileSync(join(root, 'package-lock.json'))).update(readFileSync(new URL(import.meta.url)))
  const wanted = sum.digest('hex')
  const stampOf = (workspace) => join(root, workspace, 'dist', '.stamp')
  if (PROGRAMS.every(([workspace]) => existsSync(stampOf(workspace)) && readFileSync(stampOf(workspace), 'utf8') === wanted))
    return
  const { build } = await import('esbuild')
  const external = packages()
  for (const [workspace, entries] of PROGRAMS) {
    const dist = join(root, workspace, 'dist')
    const fresh = `${dist}.${process.pid}`
    await build({
      absWorkingDir: join(root, workspace),
      entryPoints: entries,
      outdir: fresh,
      outExtension: { '.js': '.mjs' },
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      sourcemap: true,
      external,
      logLevel: 'warning',
    })
    writeFileSync(join(fresh, '.stamp'), wanted)
    mkdirSync(dist, { recursive: true })
    for (const name of readdirSync(fresh)) renameSync(join(fresh, name), join(dist, name))
    rmSync(fresh, { recursive: true, force: true })
  }
}
