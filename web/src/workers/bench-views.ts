import {
  dotsOf,
  framedPicture,
  type JobDocument,
  levelDepths,
  maskOf,
  type Operation,
  operationMaterial,
  type Plane,
  picturedRoot,
  pictureNode,
  programSize,
  type RowSettings,
  type Supply,
  sampledLevelsOf,
  type Treatment,
  treatedTones,
  WHITE,
} from '@neotaxis/core'
import type { BenchFacts, BenchPicture } from './shared.ts'

const MASK_PX = 1000
/** Pixels that tones are counted on. */
const COUNTED_PX = 600_000
/** Marks weaker than this hardly burn. */
const HAZE = 0.04

const grey = ({ tone, alpha, width, height }: Plane): BenchPicture => {
  const rgba = new Uint8ClampedArray(4 * width * height)
  for (let i = 0; i < tone.length; i++) {
    const v = tone[i] >> 8
    rgba[4 * i] = v
    rgba[4 * i + 1] = v
    rgba[4 * i + 2] = v
    rgba[4 * i + 3] = alpha ? alpha[i] : 255
  }
  return { widthPx: width, heightPx: height, rgba }
}

const NOTHING: Treatment = { steps: {}, order: [], masks: {} }

const shrunk = (width: number, height: number, side: number): readonly [number, number] => {
  const scale = Math.min(1, side / Math.max(width, height))
  return [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))]
}

/** @param side the longer side of what is shown, px */
export function framedView(
  job: JobDocument,
  nodeId: string,
  upTo: number | undefined,
  side: number,
  supply: Supply,
): BenchPicture {
  const root = picturedRoot(job, nodeId)
  const shown =
    upTo === undefined
      ? job
      : { ...job, nodes: { ...job.nodes, [root.id]: { ...job.nodes[root.id], framing: root.framing.slice(0, upTo) } as never } }
  const { window } = framedPicture(shown, nodeId, supply)
  const [width, height] = shrunk(window.width, window.height, side)
  return grey(treatedTones(shown, nodeId, supply, width, height, NOTHING))
}

/** The steps before one, or up to it; all where it is none of them. */
function before(treatment: Treatment, stepId: string | undefined, more = 0): Treatment {
  const at = stepId === undefined ? -1 : treatment.order.indexOf(stepId)
  return at < 0 ? treatment : { ...treatment, order: treatment.order.slice(0, at + more) }
}

const markOf = ({ tone, alpha }: Plane, i: number): number => ((WHITE - tone[i]) / WHITE) * (alpha ? alpha[i] / 255 : 1)

/** Share of the area with any mark. */
function marked(plane: Plane): number {
  let n = 0
  for (let i = 0; i < plane.tone.length; i++) if (markOf(plane, i) > 0.002) n++
  return n / plane.tone.length
}

export function benchFacts(
  job: JobDocument,
  operationId: string,
  operation: Operation & RowSettings,
  stepId: string | undefined,
  supply: Supply,
): BenchFacts {
  const node = pictureNode(job, operation.of[0])
  const { marks, field: grid } = dotsOf(job, operationId, supply)[0]
  const scale = Math.min(1, Math.sqrt(COUNTED_PX / (grid.columns * grid.rows)))
  const columns = Math.max(1, Math.round(grid.columns * scale))
  const rows = Math.max(1, Math.round(grid.rows * scale))
  const into = treatedTones(job, operation.of[0], supply, columns, rows, before(node, stepId))
  const out = treatedTones(job, operation.of[0], supply, columns, rows)
  const histogram = new Uint32Array(256)
  for (let i = 0; i < into.tone.length; i++) if (!into.alpha || into.alpha[i] >= 128) histogram[into.tone[i] >> 8]++
  let weak = 0
  for (let i = 0; i < out.tone.length; i++) {
    const mark = markOf(out, i)
    if (mark > 0.002 && mark < HAZE) weak++
  }
  const step = stepId === undefined ? undefined : node.steps[stepId]
  const sampled = step && sampledLevelsOf(step, framedPicture(job, operation.of[0], supply), into)
  const shares = step && {
    before: marked(into),
    after: marked(treatedTones(job, operation.of[0], supply, columns, rows, before(node, stepId, 1))),
  }
  const depths = levelDepths(operationMaterial(job, operation), job.machine, operation)
  let deepest = 0
  if (depths) {
    const used = new Uint8Array(256)
    for (const level of marks.levels) used[level] = 1
    for (let level = 0; level < 256; level++) if (used[level]) deepest = Math.max(deepest, depths[level])
  }
  return {
    columns: marks.columns,
    rows: marks.rows,
    coverage: marks.coverage,
    wantedTone: marks.wantedTone,
    haze: weak / out.tone.length,
    histogram,
    ...(sampled ? { sampled } : {}),
    ...(shares ? { step: shares } : {}),
    program: programSize(marks, operation.passes),
    depthMm: depths ? deepest : null,
  }
}

export function maskView(job: JobDocument, nodeId: string, maskId: string, supply: Supply): BenchPicture | undefined {
  const mask = pictureNode(job, nodeId).masks[maskId]
  if (!mask) return undefined
  const framed = framedPicture(job, nodeId, supply)
  const [width, height] = shrunk(framed.window.width, framed.window.height, MASK_PX)
  const plane = maskOf(mask, framed, width, height, supply)
  const rgba = new Uint8ClampedArray(4 * width * height)
  for (let i = 0; i < plane.length; i++) {
    rgba[4 * i] = 23
    rgba[4 * i + 1] = 120
    rgba[4 * i + 2] = 128
    rgba[4 * i + 3] = plane[i] * 0.5
  }
  return { widthPx: width, heightPx: height, rgba }
}
