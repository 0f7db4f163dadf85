import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { strFromU8, unzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { paintForecast } from '../../forecast/paint.ts'
import { assetsSupply } from '../../lineage/assets-supply.ts'
import { measureJob } from '../../plan/plan.ts'
import { writeProgram } from '../../plan/write-program.ts'
import { checkJob } from '../../reading/check-job.ts'
import { packJob, unpackJob } from '../../reading/job-file.ts'
import { forecastScene } from '../../scene/scene.ts'
import { burnOrder, JOB_VERSION } from '../document/document.ts'
import type { Stored } from './stored.ts'
import { upgraded } from './upgrade.ts'

const FOLDER = new URL('./written/', import.meta.url)
/** What the version before version 5 made of them: SHA-256 of their programs, and of their forecasts at 2 px a mm. */
const BEFORE = JSON.parse(readFileSync(new URL('before.json', FOLDER), 'utf8')) as Record<string, object>
/** Jobs as the versions before really wrote them. */
const FILES = readdirSync(FOLDER).filter((name) => name.endsWith('.neotaxis'))
const read = (name: string): Uint8Array => new Uint8Array(readFileSync(new URL(name, FOLDER)))
const stored = (name: string): Stored => JSON.parse(strFromU8(unzipSync(read(name))['job.json'])) as Stored

describe('jobs that earlier versions wrote', () => {
  it('are there, of every version', () => {
    for (const version of [1, 2, 3, 4]) {
      const own = FILES.filter((name) => name.startsWith(`v${version}-`))
      expect(own.length, `version ${version}`).toBeGreaterThanOrEqual(3)
      for (const name of own) expect(stored(name).version).toBe(version)
    }
  })

  it.each(FILES)('%s comes up, is planned, forecast and packed again', (name) => {
    const { job, assets } = unpackJob(read(name))
    expect(job.version).toBe(JOB_VERSION)
    const supply = assetsSupply((asset) => assets.get(asset))
    const report = measureJob(job, supply)
    expect(report.seconds).toBeGreaterThan(1)
    expect(report.operations.map(({ id }) => id)).toEqual(burnOrder(job))
    expect(forecastScene(job, supply).layers.length).toBeGreaterThan(0)
    const again = unpackJob(packJob(job, (asset) => assets.get(asset)!))
    expect(again.job).toEqual(job)
    // What is of this version is not touched again.
    expect(upgraded(job as never)).toBe(job)
  })

  it('keep order, pauses and set-ups, what is put aside, and how they lie', () => {
    const old = stored('v4-grouped.neotaxis') as never as { runOrder: string[]; onBed: object; operations: object }
    const { job } = unpackJob(read('v4-grouped.neotaxis'))
    expect(burnOrder(job)).toEqual(old.runOrder)
    expect(job.workpieces.piece.pose).toEqual(old.onBed)
    expect(Object.keys(job.operations)).toEqual(Object.keys(old.operations))
    expect(burnOrder(job)).not.toContain('aside')
    expect(Object.values(job.steps)).toContainEqual({ kind: 'pause', text: 'Wipe the soot off' })
    expect(Object.values(unpackJob(read('v4-by-rules.neotaxis')).job.steps)).toContainEqual({
      kind: 'set-up',
      name: 'Turn it over',
    })
  })

  it('call each operation what it was: a cut along lines that only marks was a score', () => {
    const processes = (name: string): string[] =>
      Object.values(unpackJob(read(name)).job.operations).map(({ process }) => process)
    expect(processes('v4-scored.neotaxis')).toEqual(['score'])
    expect(processes('v4-stencil.neotaxis')).toEqual(['cut'])
    expect(processes('v1-engrave.neotaxis')).toEqual(['picture'])
    expect(processes('v4-program.neotaxis')).toEqual(['program'])
    const scored = stored('v4-scored.neotaxis') as never as { operations: Record<string, object> }
    const strong = Object.fromEntries(
      Object.entries(scored.operations).map(([id, op]) => [id, { ...op, power: 1, speedMmS: 2, passes: 3 }]),
    )
    expect(Object.values(checkJob({ ...scored, operations: strong }).operations)[0].process).toBe('cut')
  })

  it.each(FILES)('%s gives the bytes and the pixels that it gave before', (name) => {
    const { job, assets } = unpackJob(read(name))
    const supply = assetsSupply((asset) => assets.get(asset))
    const program = createHash('sha256')
    writeProgram(job, supply, (bytes) => program.update(bytes))
    const scene = forecastScene(job, supply)
    const { widthMm, heightMm } = scene
    const view = { x: 0, y: 0, pxPerMm: 2, widthPx: Math.ceil(2 * widthMm), heightPx: Math.ceil(2 * heightMm) }
    // Hairlines are made to be seen since: what lies on the piece is what it was.
    const layers = scene.layers.map((layer) => (layer.kind === 'kerf' ? { ...layer, lineMm: undefined } : layer))
    const forecast = createHash('sha256').update(paintForecast({ ...scene, layers }, view))
    expect({ program: program.digest('hex'), forecast: forecast.digest('hex') }).toEqual(BEFORE[name])
  })
})

describe('what is no job of an earlier version', () => {
  const old = stored('v4-stencil.neotaxis')
  it.each<[string, Stored]>([
    ['no workpiece', { ...old, workpiece: undefined }],
    ['a workpiece of text', { ...old, workpiece: 'oak' }],
    ['no place on the bed', { ...old, onBed: null }],
    ['operations that are a list', { ...old, operations: [1] }],
    ['an order of numbers', { ...old, runOrder: [7] }],
    ['a material without a name', { ...old, material: { id: 3 } }],
    ['placements of nothing', { ...old, placements: null }],
    ['a machine of nothing', { ...old, machine: null }],
    [
      'a process from the future',
      { ...old, operations: { cut: { ...((old.operations as Stored).cut as object), kind: 'polish' } } },
    ],
  ])('%s is refused with one sentence, and never brings the upgrade down', (_what, value) => {
    expect(() => checkJob(value)).toThrow(/^The job does not hold together: [^\n]+\.$/)
  })
})
