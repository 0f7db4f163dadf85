import { describe, expect, it } from 'vitest'
import { encodePng } from '../formats/png.ts'
import { burnOrder, mainPiece } from '../job/document/document.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { measuredCurve } from '../material/answer.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { FILLS, type FillName, fillFacts, fillNow } from '../plan/compare-fills.ts'
import { depthOfFill } from '../process/area/depth.ts'
import type { AreaOperation } from '../process/area/settings.ts'
import { ELSEWHERE_LAYERS, elsewhereDrawing } from '../run/elsewhere.ts'
import { squarePicture } from '../testing/sample-job.ts'
import { proposalsFor } from './proposals-for.ts'

const picture = squarePicture(60, 15)
const png = encodePng({ ...picture, channels: 1 })
const supply = assetsSupply(() => png)
const facts = { name: 'buoy.png', asset: 'a'.repeat(64), widthPx: 60, heightPx: 60, hasAlpha: false }
const settings = {
  workpiece: { widthMm: 120, heightMm: 80, thicknessMm: 4 },
  material: MATERIALS[0],
  machine: MACHINES[0],
  size: { widthMm: 40 },
}
const made = (id: string, more = {}) => proposalsFor(facts, { ...settings, ...more }, supply).find((each) => each.id === id)

describe('a picture that another tool cuts out', () => {
  const { job } = made('engrave-cut-elsewhere')!

  it('is engraved and cleaned before; nothing of it is cut here', () => {
    expect(job.order.map((id) => job.steps[id].kind)).toEqual(['burn', 'by-hand', 'elsewhere'])
    expect(burnOrder(job).map((id) => job.operations[id].process)).toEqual(['picture'])
  })

  it('is held in its sheet: the path of the tool is left open at each bridge', () => {
    const step = job.order.find((id) => job.steps[id].kind === 'elsewhere')!
    const held = Object.values(job.nodes).find((node) => node.kind === 'bridged')
    const count = Object.keys(held?.bridges ?? {}).length
    expect(count).toBeGreaterThanOrEqual(2)
    const { shapes } = elsewhereDrawing(job, step, supply)
    const paths = shapes.filter(({ look }) => look.layer === ELSEWHERE_LAYERS.path).flatMap((shape) => shape.paths)
    expect(paths.filter(({ closed }) => closed)).toHaveLength(0)
    expect(paths).toHaveLength(count)
  })
})

describe('a piece of stock', () => {
  it('may be filled to its edge: covered by the picture, which ends inside it', () => {
    expect(made('engrave-filling')).toBeUndefined()
    const { job } = made('engrave-filling', { fillsPiece: true })!
    const face = faceSize(mainPiece(job))
    const { source } = job.placements
    expect(source.widthMm).toBeGreaterThanOrEqual(face.widthMm - 1e-6)
    expect(source.heightMm).toBeGreaterThanOrEqual(face.heightMm - 1e-6)
    expect(source.xMm + source.widthMm / 2).toBeCloseTo(face.widthMm / 2, 3)
    expect(Object.values(job.nodes).find(({ kind }) => kind === 'picture')).toMatchObject({ clip: { marginMm: 2 } })
  })
})

describe('a ground that is filled and sanded later', () => {
  const deepOne = MATERIALS.find((each) => measuredCurve(each, 'depth', MACHINES[0].id) && each.thicknessMm >= 4)!

  it('is offered where its depth was measured: as deep as is said, in the quickest way, sanded last', () => {
    const { job, detail } = made('fill-deep', { material: deepOne })!
    const fill = job.operations.fill as AreaOperation
    const depth = depthOfFill(fill, deepOne, MACHINES[0])!
    expect(Number(/([\d.]+) mm deep/.exec(detail)?.[1])).toBeCloseTo(depth, 1)
    expect(depth).toBeLessThan(0.5 * deepOne.thicknessMm)
    expect(job.order.map((id) => job.steps[id].kind)).toEqual(['burn', 'by-hand'])
    const seconds = (name: FillName): number => fillFacts(job, 'fill', name, supply).seconds
    const least = Math.min(...(Object.keys(FILLS) as FillName[]).map(seconds))
    expect(seconds(fillNow(job, 'fill')!)).toBeCloseTo(least, 6)
  })

  it('is not where nobody measured it, nor in a piece as thin as the ground would be deep', () => {
    const [top, ...below] = deepOne.layers
    expect(made('fill-deep', { material: { ...deepOne, layers: [{ ...top, curves: [] }, ...below] } })).toBeUndefined()
    const thin = { ...settings.workpiece, thicknessMm: 1 }
    expect(made('fill-deep', { material: deepOne, workpiece: thin })).toBeUndefined()
  })
})
