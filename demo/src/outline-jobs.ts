import {
  applyPatches,
  assetsSupply,
  checkFindings,
  type JobDocument,
  MACHINES,
  MATERIALS,
  proposalsFor,
  type SourceFacts,
  score,
  type TraceNode,
  withOutlineStep,
} from '@neotaxis/core'

const material = (id: string) => MATERIALS.find((each) => each.id === id)!

/** A drawing of soundings, photographed and scored along the middle of its strokes, on birch ply of 220 × 165 mm. */
export function soundingsJob(facts: SourceFacts, bytes: Uint8Array): JobDocument {
  const supply = assetsSupply(() => bytes)
  const birch = material('birch-ply-3')
  const settings = {
    workpiece: { widthMm: 220, heightMm: 165, thicknessMm: 3 },
    material: birch,
    machine: MACHINES[0],
    size: { widthMm: 200 },
  }
  const { job } = proposalsFor(facts, settings, supply).find(({ id }) => id === 'engrave')!
  const lines: JobDocument = {
    ...job,
    name: 'Soundings sketch',
    nodes: {
      source: job.nodes.source,
      strokes: {
        kind: 'trace',
        name: 'pen strokes',
        from: 'source',
        channel: 'grey',
        mode: 'centreline',
        threshold: 0.4,
        toleranceMm: 0,
        cornerDeg: 32,
        minAreaMm2: 0,
      },
    },
    operations: { score: score.fromRecipe(['strokes'], birch, MACHINES[0]) },
    steps: { score: { kind: 'burn', operation: 'score' } },
    order: ['score'],
  }
  const specks = withOutlineStep(lines, 'strokes', { kind: 'specks', on: true, areaMm2: 0.8 }, { step: 'crumbs', node: 'clean' })
  return withOutlineStep(specks, 'strokes', { kind: 'join', on: true, gapMm: 0.4 }, { step: 'ends', node: 'clean' })
}

/** The storm shutter, cut from birch ply of 300 × 200 mm; what would fall from the lifebuoy is held by bridges. */
export function stormShutterJob(facts: SourceFacts, bytes: Uint8Array): JobDocument {
  const supply = assetsSupply(() => bytes)
  const settings = {
    workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
    material: material('birch-ply-3'),
    machine: MACHINES[0],
  }
  const { job } = proposalsFor(facts, settings, supply).find(({ id }) => id === 'cut-lines')!
  const falls = checkFindings(job, supply).find(({ kind }) => kind === 'falls-out')
  if (!falls) throw new Error('Nothing falls from the shutter.')
  return { ...applyPatches(job, falls.fixes[0].patches), name: 'Storm shutter' }
}

/** The heron in its photo, without the reeds around it. */
export const HERON_TRACE: TraceNode = {
  kind: 'trace',
  name: 'heron',
  from: 'source',
  channel: 'grey',
  threshold: 0.45,
  zone: { x: 0.2, y: 0.06, width: 0.58, height: 0.88 },
  smoothMm: 0.3,
  toleranceMm: 0.05,
  cornerDeg: 32,
  minAreaMm2: 0,
}

/** A heron traced in a zone of its photo, cleaned, engraved as it is seen there and cut out 2 mm around. */
export function heronJob(facts: SourceFacts, bytes: Uint8Array): JobDocument {
  const supply = assetsSupply(() => bytes)
  const settings = {
    workpiece: { widthMm: 200, heightMm: 160, thicknessMm: 12 },
    material: material('lime-wood-12'),
    machine: MACHINES[0],
    size: { widthMm: 180 },
  }
  const { job } = proposalsFor(facts, settings, supply).find(
    ({ id }) => id === 'engrave-cut-around' || id === 'cut-shape' || id === 'engrave',
  )!
  const cut = {
    process: 'cut' as const,
    of: ['around'],
    power: 0.85,
    speedMmS: 4,
    passes: 2,
    kerfMm: 0.2,
    air: true,
  }
  const traced: JobDocument = {
    ...job,
    name: 'Heron',
    nodes: {
      source: job.nodes.source,
      shape: HERON_TRACE,
      around: { kind: 'offset', name: 'heron + 2 mm', from: 'shape', distanceMm: 2, join: 'round', outermost: true },
    },
    operations: { cut },
    steps: { cut: { kind: 'burn', operation: 'cut' } },
    order: ['cut'],
  }
  const steps = [
    ['holes', { kind: 'fill', on: true, areaMm2: 20 }],
    ['specks', { kind: 'specks', on: true, areaMm2: 40 }],
    ['fewer', { kind: 'simplify', on: true, toleranceMm: 0.15 }],
  ] as const
  return steps.reduce((sum, [step, what]) => withOutlineStep(sum, 'shape', what, { step, node: 'clean' }), traced)
}
