// `npm run kernels`: compiles `kernels/src/NAME/index.ts` to WebAssembly and writes it as `core/src/kernels/NAME.wasm.ts`.
// With `--check` nothing is written: it fails where what is there differs from what the sources give.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { root } from './prepare.mjs'

const scratch = mkdtempSync(join(tmpdir(), 'neotaxis-kernels-'))
const check = process.argv.includes('--check')
try {
  for (const name of readdirSync(join(root, 'kernels/src'))) {
    const wasm = join(scratch, `${name}.wasm`)
    const asc = join(root, 'node_modules/assemblyscript/bin/asc.js')
    const options = ['-o', wasm, '--runtime', 'stub', '-O3', '--noAssert', '--enable', 'simd', '--importMemory']
    const { status } = spawnSync(process.execPath, [asc, join('kernels/src', name, 'index.ts'), ...options], {
      cwd: root,
      stdio: 'inherit',
    })
    if (status !== 0) throw new Error(`The kernel “${name}” does not compile.`)
    const text = `// Compiled from kernels/src/${name} by \`npm run kernels\`: do not change it here.\nexport const ${name.toUpperCase()}_WASM =\n  '${readFileSync(wasm).toString('base64')}'\n`
    const file = join(root, `core/src/kernels/${name}.wasm.ts`)
    if (!check) writeFileSync(file, text)
    else if (readFileSync(file, 'utf8') !== text)
      throw new Error(`${name}.wasm.ts is not what its sources give: run npm run kernels.`)
  }
} catch (error) {
  process.stderr.write(`${error.message}\n`)
  process.exitCode = 1
} finally {
  rmSync(scratch, { recursive: true, force: true })
}
