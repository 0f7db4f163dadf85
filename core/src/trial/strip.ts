import { withProcess } from '../edits/give-process.ts'
import { readVectorFile } from '../formats/read-drawing.ts'
import { combine } from '../geometry/clip.ts'
import { flattenPath } from '../geometry/path.ts'
import type { Ring } from '../geometry/ring.ts'
import { type JobDocument, picturedRoot, placeIdOf, placeOf } from '../job/document/document.ts'
import type { LineageNode, SourceNode } from '../job/document/nodes.ts'
import type { Operation } from '../job/document/operation.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import type { TrialAxes } from '../job/document/trial.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { outlinePaths, outlineRings } from '../lineage/evaluate.ts'
import { framedPicture } from '../lineage/pictured.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Material } from '../material/material.ts'
import { micro } from '../numeric/micro.ts'
import { processOf } from '../process/table.ts'
import { newJob, type Setting } from '../proposals/new-job.ts'
import { proposalsFor } from '../proposals/proposals-for.ts'
import { assetName } from '../reading/job-file.ts'
import { drawingBounds } from '../vector/drawing.ts'
import { type CardSpec, type CellArtwork, cardLayout, type TrialCard, trialCard } from './card.ts'
import { canBeTried } from './card-around.ts'
import { type HardPatch, hardestOfLines, hardestOfPicture } from './hardest-patch.ts'

/** Side of the patch that is repeated, mm. */
const PATCH_MM = 15
/** What each of three cells has of the power and the speed that are set. */
const POWERS = [0.8, 1, 1.25] as const
const SPEEDS = [1.4, 1, 0.7] as const

/** Three digits: what a dial shows. */
const dial = (v: number): number => Number(v.toPrecision(3))

/** A strip of trials, and which patch of the artwork it repeats: face mm. */
export interface Strip extends TrialCard {
  readonly patch: HardPatch
}

/**
 * The hardest small patch of what an operation burns, found by itself and repeated with three powers and three speeds, or along other
 * axes: an ordinary job on scrap, with all else as the operation says. The job itself stays as it is.
 * @throws RangeError with a sentence where it cannot be made
 */
export function stripAround(job: JobDocument, id: string, supply: Supply, axes?: TrialAxes, on?: Material): Strip {
  const operation = job.operations[id]
  if (!operation || !canBeTried(job, id)) throw new RangeError('There is nothing to try of this operation.')
  const material = on ?? operationMaterial(job, operation)
  const process = processOf(operation)
  const found = process.form === 'dots' || process.form === 'heights' ? ofPicture(job, id, supply) : ofLines(job, id, supply)
  const { machine } = job
  const top = Math.min(process.topSpeed(machine), 10_000)
  const unique = (values: readonly number[]): number[] => [...new Set(values)]
  const { across, down, again }: TrialAxes = axes ?? {
    across: {
      setting: 'power',
      values: unique(POWERS.map((k) => dial(Math.min(1, Math.max(0.01, k * operation.power))))),
    },
    down: {
      setting: 'speedMmS',
      values: unique(SPEEDS.map((k) => dial(Math.min(top, Math.max(0.1, k * operation.speedMmS))))),
    },
  }
  const { of: _, at: __, recipe: ___, keptFrom: ____, process: name, ...settings } = operation
  const { artwork, patch } = found
  const spec: CardSpec = {
    process: name,
    settings: settings as Partial<Operation>,
    across,
    ...(down ? { down } : {}),
    ...(again ? { again } : {}),
    artwork,
  }
  const side = (mm: number): number => Math.ceil(mm / 10) * 10
  const { widthMm, heightMm } = cardLayout(spec)
  const workpiece = { widthMm: side(widthMm), heightMm: side(heightMm), thicknessMm: material.thicknessMm }
  const card = trialCard(spec, { workpiece, material, machine })
  return { ...card, job: { ...card.job, name: `Trial of ${job.name}` }, patch }
}

interface Found {
  readonly artwork: CellArtwork
  readonly patch: HardPatch
}

/** The hardest patch of a picture: its source cropped, everything else of its treatment as it is. */
function ofPicture(job: JobDocument, id: string, supply: Supply): Found {
  const operation = job.operations[id]
  const [node] = operation.of
  const root = picturedRoot(job, node)
  const source = job.nodes[root.id]
  const picture = job.nodes[node]
  if (source.kind !== 'source' || picture.kind !== 'picture')
    throw new RangeError('A strip is made of pictures and of outlines: burn a wedge for a mesh.')
  const place = placeOf(job, node)
  const frame = framedPicture(job, node, supply).picture
  const perMm = frame.widthPx / place.widthMm
  const patch = hardestOfPicture(frame, PATCH_MM * perMm, PATCH_MM * perMm)
  const crop = { kind: 'crop' as const, on: true, x: patch.x, y: patch.y, width: patch.width, height: patch.height }
  const cropped: SourceNode = { ...source, framing: [...source.framing, crop] }
  const { clip: _, ...treated } = picture
  const nodes: Record<string, LineageNode> = { source: cropped, [node]: { ...treated, from: 'source' } }
  const [widthMm, heightMm] = [micro(patch.width / perMm), micro(patch.height / perMm)]
  const { spares: __, ...plain } = operation as Operation & { readonly spares?: unknown }
  const burned = { ...plain, of: [node], at: undefined, recipe: undefined } as Operation
  return {
    patch: { x: place.xMm + patch.x / perMm, y: place.yMm + patch.y / perMm, width: widthMm, height: heightMm },
    artwork: {
      widthMm,
      heightMm,
      assets: new Map(),
      begun: (setting, xMm, yMm) => newJob('strip', setting, nodes, { xMm, yMm, widthMm, heightMm }, { cell: burned }, ['cell']),
    },
  }
}

/** The hardest patch of outlines and lines: what of them lies in it, as a drawing. */
function ofLines(job: JobDocument, id: string, supply: Supply): Found {
  const operation = job.operations[id]
  const { form } = processOf(operation)
  const encloses = form === 'edges' && 'intervalMm' in operation
  const place = operation.at?.[0]
  const of = (node: string): string => place ?? placeIdOf(job, node)
  const lines = operation.of.flatMap((node) =>
    encloses
      ? closed(outlineRings(job, node, supply, of(node)))
      : outlinePaths(job, node, supply, of(node)).map((path) => flattenPath(path, 0.02)),
  )
  const patch = hardestOfLines(lines, PATCH_MM, PATCH_MM)
  if (!patch) throw new RangeError('There is nothing to follow: its outline is empty.')
  const { x, y, width, height } = patch
  const rect = Float64Array.of(x, y, x + width, y, x + width, y + height, x, y + height)
  const d = encloses
    ? combine(
        'intersect',
        operation.of.flatMap((node) => outlineRings(job, node, supply, of(node))),
        [rect],
      )
        .map((ring) => `${pathOf(ring, x, y)}Z`)
        .join('')
    : lines
        .flatMap((line) => clippedTo(line, patch))
        .map((line) => pathOf(line, x, y))
        .join('')
  if (d === '') throw new RangeError('There is nothing to follow: its outline is empty.')
  const paint = encloses ? 'fill="#000" fill-rule="evenodd"' : 'fill="none" stroke="#000" stroke-width="0.1"'
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}"><path ${paint} d="${d}"/></svg>`
  const bytes = new TextEncoder().encode(svg)
  const asset = assetName(bytes)
  const box = drawingBounds(readVectorFile(bytes))
  const begun = (setting: Setting, xMm: number, yMm: number): JobDocument => {
    const found = proposalsFor(
      {
        name: 'patch',
        asset,
        widthPx: 1,
        heightPx: 1,
        hasAlpha: false,
        drawing: { widthMm: box.x1 - box.x0, heightMm: box.y1 - box.y0 },
      },
      setting,
      assetsSupply(() => bytes),
    ).find((each) => each.id === (encloses ? 'cut-lines' : 'score-lines'))
    if (!found) throw new RangeError('This material takes no such mark.')
    const [first] = Object.keys(found.job.operations)
    const made =
      processOf(found.job.operations[first]) === processOf(operation)
        ? found.job
        : withProcess(found.job, first, operation.process)
    const source = { ...found.job.placements.source, xMm: micro(xMm + box.x0), yMm: micro(yMm + box.y0) }
    return { ...made, placements: { source } }
  }
  return { patch, artwork: { widthMm: micro(width), heightMm: micro(height), assets: new Map([[asset, bytes]]), begun } }
}

/** Rings that come back to where they began. */
const closed = (rings: readonly Ring[]): Ring[] => rings.map((ring) => Float64Array.of(...ring, ring[0], ring[1]))

const pathOf = (line: Ring, x: number, y: number): string => {
  let d = ''
  for (let i = 0; i < line.length; i += 2) d += `${i ? 'L' : 'M'}${(line[i] - x).toFixed(4)} ${(line[i + 1] - y).toFixed(4)}`
  return d
}

/** What of a polyline lies in a rectangle (Y.-D. Liang and B. A. Barsky, ACM Trans. Graph. 3(1), 1984): none, one or several. */
function clippedTo(line: Ring, { x, y, width, height }: HardPatch): Ring[] {
  const parts: number[][] = []
  let last: number[] | undefined
  for (let i = 2; i < line.length; i += 2) {
    const [ax, ay] = [line[i - 2], line[i - 1]]
    const [dx, dy] = [line[i] - ax, line[i + 1] - ay]
    let [from, to] = [0, 1]
    for (const [p, q] of [
      [-dx, ax - x],
      [dx, x + width - ax],
      [-dy, ay - y],
      [dy, y + height - ay],
    ]) {
      if (p === 0) {
        if (q < 0) to = -1
      } else if (p < 0) from = Math.max(from, q / p)
      else to = Math.min(to, q / p)
    }
    if (from >= to) {
      last = undefined
      continue
    }
    const end = [ax + to * dx, ay + to * dy]
    if (last && from === 0) last.push(...end)
    else {
      last = [ax + from * dx, ay + from * dy, ...end]
      parts.push(last)
    }
    if (to < 1) last = undefined
  }
  return parts.map((part) => Float64Array.from(part))
}
