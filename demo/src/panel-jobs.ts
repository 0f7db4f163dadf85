import {
  type AreaOperation,
  assetsSupply,
  cut,
  type Drawn,
  given,
  grouped,
  inGoodOrder,
  type JobDocument,
  MACHINES,
  MATERIALS,
  type Placement,
  proposalsFor,
  type SourceFacts,
  stepAdded,
  withArtwork,
  withOperation,
  withPlace,
} from '@neotaxis/core'

const material = (id: string) => MATERIALS.find((each) => each.id === id)!

import { HERON_TRACE } from './outline-jobs.ts'

/** The edge of the wall panel, and the compass on it. */
export const PANEL_EDGE: Drawn = { kind: 'rectangle', widthMm: 340, heightMm: 240, radiusMm: 14 }
export const COMPASS: Drawn = { kind: 'star', points: 8, diameterMm: 84, innerShare: 0.34 }

/** Files of a job, by what each is known by. */
type Files = ReadonlyMap<string, Uint8Array>

/** A job with one piece of artwork, by a proposal, where it lies. */
function pieceOf(
  facts: SourceFacts,
  files: Files,
  settings: Omit<Parameters<typeof proposalsFor>[1], 'machine'>,
  wanted: string,
  at: Partial<Placement>,
): JobDocument {
  const supply = assetsSupply((asset) => files.get(asset))
  const made = proposalsFor(facts, { ...settings, machine: MACHINES[0] }, supply)
  const { job } = made.find(({ id }) => id === wanted) ?? made[0]
  return withPlace(job, 'source', at)
}

/**
 * A wall panel of four sources on birch ply: the harbour as a picture, a compass filled over its corner and taken out of it, the heron
 * cut out of the panel, the panel's own edge cut last. All of it moves and grows as one.
 */
export function wallPanelJob(
  harbour: SourceFacts,
  heron: SourceFacts,
  compass: SourceFacts,
  edge: SourceFacts,
  files: Files,
): JobDocument {
  const supply = assetsSupply((asset) => files.get(asset))
  const settings = { workpiece: { widthMm: 380, heightMm: 280, thicknessMm: 3 }, material: material('birch-ply-3') }
  const picture = pieceOf(harbour, files, { ...settings, size: { widthMm: 210 } }, 'engrave', { xMm: 40, yMm: 60 })
  const bird = pieceOf(heron, files, { ...settings, size: { widthMm: 120 } }, 'cut-shape', { xMm: 246, yMm: 64 })
  const shape: JobDocument = {
    ...bird,
    nodes: {
      source: bird.nodes.source,
      heron: { ...HERON_TRACE, minAreaMm2: 100 },
    },
    operations: { silhouette: { ...cut.fromRecipe(['heron'], settings.material, MACHINES[0]), keeps: 'sheet', leadInMm: 2 } },
    steps: { silhouette: { kind: 'burn', operation: 'silhouette' } },
    order: ['silhouette'],
  }
  const star = pieceOf({ ...compass, drawn: COMPASS }, files, settings, 'cut-lines', { xMm: 208, yMm: 156 })
  const frame = pieceOf({ ...edge, drawn: PANEL_EDGE }, files, settings, 'cut-lines', { xMm: 20, yMm: 20 })
  const [starOperation] = Object.keys(star.operations)
  const filled = given(star, star.operations[starOperation].of, 'area')
  const rose: JobDocument = {
    ...filled.job,
    operations: { compass: filled.job.operations[filled.operation] },
    steps: { compass: { kind: 'burn', operation: 'compass' } },
    order: ['compass'],
  }
  const all = withArtwork(withArtwork(withArtwork(picture, shape, 'bird'), rose, 'rose'), frame, 'edge')
  const area = all.operations['compass-rose'] as AreaOperation
  const spared = withOperation(all, 'engrave', { spares: area.of } as never)
  const roots = Object.values(spared.placements).map(({ of }) => of)
  const together = roots.slice(1).reduce((job, root) => grouped(job, roots[0], root, 'panel'), spared)
  return { ...inGoodOrder(together, supply), name: 'Wall panel' }
}

/**
 * Soundings on lime wood in two set-ups: a router cuts the contour, held by bridges, before the beam comes; the dust is taken off; the
 * face is engraved under its mask; then the piece is turned over and its back is scored.
 */
export function routedChartJob(sketch: SourceFacts, edge: SourceFacts, files: Files): JobDocument {
  const settings = { workpiece: { widthMm: 260, heightMm: 190, thicknessMm: 12 }, material: material('lime-wood-12') }
  const chart = pieceOf(sketch, files, { ...settings, size: { widthMm: 180 } }, 'engrave', { xMm: 40, yMm: 28 })
  const outline = pieceOf({ ...edge, drawn: CHART_EDGE }, files, settings, 'cut-lines', { xMm: 20, yMm: 15 })
  const both = withArtwork(chart, outline, 'edge')
  const [contour] = Object.keys(both.operations).filter((id) => both.operations[id].process === 'cut')
  // Bridges hold what the cut would free: they are found as for a cut of the machine's own.
  const [node] = both.operations[contour].of
  const held: JobDocument = {
    ...both,
    nodes: {
      ...both.nodes,
      held: {
        kind: 'bridged',
        name: 'edge, held',
        from: node,
        bridges: {
          top: { x: 0.5, y: 0, widthMm: 6 },
          right: { x: 1, y: 0.5, widthMm: 6 },
          bottom: { x: 0.5, y: 1, widthMm: 6 },
          left: { x: 0, y: 0.5, widthMm: 6 },
        },
      },
    },
  }
  const { [contour]: _, ...operations } = held.operations
  const { [contour]: __, ...steps } = held.steps
  const alone: JobDocument = { ...held, operations, steps, order: held.order.filter((id) => id !== contour) }
  const [engraving] = alone.order
  const masked = withOperation(alone, engraving, { prepared: 'masked' })
  const routed = stepAdded(
    masked,
    { kind: 'elsewhere', text: 'Route the contour, 3 mm deep steps', tool: 'router', of: ['held'], toolMm: 3 },
    0,
  ).job
  const clean = stepAdded(routed, { kind: 'by-hand', text: 'Take the dust off, mask the face', minutes: 6 }, 1).job
  const turned = stepAdded(clean, { kind: 'set-up', name: 'Peel the mask off, turn it over along its long side', poses: {} }).job
  const back = given(turned, [node], 'score')
  return {
    ...back.job,
    order: [...turned.order, ...back.job.order.filter((id) => !turned.order.includes(id))],
    name: 'Routed chart',
  }
}

/** The edge of the routed chart. */
export const CHART_EDGE: Drawn = { kind: 'rectangle', widthMm: 220, heightMm: 160, radiusMm: 20 }
