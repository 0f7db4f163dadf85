// Type-checks every workspace with its own settings: the core sees neither page nor Node.
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { root } from './prepare.mjs'

const projects = [
  'core',
  'core/tsconfig.test.json',
  'contract',
  'intake',
  'link',
  'stand-ins',
  'cli',
  'server',
  'web',
  'demo',
  'e2e',
  'bench',
]
const failed = projects.filter(
  (project) => spawnSync(join(root, 'node_modules/.bin/tsc'), ['-p', project], { cwd: root, stdio: 'inherit' }).status !== 0,
)
if (failed.length > 0) {
  process.stderr.write(`Type errors in: ${failed.join(', ')}\n`)
  process.exitCode = 1
}
