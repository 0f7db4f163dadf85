import {
  assetsSupply,
  type Drawn,
  type JobDocument,
  MACHINES,
  MATERIALS,
  onEach,
  proposalsFor,
  type SourceFacts,
  type TextSpec,
  type Workpiece,
  withPieceMore,
} from '@neotaxis/core'
import { drawnFile } from './label-jobs.ts'
import { pebble } from './pebbles.ts'

/** Guests of the harbour supper: a pebble with the name of each stands at their place. */
const GUESTS = ['Mara', 'Ilo', 'Tove', 'Anders', 'Runa', 'Bo', 'Ysa', 'Per', 'Alma', 'Sten', 'Liv', 'Odd']

export const GUEST_NAMES: TextSpec = {
  kind: 'text',
  text: '{}',
  font: { kind: 'strokes' },
  capMm: 9,
  letterMm: 0.5,
  lineShare: 1.6,
  align: 'middle',
  series: { entries: GUESTS, columns: 3, pitchXMm: 60, pitchYMm: 20 },
}

/** Twelve odd pebbles in a tray, each with the next name of a list. */
export function pebbleTrayJob(names: SourceFacts): JobDocument {
  const drawn: Drawn = GUEST_NAMES
  const supply = assetsSupply(() => drawnFile(drawn))
  const material = MATERIALS.find(({ id }) => id === 'slate-5')!
  const outline = pebble(1, 62)
  const workpiece = { widthMm: 62, heightMm: 62, thicknessMm: material.thicknessMm, outline, pose: { xMm: 20, yMm: 20 } }
  const made = proposalsFor({ ...names, drawn }, { workpiece, material, machine: MACHINES[0] }, supply)
  const { job } = made.find(({ id }) => id === 'score-lines')!
  const first: Workpiece = { ...job.workpieces.piece, name: 'pebble 1' }
  const tray = GUESTS.slice(1).reduce<JobDocument>(
    (sum, _, i) =>
      withPieceMore(sum, `pebble${String(i + 2).padStart(2, '0')}`, {
        ...first,
        outline: pebble(i + 2, 56 + 12 * ((i * 5) % 4)),
      }),
    { ...job, workpieces: { pebble01: first }, placements: { source: { ...job.placements.source, on: 'pebble01' } } },
  )
  return { ...onEach(tray, 'source'), name: 'Supper pebbles' }
}
