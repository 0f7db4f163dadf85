import { strToU8 } from 'fflate'
import { describe, expect, it } from 'vitest'
import { readDrawing } from '../formats/read-drawing.ts'
import { loosePieces } from '../hold/loose-pieces.ts'
import type { JobDocument } from '../job/document/document.ts'
import { applyPatches } from '../job/patches/edit.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { outlineLines } from '../lineage/evaluate.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { proposalsFor } from '../proposals/proposals-for.ts'
import { checkJob } from '../reading/check-job.ts'
import { checkFindings } from './check.ts'

/** A drawing of thin lines as a job, and what is found of it. */
function found(inside: string, proposal = 'cut-lines') {
  const bytes = strToU8(
    `<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="150mm" viewBox="0 0 200 150"><g fill="none" stroke="#000" stroke-width="0.05">${inside}</g></svg>`,
  )
  const supply = assetsSupply(() => bytes)
  const drawing = readDrawing(bytes)
  const facts = { name: 'jetty.svg', asset: 'a'.repeat(64), widthPx: 9, heightPx: 9, hasAlpha: true, drawing }
  const settings = { workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 }, material: MATERIALS[0], machine: MACHINES[0] }
  const { job } = proposalsFor(facts, settings, supply).find(({ id }) => id === proposal)!
  const kinds = (of: JobDocument): string[] => checkFindings(of, supply).map(({ kind }) => kind)
  return { job, supply, kinds, list: checkFindings(job, supply) }
}

describe('walls', () => {
  const plate = (x: number): string => `<rect width="80" height="60"/><rect x="${x}" y="20" width="20" height="20"/>`

  it('thinner than half the thickness are told, at their place; thicker ones are not', () => {
    expect(found(plate(20)).list.map(({ kind }) => kind)).not.toContain('thin')
    // Between hole and edge 0.8 mm stay.
    const { list, job } = found(plate(0.8))
    const thin = list.find(({ kind }) => kind === 'thin')!
    expect(thin.message).toMatch(/thinner than 1\.5 mm/)
    expect(Math.abs(thin.x - job.placements.source.xMm)).toBeLessThan(2)
  })

  it('between two cuts, and of the sheet to its edge, count as well', () => {
    expect(
      found('<rect width="60" height="60"/><circle cx="20" cy="30" r="8"/><circle cx="37" cy="30" r="8"/>').list.map(
        ({ kind }) => kind,
      ),
    ).toContain('thin')
    const { job, kinds } = found('<rect width="60" height="60"/>')
    expect(kinds(job)).not.toContain('thin')
    const { source } = job.placements
    expect(kinds({ ...job, placements: { source: { ...source, xMm: 0.9 } } })).toContain('thin')
  })
})

it('the job says what is thin, where it says something', () => {
  const { job, kinds } = found('<rect width="80" height="60"/><rect x="3" y="20" width="20" height="20"/>')
  expect(kinds(job)).not.toContain('thin')
  expect(kinds(checkJob({ ...job, thinMm: 4 }))).toContain('thin')
})

it('what comes off is counted by its kind and size', () => {
  const holes = [10, 30, 50].map((x) => `<circle cx="${x}" cy="30" r="5"/>`).join('')
  const { job, supply } = found(`<rect width="80" height="60"/>${holes}<circle cx="30" cy="30" r="2"/>`)
  expect(loosePieces(job, supply).map(({ fate, count }) => [fate, count])).toEqual([
    ['lost', 1],
    ['part', 1],
    ['waste', 2],
    ['waste', 1],
  ])
})

it('licences of artwork from the library are told: not to be sold, not to be changed, credit', () => {
  const { job, supply } = found('<rect width="80" height="60"/>')
  const licence = { name: 'lent', sell: false, change: false, credit: 'Pilots of Saltmere' }
  const source = {
    ...job.nodes.source,
    provenance: { library: 'x', origin: 'the pilots', licence },
  } as (typeof job.nodes)['source']
  const lent = checkJob({ ...job, nodes: { ...job.nodes, source } })
  const list = checkFindings(lent, supply).filter(({ kind }) => kind === 'licence')
  expect(list.map(({ severity }) => severity)).toEqual(['ask', 'note', 'note'])
  expect(list[2].message).toContain('Pilots of Saltmere')
  // What is not burned asks for nothing.
  expect(checkFindings({ ...lent, order: [] }, supply).filter(({ kind }) => kind === 'licence')).toEqual([])
})

describe('outlines', () => {
  it('that do not close are told, and joined by the fix where the gap is small', () => {
    const { job, supply, list } = found('<path d="M0 0H60V40H0V0.3"/>')
    const open = list.find(({ kind }) => kind === 'open-outline')!
    const joined = checkJob(applyPatches(job, open.fixes[0].patches))
    expect(outlineLines(joined, joined.operations.cut.of[0], supply)).toEqual([])
    expect(found('<path d="M0 0H60V40H0V0.3"/>', 'score-lines').list.map(({ kind }) => kind)).not.toContain('open-outline')
  })

  it('that cross themselves are told', () => {
    expect(found('<path d="M0 0L60 40V0L0 40Z"/>').list.map(({ kind }) => kind)).toContain('crossing')
    expect(found('<path d="M0 0L60 40V0Z"/>').list.map(({ kind }) => kind)).not.toContain('crossing')
  })
})

it('a cut through what is engraved is told, one beside it is not', () => {
  const area = '<rect x="20" y="20" width="40" height="20" fill="#000" stroke="none"/>'
  expect(found(`<rect width="80" height="60"/>${area}`, 'by-rules').list.map(({ kind }) => kind)).not.toContain(
    'cut-through-engraving',
  )
  expect(found(`<rect width="40" height="60"/>${area}`, 'by-rules').list.map(({ kind }) => kind)).toContain(
    'cut-through-engraving',
  )
  // Specks along the cut are no mark that is lost, however many there are.
  const specks = [1, 2, 3, 4, 5, 6].map((i) => `<rect x="39.8" y="${9 * i}" width="0.4" height="0.3" fill="#000" stroke="none"/>`)
  expect(found(`<rect width="40" height="60"/>${specks.join('')}`, 'by-rules').list.map(({ kind }) => kind)).not.toContain(
    'cut-through-engraving',
  )
})
