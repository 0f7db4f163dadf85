import { describe, expect, it } from 'vitest'
import { withProcess } from '../edits/give-process.ts'
import { checkFindings } from '../findings/check.ts'
import { flattenPath } from '../geometry/path.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { burnOrder, placesOf } from '../job/document/document.ts'
import { tellBurned } from '../job/document/tell-artwork.ts'
import { tellCell } from '../job/document/trial.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { outlinePaths, outlineRings } from '../lineage/evaluate.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { recordJob } from '../plan/record.ts'
import { checkJob } from '../reading/check-job.ts'
import { type CardSpec, evenSteps, trialCard } from './card.ts'
import { canBeTried, cardAround } from './card-around.ts'
import { readingsTable, readReadings } from './read-readings.ts'

const setting = { material: MATERIALS[0], machine: MACHINES[0], workpiece: { widthMm: 140, heightMm: 100, thicknessMm: 3 } }
const SPEC: CardSpec = {
  process: 'area',
  across: { setting: 'power', values: evenSteps(0.2, 1, 5) },
  down: { setting: 'speedMmS', values: [400, 200, 100] },
}

describe('a card of trials', () => {
  const { job, assets } = trialCard(SPEC, setting)
  const supply = assetsSupply((name) => assets.get(name))

  it('is an ordinary job: it can be kept, and runs', () => {
    expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual(JSON.parse(JSON.stringify(job)))
    const { report } = recordJob(job, supply)
    expect(report.seconds).toBeGreaterThan(5)
    expect(report.operations.length).toBe(15 + 3 + 1)
    // What is weak on it, or strong, is what it is for.
    const asked = checkFindings(job, supply).filter(({ severity }) => severity !== 'note')
    expect([...new Set(asked.map(({ kind }) => kind))]).toEqual(['over-safe-power'])
  })

  it('has a cell for every pair of values, each where its values stand, burned from the weakest on', () => {
    const cells = Object.entries(job.trial!.cells)
    expect(cells).toHaveLength(15)
    for (const [id, { column, row }] of cells) {
      expect(job.operations[id]).toMatchObject({
        process: 'area',
        power: SPEC.across.values[column],
        speedMmS: SPEC.down!.values[row],
        at: [id],
      })
      expect(job.placements[id].xMm - job.placements['cell-1-1'].xMm).toBeCloseTo(11 * column, 3)
      expect(job.placements[id].yMm - job.placements['cell-1-1'].yMm).toBeCloseTo(11 * row, 3)
    }
    const order = burnOrder(job)
    expect(tellBurned(job, job.operations['cell-2-3'])).toBe('60 % · 200 mm/s')
    // What is written comes first.
    expect(order.slice(0, 3).every((id) => job.trial!.cells[id] === undefined)).toBe(true)
    const strength = order.slice(3).map((id) => job.operations[id].power / job.operations[id].speedMmS)
    expect(strength).toEqual([...strength].sort((a, b) => a - b))
    expect(job.operations['cell-1-1'].recipe).toBeUndefined()
  })

  it('goes through a third setting in further grids, each with its value over it; a table finds its cells by all three', () => {
    const again = { setting: 'intervalMm' as const, values: [0.1, 0.2] }
    const three = trialCard({ ...SPEC, again }, { ...setting, workpiece: { widthMm: 140, heightMm: 120, thicknessMm: 3 } })
    const { job: card } = three
    expect(Object.keys(card.trial!.cells)).toHaveLength(30)
    expect(card.trial!.cells['cell-2-3-2']).toEqual({ column: 2, row: 1, again: 1 })
    expect(card.operations['cell-2-3-2']).toMatchObject({ power: 0.6, speedMmS: 200, intervalMm: 0.2 })
    expect(tellCell(card.trial!, 'cell-2-3-2')).toBe('60 % · 200 mm/s · 0.2 mm')
    expect(checkJob(JSON.parse(JSON.stringify(card))).trial).toEqual(card.trial)
    // No label lies on a cell, and none on another.
    const files = assetsSupply((name) => three.assets.get(name))
    const boxes = [
      ...Object.keys(card.trial!.cells).map((id) => card.placements[id]),
      ...Object.keys(card.nodes)
        .filter((id) => id.startsWith('label'))
        .flatMap((id) =>
          placesOf(card, id).map((place) => {
            const box = ringsBounds(outlinePaths(card, id, files, place).map((path) => flattenPath(path, 0.02)))
            return { xMm: box.x0, yMm: box.y0, widthMm: box.x1 - box.x0, heightMm: box.y1 - box.y0 }
          }),
        ),
    ]
    const own = boxes.slice(0, 30)
    for (const label of boxes.slice(30))
      for (const cell of own)
        expect(
          label.xMm < cell.xMm + cell.widthMm &&
            cell.xMm < label.xMm + label.widthMm &&
            label.yMm < cell.yMm + cell.heightMm &&
            cell.yMm < label.yMm + label.heightMm &&
            // A column of values spans its rows: only what is narrower than a cell is on it.
            label.heightMm < 4,
        ).toBe(false)
    const read = readReadings('power %;speed mm/s;interval mm;tone %\n60;200;0,2;44\n60;200;0,1;61', card)
    expect(read.job.trial!.readings).toEqual({ 'cell-2-3-2': { tone: [0.44] }, 'cell-2-3': { tone: [0.61] } })
    expect(readingsTable(read.job)).toContain('60,200,0.2,,44')
    expect(() => trialCard({ process: 'area', across: SPEC.across, again }, setting)).toThrow('across and one down')
    expect(() => trialCard({ ...SPEC, again: SPEC.across }, setting)).toThrow('not the same one')
  })

  it('has its values beside and over the cells, and nothing over its edge', () => {
    const cell = job.placements['cell-1-1']
    const rings = Object.keys(job.nodes)
      .filter((id) => id.startsWith('lines-label'))
      .map((id) => ringsBounds(outlineRings(job, id, supply)))
    expect(rings).toHaveLength(3)
    for (const { x0, y0, x1, y1 } of rings) {
      expect(Math.min(x0, y0)).toBeGreaterThan(0.5)
      expect(x1).toBeLessThan(140)
      expect(y1).toBeLessThan(100)
      // Beside, or over.
      expect(x1 < cell.xMm || y1 < cell.yMm).toBe(true)
    }
  })

  it('is made for any process, of one row too', () => {
    for (const process of ['cut', 'score', 'picture'] as const) {
      const { job: made } = trialCard({ process, across: { setting: 'speedMmS', values: [5, 10, 20] } }, setting)
      expect(Object.keys(made.trial!.cells)).toHaveLength(3)
      expect(made.operations['cell-1-3']).toMatchObject({ process, speedMmS: 20 })
      expect(placesOf(made, 'source')).toHaveLength(process === 'picture' ? 4 : 3)
      expect(checkJob(JSON.parse(JSON.stringify(made))).trial).toEqual(made.trial)
    }
    expect(evenSteps(10, 10, 1)).toEqual([10])
  })

  it('that cannot be is refused with a sentence', () => {
    const bad: readonly (readonly [Partial<CardSpec>, RegExp])[] = [
      [{ across: { setting: 'power', values: [] } }, /nothing to try/],
      [{ across: { setting: 'power', values: [0.5, 0.5] } }, /twice/],
      [{ across: { setting: 'power', values: [1.2] } }, /power of 120 % cannot be tried/],
      [{ across: { setting: 'passes', values: [1.5] } }, /cannot be tried/],
      [{ down: SPEC.across }, /two settings/],
      [
        {
          across: { setting: 'power', values: evenSteps(0.01, 1, 20) },
          down: { setting: 'speedMmS', values: evenSteps(10, 100, 20) },
        },
        /at most 225/,
      ],
      [{ cellMm: 40 }, /does not fit on 140 × 100 mm/],
    ]
    for (const [change, words] of bad) expect(() => trialCard({ ...SPEC, ...change }, setting)).toThrow(words)
  })
})

describe('a card around an operation', () => {
  const { job: base } = trialCard({ process: 'area', across: { setting: 'power', values: [0.4] } }, setting)
  const job = {
    ...base,
    operations: { ...base.operations, 'cell-1-1': { ...base.operations['cell-1-1'], intervalMm: 0.17 } as never },
  }

  it('tries power and speed on both sides of what it has; all else is as it says, and the job as it was', () => {
    expect(canBeTried(job, 'cell-1-1')).toBe(true)
    // What burns nothing is not tried.
    const shows = withProcess(base, 'cell-1-1', 'guide')
    expect(canBeTried(shows, 'cell-1-1')).toBe(false)
    const { spec, setting: on } = cardAround(job, 'cell-1-1')
    const { speedMmS } = job.operations['cell-1-1']
    expect(spec.across.values).toEqual([0.2, 0.3, 0.4, 0.5, 0.6])
    expect(spec.down!.values).toHaveLength(5)
    expect(Math.min(...spec.down!.values)).toBeLessThan(speedMmS)
    const { job: card } = trialCard(spec, on)
    expect(card.operations['cell-3-3']).toMatchObject({ power: 0.4, intervalMm: 0.17 })
    expect(Object.values(card.materials)[0]).toBe(Object.values(job.materials)[0])
    expect(checkJob(JSON.parse(JSON.stringify(card))).trial!.down!.values).toEqual(spec.down!.values)
  })

  it('keeps within what the machine has', () => {
    const fast = { ...base.operations['cell-1-1'], power: 1, speedMmS: 1e4 }
    const strong = { ...base, operations: { a: fast } }
    const { spec } = cardAround(strong, 'a')
    expect(Math.max(...spec.across.values)).toBe(1)
    expect(Math.max(...spec.down!.values)).toBeLessThanOrEqual(MACHINES[0].axes.x.speedMmS)
    expect(() => trialCard(spec, cardAround(strong, 'a').setting)).not.toThrow()
  })
})
