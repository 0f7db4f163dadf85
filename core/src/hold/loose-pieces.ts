import { ringBounds } from '../geometry/ring.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { type Fate, jobPieces } from './pieces.ts'

/** Pieces that come off the sheet and are alike. */
export interface LoosePieces {
  readonly fate: Exclude<Fate, 'stays'>
  readonly count: number
  readonly widthMm: number
  readonly heightMm: number
  /** Of one of them, mm². */
  readonly areaMm2: number
  /** The cut that frees them. */
  readonly operation: string
}

const ORDER: readonly Fate[] = ['lost', 'part', 'waste']

/** All that is loose after the last cut, alike ones together: what should not fall first, then parts, then waste, large before small. */
export function loosePieces(job: JobDocument, supply: Supply): LoosePieces[] {
  const kinds = new Map<string, LoosePieces>()
  for (const { fate, outer, areaMm2, operation } of jobPieces(job, supply)) {
    if (fate === 'stays' || operation === undefined) continue
    const { x0, y0, x1, y1 } = ringBounds(outer)
    const [widthMm, heightMm] = [x1 - x0, y1 - y0].map((mm) => Math.round(mm * 10) / 10)
    const key = `${fate} ${operation} ${widthMm} ${heightMm} ${areaMm2.toFixed(1)}`
    const known = kinds.get(key)
    kinds.set(key, { fate, operation, widthMm, heightMm, areaMm2, count: (known?.count ?? 0) + 1 })
  }
  return [...kinds.values()].sort((a, b) => ORDER.indexOf(a.fate) - ORDER.indexOf(b.fate) || b.areaMm2 - a.areaMm2)
}
