import { type StockSaid, UNSAID } from '@neotaxis/contract'
import { faceOutline, MATERIALS, type PieceOutline, type Ring } from '@neotaxis/core'
import { pebble } from './pebbles.ts'

/** A sheet of which something was taken: what was left of it. */
const rings = (...all: readonly (readonly number[])[]): PieceOutline =>
  faceOutline(all.map((ring): Ring => Float64Array.from(ring)))

/** A round hole as corners. */
const hole = (x: number, y: number, radius: number): number[] =>
  Array.from({ length: 96 }, (_, i) => {
    const a = (-2 * Math.PI * (i >> 1)) / 48
    return i % 2 ? y + radius * Math.sin(a) : x + radius * Math.cos(a)
  })

/** A fob for the key of a boat, with the hole for its ring. */
export const fobBlank = {
  outline: rings([6, 0, 54, 0, 60, 6, 60, 22, 54, 28, 6, 28, 0, 22, 0, 6], hole(7, 14, 2.5)),
  keepOuts: { ring: { name: 'for the ring', outline: { kind: 'circle', diameterMm: 11 }, pose: { xMm: 1.5, yMm: 8.5 } } },
} as const

type Said = Pick<StockSaid, 'name' | 'kind' | 'outline'> & Partial<StockSaid>

/** What lies on the shelf of the workshop on Saltmere. */
export function demoStock(): StockSaid[] {
  const item = (material: string, said: Said): StockSaid => ({
    material,
    thicknessMm: MATERIALS.find(({ id }) => id === material)!.thicknessMm,
    ...UNSAID,
    ...said,
  })
  const rect = (widthMm: number, heightMm: number): PieceOutline => ({ kind: 'rect', widthMm, heightMm })
  return [
    item('birch-ply-3', {
      name: 'birch ply sheet',
      kind: 'sheet',
      outline: rect(600, 400),
      count: 7,
      shelf: 'rack A, upright',
      grainDeg: 0,
      cents: 1460,
    }),
    item('birch-ply-3', {
      name: 'from the tide clocks',
      kind: 'offcut',
      outline: rings([0, 0, 420, 0, 420, 150, 260, 150, 260, 400, 0, 400]),
      shelf: 'rack B, 2',
      grainDeg: 0,
      cents: 710,
    }),
    item('birch-ply-3', {
      name: 'with the round bite',
      kind: 'offcut',
      outline: rings([0, 0, 330, 0, 330, 210, 0, 210], hole(235, 95, 74)),
      shelf: 'rack B, 1',
      grainDeg: 90,
      cents: 310,
    }),
    item('birch-ply-3', {
      name: 'narrow strip',
      kind: 'offcut',
      outline: rect(395, 62),
      shelf: 'rack B, 1',
      grainDeg: 0,
      cents: 140,
    }),
    item('cast-acrylic-3', {
      name: 'clear acrylic sheet',
      kind: 'sheet',
      outline: rect(600, 400),
      count: 2,
      shelf: 'rack C, in its film',
      cents: 3350,
    }),
    item('cast-acrylic-3', {
      name: 'lamp base rest',
      kind: 'offcut',
      outline: rings([0, 0, 240, 0, 240, 96, 150, 180, 0, 180]),
      shelf: 'rack C',
      cents: 500,
    }),
    item('grey-card-1', { name: 'grey card', kind: 'sheet', outline: rect(500, 350), count: 24, shelf: 'drawer 4', cents: 90 }),
    item('slate-5', {
      name: 'round slate, pierced',
      kind: 'blank',
      outline: rings(hole(50, 50, 50), hole(50, 12, 3)),
      count: 18,
      shelf: 'shelf 3, crate',
      note: 'Hole at the rear; rough edge.',
      keepOuts: { loop: { name: 'around the hole', outline: { kind: 'circle', diameterMm: 14 }, pose: { xMm: 43, yMm: 5 } } },
      cents: 240,
    }),
    item('lacquered-brass-1', {
      name: 'key fob blank',
      kind: 'blank',
      ...fobBlank,
      count: 40,
      shelf: 'shelf 3, tin',
      cents: 180,
    }),
    item('float-glass-4', {
      name: 'picture glass',
      kind: 'blank',
      outline: rect(180, 130),
      count: 6,
      shelf: 'shelf 5, in paper',
      cents: 320,
    }),
    ...Array.from({ length: 4 }, (_, i) =>
      item('slate-5', {
        name: `pebble ${i + 1}`,
        kind: 'blank',
        outline: pebble(i + 1, 62 + 5 * i),
        shelf: 'tray by the window',
        note: 'Slate from the beach, washed.',
      }),
    ),
  ]
}
