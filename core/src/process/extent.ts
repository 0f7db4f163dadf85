import { type Bounds, isEmptyBounds, unite } from '../geometry/bounds.ts'
import { type JobDocument, usesOf } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Burning, MarkedDots } from './process.ts'
import { burningsOf, processOf } from './table.ts'

const NOWHERE: Bounds = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity }

/** What an operation really burns of one piece: the box around its marks or cuts, face mm; empty where it burns nothing. */
export const burnedBoundsOf = (context: Burning): Bounds => processOf(context.operation).extent(context)

/** What an operation really burns, all its pieces: the box around it, face mm; empty where it burns nothing. */
export const burnedBounds = (job: JobDocument, operationId: string, supply: Supply): Bounds =>
  burningsOf(job, operationId, supply)
    .map(burnedBoundsOf)
    .filter((box) => !isEmptyBounds(box))
    .reduce(unite, NOWHERE)

/** All that a family of artwork burns. */
export const familyBounds = (job: JobDocument, sourceId: string, supply: Supply): Bounds =>
  usesOf(job, sourceId)
    .map((id) => burnedBounds(job, id, supply))
    .filter((box) => !isEmptyBounds(box))
    .reduce(unite, NOWHERE)

/** The dots that an operation burns, piece by piece; nothing where it burns none. */
export const dotsOf = (job: JobDocument, operationId: string, supply: Supply): MarkedDots[] =>
  burningsOf(job, operationId, supply).flatMap((context) => processOf(context.operation).dots?.(context) ?? [])
