// `npm run bench [-- --seed N] [-- --only trace,picture,plan,outline,fill,placing,camera,machine,page,server]`: every row against its reference, in one run.
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { parseArgs } from 'node:util'
import type { Row } from './measure.ts'
import { cameraRows } from './rows-camera.ts'
import { fillRows } from './rows-fill.ts'
import { machineRows } from './rows-machine.ts'
import { outlineRows } from './rows-outline.ts'
import { pageRows } from './rows-page.ts'
import { pictureRows } from './rows-picture.ts'
import { placingRows } from './rows-placing.ts'
import { planRows } from './rows-plan.ts'
import { serverRows } from './rows-server.ts'
import { traceRows } from './rows-trace.ts'

const { values } = parseArgs({ options: { seed: { type: 'string', default: '1' }, only: { type: 'string' } } })
const seed = Number(values.seed)
if (!Number.isInteger(seed)) throw new Error('--seed wants a whole number.')
const groups: Record<string, (seed: number) => Row[] | Promise<Row[]>> = {
  plan: planRows,
  picture: pictureRows,
  trace: traceRows,
  outline: outlineRows,
  fill: fillRows,
  placing: placingRows,
  camera: cameraRows,
  machine: machineRows,
  page: pageRows,
  server: serverRows,
}
const chosen = values.only?.split(',') ?? Object.keys(groups)
const rows: Row[] = []
for (const name of chosen) {
  process.stderr.write(`${name} …\n`)
  try {
    rows.push(...(await groups[name](seed)))
  } catch (cause) {
    // What was measured is told all the same.
    process.stderr.write(`${name} failed: ${cause instanceof Error ? cause.stack : cause}\n`)
    process.exitCode = 1
  }
}

const show = (v: number | undefined): string =>
  v === undefined ? '–' : v >= 100 ? v.toFixed(0) : v >= 1 ? v.toFixed(2) : v.toFixed(4)
const table = rows.map(({ what, ours, reference, unit, target, note }) => {
  const ratio = reference === undefined ? undefined : ours / reference
  const verdict = target === undefined || ratio === undefined ? '' : ratio <= target ? 'ok' : 'MISSED'
  return [
    what,
    `${show(ours)} ${unit}`,
    `${show(reference)} ${unit}`,
    show(ratio),
    target === undefined ? '–' : `≤ ${target}`,
    verdict,
    note ?? '',
  ]
})
const widths = ['what', 'ours', 'reference', 'ratio', 'target', '', ''].map((head, i) =>
  Math.max(head.length, ...table.map((line) => line[i].length)),
)
for (const line of [['what', 'ours', 'reference', 'ratio', 'target', '', ''], ...table])
  process.stdout.write(`${line.map((cell, i) => (i === 0 ? cell.padEnd(widths[i]) : cell.padStart(widths[i]))).join('  ')}\n`)
const folder = join(fileURLToPath(import.meta.url), '../../../.data')
mkdirSync(folder, { recursive: true })
writeFileSync(
  join(folder, 'bench.json'),
  JSON.stringify(
    { seed, rows: rows.map((row) => ({ ...row, ratio: row.reference === undefined ? null : row.ours / row.reference })) },
    null,
    1,
  ),
)
