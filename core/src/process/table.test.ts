import type Joi from 'joi'
import { describe, expect, it } from 'vitest'
import { withOperation } from '../edits/change.ts'
import { readProgram } from '../formats/gcode-read.ts'
import { isEmptyBounds } from '../geometry/bounds.ts'
import { burnOrder, type JobDocument, withPiece } from '../job/document/document.ts'
import type { Operation, ProcessName } from '../job/document/operation.ts'
import type { Supply } from '../lineage/supply.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { recordJob } from '../plan/record.ts'
import { programJob } from '../proposals/program-job.ts'
import { checkJob } from '../reading/check-job.ts'
import { forecastScene } from '../scene/scene.ts'
import { burning, sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { burnedBounds } from './extent.ts'
import { PROCESS_NAMES, PROCESSES, processOf } from './table.ts'

const [bench60] = MACHINES
const [birch] = MATERIALS
const picture = squarePicture(40, 10)
const supply: Supply = supplyWith(picture)
const text = 'G21\nM4 S0\nG0X0Y0\nG1X10S500F1200\nY8\nX0\nY0\nM5\nM2\n'
const file = programJob('other.nc', 'a'.repeat(64), readProgram(text), {
  workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
  material: birch,
  machine: bench60,
})

/** For each process, a job that burns something by it, and nothing else. */
function jobOf(name: ProcessName): { readonly job: JobDocument; readonly id: string; readonly supply: Supply } {
  const sample = sampleJob({ picture, widthMm: 30 })
  const node = Object.keys(sample.nodes).find((id) => PROCESSES[name].takes(sample, id))
  if (node === undefined) {
    const [id] = burnOrder(file)
    return { job: file, id, supply: { ...supply, program: () => text } as Supply }
  }
  const operation = {
    ...PROCESSES[name].fromRecipe([node], birch, bench60),
    ...(name === 'guide' ? { drawn: true } : {}),
  } as Operation
  const job = burning({ ...sample, operations: { only: operation } }, 'only')
  return { job, id: 'only', supply }
}

describe.each(PROCESS_NAMES)('%s', (name) => {
  const { job, id, supply } = jobOf(name)
  const process = PROCESSES[name]
  const operation = job.operations[id]

  it('makes settings that its own schema takes, and that follow its own recipe', () => {
    expect(operation.process).toBe(name)
    expect(checkJob(job)).toEqual(job)
    const recipe = birch.recipes.find(({ id: own }) => own === operation.recipe)
    if (recipe) expect(process.departs(operation, recipe)).toEqual([])
    // Where there is no recipe of its own it follows none, and keeps its settings.
    const { recipe: _, ...settings } = operation
    expect(process.onMaterial(operation, birch, bench60)).toMatchObject(settings)
  })

  it('refuses settings that it does not know, and settings that are missing', () => {
    expect(() => checkJob(withOperation(job, id, { wobble: 3 } as never))).toThrow('wobble')
    for (const key of Object.keys(process.schema)) {
      const { [key]: value, ...rest } = operation as unknown as Record<string, unknown>
      const without = { ...job, operations: { [id]: rest } } as unknown as JobDocument
      const wrong = withOperation(job, id, { [key]: Symbol.iterator } as never)
      if (value !== undefined) expect(() => checkJob(wrong)).toThrow(key)
      const isNeeded =
        ((process.schema[key] as Joi.Schema).describe().flags as { presence?: string } | undefined)?.presence === 'required'
      if (isNeeded) expect(() => checkJob(without)).toThrow(key)
      else expect(checkJob(without)).toEqual(without)
    }
  })

  it('burns inside what it says it burns, and leaves what it says it leaves', () => {
    const { report, lines } = recordJob(job, supply)
    expect(lines).toBeGreaterThan(3)
    expect(report.operations[0].kind).toBe(name)
    const box = burnedBounds(job, id, supply)
    expect(isEmptyBounds(box)).toBe(false)
    const { xMm, yMm } = job.workpieces[Object.keys(job.workpieces)[0]].pose
    const [x0, y0, x1, y1] = report.bounds!
    const height = bench60.axes.y.travelMm
    expect(x0).toBeGreaterThan(box.x0 + xMm - 0.01)
    expect(x1).toBeLessThan(box.x1 + xMm + 0.01)
    expect(height - y1).toBeGreaterThan(box.y0 + yMm - 0.01)
    expect(height - y0).toBeLessThan(box.y1 + yMm + 0.01)
    expect(forecastScene(job, supply).layers.length).toBeGreaterThan(0)
    const dose = process.dose(operation, bench60)
    expect(Object.values(dose).every((value) => value > 0)).toBe(true)
  })

  it('burns the same on a workpiece that lies askew, turned with it', () => {
    const askew = withPiece(job, { pose: { xMm: 150, yMm: 100, deg: 23 } })
    const straight = recordJob(job, supply).report
    const turned = recordJob(askew, supply).report
    expect(turned.burnMm / straight.burnMm).toBeGreaterThan(0.8)
    expect(turned.burnMm / straight.burnMm).toBeLessThan(1.25)
    const [own, other] = [burnedBounds(job, id, supply), burnedBounds(askew, id, supply)]
    // On the face it is where it was; rows of dots may stand over by less than a dot’s way.
    if (!process.dots) for (const side of ['x0', 'y0', 'x1', 'y1'] as const) expect(other[side]).toBeCloseTo(own[side], 6)
  })
})

describe('a guide', () => {
  it('burns nothing unless a line is asked for, and says nothing about it', () => {
    const { job } = jobOf('guide')
    const silent = withOperation(job, 'only', { drawn: false } as never)
    expect(recordJob(silent, supply).report.burnMm).toBe(0)
    expect(forecastScene(silent, supply).layers).toEqual([])
    expect(processOf(silent.operations.only).silent?.(silent.operations.only)).toBe(true)
    const drawn = recordJob(job, supply).report
    expect(drawn.burnMm).toBeGreaterThan(50)
  })
})
