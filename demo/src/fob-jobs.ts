import {
  assetsSupply,
  type Drawn,
  type JobDocument,
  MACHINES,
  MATERIALS,
  proposalsFor,
  type SourceFacts,
  type TextSpec,
  withArtwork,
  withPlace,
  withSecondSide,
} from '@neotaxis/core'
import { drawnFile } from './label-jobs.ts'
import { fobBlank } from './stock.ts'

/** What stands on the front and the back of the boat keys. */
export const FOB_FRONT: TextSpec = {
  kind: 'text',
  text: 'TERN',
  font: { kind: 'strokes' },
  capMm: 7,
  letterMm: 0.6,
  lineShare: 1.6,
  align: 'middle',
}
export const FOB_BACK: TextSpec = { ...FOB_FRONT, text: 'berth N 1', capMm: 4.5 }

/** The key fob of a boat: its name on the front, its berth on the back, around the hole for the ring. */
export function keyFobJob(front: SourceFacts, back: SourceFacts): JobDocument {
  const material = MATERIALS.find(({ id }) => id === 'lacquered-brass-1')!
  const { outline, keepOuts } = fobBlank
  const workpiece = { widthMm: 60, heightMm: 28, thicknessMm: material.thicknessMm, outline }
  const scored = (facts: SourceFacts, drawn: Drawn): JobDocument => {
    const supply = assetsSupply(() => drawnFile(drawn))
    const made = proposalsFor({ ...facts, drawn }, { workpiece, material, machine: MACHINES[0] }, supply)
    const { job } = made.find(({ id }) => id === 'score-lines')!
    const { widthMm, heightMm } = job.placements.source
    return withPlace(job, 'source', { xMm: 35 - widthMm / 2, yMm: 14 - heightMm / 2 })
  }
  const first = scored(front, FOB_FRONT)
  const fob: JobDocument = { ...first, workpieces: { fob: { ...first.workpieces.piece, name: 'key fob', keepOuts } } }
  const laid: JobDocument = { ...fob, placements: { source: { ...fob.placements.source, on: 'fob' } } }
  const { job, side } = withSecondSide(laid, 'left-right', 'fob')
  const other = scored(back, FOB_BACK)
  const { widthMm } = other.placements.source
  // Turned over, the hole lies at the right.
  const lies = withPlace(other, 'source', { xMm: 25 - widthMm / 2 })
  const { lookedAt: _, ...both } = withArtwork({ ...job, lookedAt: side }, lies, 'back')
  return { ...both, name: 'Key fob, both sides' }
}

/** The collar of a mooring post: a disc with a hole in its middle and six around it. */
export function collarFile(): Uint8Array {
  const circle = (x: number, y: number, r: number): string => `<circle cx="${x}" cy="${y}" r="${r}"/>`
  const around = Array.from({ length: 6 }, (_, i) => {
    const a = (Math.PI * i) / 3 - Math.PI / 2
    return circle(Number((45 + 31 * Math.cos(a)).toFixed(4)), Number((45 + 31 * Math.sin(a)).toFixed(4)), 3)
  })
  return new TextEncoder().encode(
    `<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90"><g fill="none" stroke="#000" stroke-width="0.1">${circle(45, 45, 45)}${circle(45, 45, 17)}${around.join('')}</g></svg>`,
  )
}

/** A pierced disc from an offcut that has a corner missing. */
export function collarJob(facts: SourceFacts, bytes: Uint8Array): JobDocument {
  const material = MATERIALS.find(({ id }) => id === 'cast-acrylic-3')!
  const outline = { kind: 'rings', rings: [[0, 0, 180, 0, 180, 70, 120, 130, 0, 130]] } as const
  const workpiece = { widthMm: 180, heightMm: 130, thicknessMm: material.thicknessMm, outline }
  const made = proposalsFor(
    facts,
    { workpiece, material, machine: MACHINES[0] },
    assetsSupply(() => bytes),
  )
  const { job } = made.find(({ id }) => id === 'cut-lines')!
  return { ...withPlace(job, 'source', { xMm: 6, yMm: 6 }), name: 'Mooring collar' }
}
