import { describe, expect, it } from 'vitest'
import { withOperation } from '../edits/change.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { standingOf } from '../material/evidence.ts'
import { typedNumber } from '../material/typed-units.ts'
import { materialSchema } from '../reading/catalogue-schema.ts'
import { checkJob } from '../reading/check-job.ts'
import { evenSteps, trialCard } from './card.ts'
import { CARD_KINDS, cardAround, cardKinds } from './card-around.ts'
import { firstCard } from './card-on.ts'
import {
  cellInput,
  cellPoints,
  cellsOf,
  curveOfTrial,
  fittedTrial,
  quantitiesOf,
  readingTroubles,
  recipeOfCell,
  withBest,
  withLeftOut,
  withReadings,
} from './measured.ts'
import { readingsTable, readReadings } from './read-readings.ts'

const setting = { material: MATERIALS[4], machine: MACHINES[0], workpiece: { widthMm: 140, heightMm: 100, thicknessMm: 12 } }
const { job: blank } = trialCard(
  {
    process: 'area',
    across: { setting: 'power', values: evenSteps(0.2, 1, 5) },
    down: { setting: 'speedMmS', values: [300, 150, 75] },
  },
  setting,
)
const cells = cellsOf(blank.trial!)
/** Half a millimetre for each J/mm² over 0.2. */
const answer = (dose: number): number => Math.max(0, 0.5 * (dose - 0.2))
const read = cells.reduce((job, cell) => withReadings(job, cell, { depth: [answer(cellInput(job, cell, 'depth')!)] }), blank)

describe('what is measured on a card', () => {
  it('belongs to the dose that each cell got; what is taken back is gone', () => {
    expect(cells).toHaveLength(15)
    expect(quantitiesOf(blank)).toEqual(['depth', 'tone', 'watts'])
    // 20 % of 60 W at 300 mm/s, lines 0.127 mm apart.
    const { intervalMm } = blank.operations['cell-1-1'] as { intervalMm: number } & (typeof blank.operations)[string]
    expect(cellInput(blank, 'cell-1-1', 'depth')).toBeGreaterThan(0.9 * (10 / (300 * intervalMm)))
    expect(cellInput(blank, 'cell-1-1', 'watts')).toBe(0.2)
    expect(cellInput(blank, 'cell-1-1', 'kerf')).toBeUndefined()
    expect(checkJob(JSON.parse(JSON.stringify(read))).trial!.readings).toEqual(read.trial!.readings)
    const back = withReadings(read, 'cell-1-1', { depth: [] })
    expect(back.trial!.readings!['cell-1-1']).toBeUndefined()
    expect(cellPoints(back, 'depth')).toHaveLength(14)
    expect(cellPoints(withLeftOut(back, 'cell-2-2', true), 'depth')).toHaveLength(13)
    expect(withLeftOut(withLeftOut(back, 'cell-2-2', true), 'cell-2-2', false).trial!.leftOut).toEqual([])
  })

  it('becomes a curve of the material, with its conditions', () => {
    const curve = curveOfTrial(read, 'depth', 'lime', '2026-11-29')
    expect(curve).toMatchObject({
      quantity: 'depth',
      scattered: true,
      conditions: { material: setting.material.id, machine: 'bench-60', lens: MACHINES[0].lens, date: '2026-11-29' },
    })
    expect(curve.conditions.speedMmS).toBeUndefined()
    const layers = [{ ...setting.material.layers[0], curves: [curve] }]
    expect(materialSchema.validate({ ...setting.material, layers }, { convert: false }).error).toBeUndefined()
    const fit = fittedTrial(read, 'depth')!
    for (const dose of [1, 2, 4]) expect(fit.at(dose)).toBeCloseTo(answer(dose), 1)
    expect(() => curveOfTrial(blank, 'depth', 'x', '2026-11-29')).toThrow('0 are there')
    const two = cells.slice(0, 2).reduce((job, cell) => withReadings(job, cell, { depth: [0.1] }), blank)
    expect(() => curveOfTrial(two, 'depth', 'x', '2026-11-29')).toThrow('at least 4 cells')
    expect(fittedTrial(two, 'depth')).toBeUndefined()
  })

  it('is asked about where it cannot be, is far off, or falls', () => {
    expect(readingTroubles(read, 'depth')).toEqual([])
    const [deep] = readingTroubles(withReadings(read, 'cell-1-1', { depth: [340] }), 'depth')
    expect(deep).toMatchObject({ cell: 'cell-1-1', isOff: true })
    expect(deep.message).toMatch(/^20 % · 300 mm\/s: .*thick, 12 mm.*µm/)
    // Nothing is fitted through it.
    expect(() => curveOfTrial(withReadings(read, 'cell-1-1', { depth: [340] }), 'depth', 'x', '2026-11-29')).toThrow('12 mm')
    const off = readingTroubles(withReadings(read, 'cell-2-3', { depth: [answer(3) + 1.2] }), 'depth')
    expect(off.map(({ cell }) => cell)).toEqual(['cell-2-3'])
    expect(off[0].message).toContain('over what its neighbours say')
    expect(readingTroubles(withLeftOut(withReadings(read, 'cell-2-3', { depth: [2] }), 'cell-2-3', true), 'depth')).toEqual([])
    const dark = withReadings(read, 'cell-1-1', { tone: [1.4] })
    expect(readingTroubles(dark, 'tone')[0].message).toContain('a tone is 0 untouched to 100 %')
    const upside = cells.reduce((job, cell, i) => withReadings(job, cell, { depth: [(i * 0.13) % 0.7] }), blank)
    expect(readingTroubles(upside, 'depth').some(({ message }) => message.includes('in the order of the cells'))).toBe(true)
    const power = cells.reduce((job, cell) => withReadings(job, cell, { watts: [500] }), blank)
    expect(readingTroubles(power, 'watts')[0].message).toContain('more than Bench laser 60 W can give')
  })

  it('makes the best cell a recipe, proven once', () => {
    const recipe = recipeOfCell(withBest(read, 'cell-2-3'), 'cell-2-3', { id: 'r', name: 'lime, filled', date: '2026-11-29' })
    expect(recipe).toMatchObject({ process: 'area', machine: 'bench-60', power: 0.6, speedMmS: 150 })
    expect(recipe.evidence[0]).toMatchObject({ kind: 'trial', answer: 'yes' })
    expect(standingOf(recipe)).toEqual({ kind: 'proven', times: 1, failed: 0, last: '2026-11-29' })
  })
})

describe('a table of readings', () => {
  const filled = readingsTable(read)

  it('is written for a bench without a screen, and read as it was', () => {
    expect(filled.split('\n')[0]).toBe('power %,speed mm/s,depth mm,tone %,watts W')
    const back = readReadings(filled, blank)
    expect(back.troubles).toEqual([])
    expect(back.cells).toBe(15)
    for (const cell of cells)
      expect(back.job.trial!.readings![cell].depth![0]).toBeCloseTo(read.trial!.readings![cell].depth![0], 3)
    const twice = withReadings(read, 'cell-1-1', { depth: [0.1, 0.14] })
    expect(readReadings(readingsTable(twice), blank).job.trial!.readings!['cell-1-1'].depth).toEqual([0.1, 0.14])
  })

  it.each([
    ['semicolons and commas', 'power %;speed mm/s;depth mm\n20;300;0,15\n40;300;0,35\n', [0.15, 0.35]],
    ['tabs', 'power %\tspeed mm/s\tdepth mm\n20\t300\t0.15\n40\t300\t0.35', [0.15, 0.35]],
    ['another order of columns, µm', 'Depth µm,Speed,Power\n150,300,20\n350,300,40', [0.15, 0.35]],
    ['inches', 'depth in\n0.01\n0.02', [0.254, 0.508]],
    ['a sign of how it is coded', '\ufeffdepth mm\n0.15\n0.35', [0.15, 0.35]],
    ['cells that were not read', 'depth mm\n0.15\n-\n', [0.15]],
  ])('with %s', (_, text, depths) => {
    const { job, troubles } = readReadings(text, blank)
    expect(troubles).toEqual([])
    const got = ['cell-1-1', 'cell-1-2'].flatMap((cell) => job.trial!.readings?.[cell]?.depth ?? [])
    expect(got).toHaveLength(depths.length)
    depths.forEach((depth, i) => void expect(got[i]).toBeCloseTo(depth, 6))
  })

  it('that cannot be read says why, at its row', () => {
    expect(() => readReadings('', blank)).toThrow('nothing in it')
    expect(() => readReadings('a,b\n1,2', blank)).toThrow('None of its heads says what was measured: “a”, “b”')
    expect(() => readReadings('depth\n1', blank)).toThrow('has no unit')
    const { troubles, cells: taken } = readReadings(
      'power %,speed mm/s,depth mm\n20,300,0.1\n25,300,0.2\n40,300,deep\n60,300,-1',
      blank,
    )
    expect(taken).toBe(1)
    expect(troubles).toEqual([
      { row: 3, message: 'Row 3: “25” is not tried on this card. Expected 20, 40, 60, 80, 100.' },
      { row: 4, message: 'Row 4: “deep” under “depth mm” is no number of 0 or more.' },
      { row: 5, message: 'Row 5: “-1” under “depth mm” is no number of 0 or more.' },
    ])
    const many = readReadings(`depth mm\n${'0.1\n'.repeat(16)}`, blank)
    expect(many.troubles[0].message).toContain('the card has 15 cells, and this is one more')
  })

  it('reads numbers as people write them', () => {
    expect(typedNumber('0,5', true)).toBe(0.5)
    expect(typedNumber('1.200,5', true)).toBe(1200.5)
    expect(typedNumber(' 60 %', false)).toBe(60)
    expect(typedNumber('1e-3', false)).toBe(0.001)
    expect(typedNumber('deep', false)).toBeUndefined()
    expect(typedNumber('', false)).toBeUndefined()
  })
})

describe('cards of every kind', () => {
  const base = withOperation(blank, 'cell-2-3', {})
  it('are made around an operation, and can be kept', () => {
    const kinds = cardKinds(base, 'cell-2-3')
    expect(kinds).toEqual(['power-speed', 'wedge', 'turn-on', 'interval', 'passes', 'focus'])
    for (const kind of kinds) {
      const { spec, setting: on } = cardAround(base, 'cell-2-3', kind)
      const { job } = trialCard(spec, on)
      expect(checkJob(JSON.parse(JSON.stringify(job))).trial!.across.values.length, kind).toBeGreaterThan(4)
    }
    const wedge = cardAround(base, 'cell-2-3', 'wedge', { steps: 12 }).spec
    expect(wedge.across.values).toHaveLength(12)
    expect(wedge.across.values.at(-1)).toBe(0.6)
    expect(() => cardAround(base, 'cell-2-3', 'wedge', { steps: 2 })).toThrow('4 to 50')
    expect(() => cardAround(base, 'cell-2-3', 'kerf')).toThrow('nothing of this kind')
  })

  it('of slots are cut with no kerf taken off, of pulses only where they can be set', () => {
    const { job: cuts } = trialCard({ process: 'cut', across: { setting: 'speedMmS', values: [10] } }, setting)
    expect(cardKinds(cuts, 'cell-1-1')).toEqual(['power-speed', 'turn-on', 'passes', 'focus', 'kerf'])
    const { spec } = cardAround(cuts, 'cell-1-1', 'kerf')
    expect(spec.settings).toMatchObject({ kerfMm: 0 })
    expect(CARD_KINDS).toContain('pulses')
    const pulsed = { ...cuts, machine: { ...cuts.machine, pulses: { hz: { min: 1000, max: 60_000 } } } }
    expect(cardAround(pulsed, 'cell-1-1', 'pulses').spec.across.values.at(-1)).toBe(60_000)
  })

  it('begin on a material of which nothing is known', () => {
    for (const process of ['area', 'cut', 'score'] as const) {
      const { spec, setting: on } = firstCard(MATERIALS[4], MACHINES[0], process)
      const { job } = trialCard(spec, on)
      expect(Object.keys(job.trial!.cells)).toHaveLength(36)
      expect(Math.max(...spec.down!.values)).toBeLessThanOrEqual(MACHINES[0].axes.x.speedMmS)
    }
  })
})
