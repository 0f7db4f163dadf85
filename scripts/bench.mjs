// `npm run bench`: installs the references where they are missing, then measures.
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { buildPage, debianPackages, npmPackages, root } from './prepare.mjs'

debianPackages(['potrace', 'imagemagick', 'mariadb-server', 'chromium'])
npmPackages()
buildPage()
const { status } = spawnSync(process.execPath, ['--import', 'tsx', join(root, 'bench/src/main.ts'), ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
})
process.exitCode = status ?? 1
