import {
  askedFor,
  assetsSupply,
  burnOrder,
  encodePng,
  type JobDocument,
  MACHINES,
  MATERIALS,
  mainPiece,
  moved,
  type Operation,
  proposalsFor,
  type SourceFacts,
  type Step,
  withPiece,
} from '@neotaxis/core'
import { randomFrom } from '../random.ts'

type Random = () => number

/** A grey picture as a PNG. @param grey 0 black to 255 white, of places 0–1 */
function png(widthPx: number, heightPx: number, grey: (u: number, v: number) => number): Uint8Array {
  const samples = new Uint8Array(widthPx * heightPx)
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++)
      samples[y * widthPx + x] = Math.min(255, Math.max(0, Math.round(grey((x + 0.5) / widthPx, (y + 0.5) / heightPx))))
  return encodePng({ widthPx, heightPx, channels: 1, samples, full: 255 })
}

/** Soft hills of light, as a photograph has them. */
function hills(random: Random, strength = 1): (u: number, v: number) => number {
  const waves = Array.from({ length: 7 }, () => [1 + random() * 9, random() * 6.3, random() * 6.3, 12 + random() * 20] as const)
  return (u, v) =>
    128 + strength * waves.reduce((sum, [f, a, p, h]) => sum + h * Math.sin(f * (u * Math.cos(a) + v * Math.sin(a)) * 4 + p), 0)
}

/** Dark blots on paper, some of them rings. */
function blots(random: Random, count: number): (u: number, v: number) => number {
  const list = Array.from({ length: count }, () => [
    0.15 + 0.7 * random(),
    0.15 + 0.7 * random(),
    0.04 + 0.12 * random(),
    random(),
  ])
  return (u, v) => {
    let ink = 0
    for (const [x, y, r, kind] of list) {
      const d = Math.hypot(u - x, v - y)
      const edge = kind < 0.4 ? Math.abs(d - r) - r / 3 : d - r
      ink = Math.max(ink, Math.min(1, Math.max(0, 0.5 - edge * 150)))
    }
    return 255 * (1 - ink)
  }
}

/** Strokes of a pen. */
function strokes(random: Random): (u: number, v: number) => number {
  const list = Array.from({ length: 5 }, () => [random() * 6.3, 0.1 + 0.2 * random(), 0.2 + 0.6 * random(), 3 + 5 * random()])
  return (u, v) => {
    let near = 1
    for (const [p, a, y, f] of list) near = Math.min(near, Math.abs(v - y - a * 0.4 * Math.sin(f * u + p)))
    return u < 0.08 || u > 0.92 ? 255 : 255 * Math.min(1, Math.max(0, (near - 0.006) * 200))
  }
}

/** A drawing with areas, lines and a shape with holes. */
function drawing(random: Random): Uint8Array {
  const n = (low: number, high: number): string => (low + (high - low) * random()).toFixed(2)
  const holes = Array.from(
    { length: 4 },
    (_, i) => `<circle cx="${12 + 16 * i}" cy="${n(15, 30)}" r="${n(2, 5)}" fill="none" stroke="#f00"/>`,
  )
  return new TextEncoder().encode(
    `<svg xmlns="http://www.w3.org/2000/svg" width="72mm" height="48mm" viewBox="0 0 72 48"><rect x="1" y="1" width="70" height="46" rx="${n(0, 8)}" fill="none" stroke="#f00"/>${holes.join('')}<path d="M5 ${n(36, 40)}C20 ${n(30, 46)} 40 ${n(30, 46)} 66 40" fill="none" stroke="#00f"/><path d="M30 ${n(20, 24)}l8 12h-16z" fill="#222"/></svg>`,
  )
}

/** A hill as a mesh of two triangles a cell. */
function mesh(random: Random): Uint8Array {
  const height = hills(random, 0.5)
  const n = 24
  const corner = (i: number, j: number): [number, number, number] => [2 * i, 2 * j, height(i / n, j / n) / 20]
  const points: number[] = []
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++)
      points.push(
        ...[corner(i, j), corner(i + 1, j), corner(i + 1, j + 1)].flat(),
        ...[corner(i, j), corner(i + 1, j + 1), corner(i, j + 1)].flat(),
      )
  const triangles = points.length / 9
  const out = new DataView(new ArrayBuffer(84 + 50 * triangles))
  out.setUint32(80, triangles, true)
  for (let t = 0; t < triangles; t++) for (let k = 0; k < 9; k++) out.setFloat32(96 + 50 * t + 4 * k, points[9 * t + k], true)
  return new Uint8Array(out.buffer)
}

const KINDS = ['photo', 'blots', 'strokes', 'drawing', 'heights', 'mesh', 'clear', 'dots'] as const

function fileOf(kind: (typeof KINDS)[number], random: Random): { readonly name: string; readonly bytes: Uint8Array } {
  switch (kind) {
    case 'photo':
      return { name: 'photo.png', bytes: png(420, 300, hills(random)) }
    case 'blots':
      return { name: 'blots.png', bytes: png(500, 380, blots(random, 7)) }
    case 'strokes':
      return { name: 'strokes.png', bytes: png(600, 400, strokes(random)) }
    case 'drawing':
      return { name: 'drawing.svg', bytes: drawing(random) }
    case 'heights':
      return { name: 'heights.png', bytes: png(260, 200, hills(random, 0.6)) }
    case 'mesh':
      return { name: 'hill.stl', bytes: mesh(random) }
    case 'clear': {
      const ink = blots(random, 5)
      const samples = new Uint8Array(2 * 400 * 300)
      for (let i = 0; i < 400 * 300; i++) {
        samples[2 * i] = 40
        samples[2 * i + 1] = 255 - Math.round(ink((i % 400) / 400, Math.floor(i / 400) / 300))
      }
      return { name: 'clear.png', bytes: encodePng({ widthPx: 400, heightPx: 300, channels: 2, samples, full: 255 }) }
    }
    case 'dots': {
      const tone = hills(random)
      return { name: 'dots.png', bytes: png(300, 220, (u, v) => (tone(u, v) > 255 * random() ? 255 : 0)) }
    }
  }
}

/** How an operation departs from its proposal. */
function varied(operation: Operation, random: Random): Operation {
  const passes = 1 + Math.floor(random() * 2.4)
  const speedMmS = Math.round(operation.speedMmS * (0.6 + 0.8 * random()) * 10) / 10
  if (operation.process === 'cut')
    return { ...operation, passes, speedMmS, ...(random() < 0.3 ? { keeps: 'sheet' as const } : {}) }
  if (!('intervalMm' in operation && 'passPowers' in operation)) return { ...operation, passes, speedMmS }
  const intervalMm = Math.round((0.1 + 0.15 * random()) * 1000) / 1000
  return { ...operation, passes, speedMmS, intervalMm, bothWays: random() < 0.7, passPowers: random() < 0.3 ? [1, 0.5] : [] }
}

export interface GeneratedJob {
  readonly name: string
  readonly job: JobDocument
}

/** A job like those that shops have, the same for the same number. @param takenIn brings a file in */
export async function generatedJob(
  index: number,
  takenIn: (name: string, bytes: Uint8Array) => Promise<{ readonly facts: SourceFacts; readonly bytes: Uint8Array }>,
): Promise<GeneratedJob> {
  const random = randomFrom(9001 + index)
  const kind = KINDS[index % KINDS.length]
  const file = fileOf(kind, random)
  const { facts, bytes } = await takenIn(file.name, file.bytes)
  const machine = MACHINES[index % MACHINES.length]
  const material = MATERIALS[Math.floor(random() * MATERIALS.length)]
  const room = Math.min(machine.axes.x.travelMm, machine.axes.y.travelMm)
  const workpiece = {
    widthMm: Math.round(room * (0.55 + 0.4 * random()) * 10) / 10,
    heightMm: Math.round(room * (0.5 + 0.4 * random()) * 10) / 10,
    thicknessMm: material.thicknessMm,
  }
  const widthMm =
    Math.round(Math.min(70, workpiece.widthMm * 0.6, workpiece.heightMm * 0.8) * (0.6 + 0.4 * random()) * 1000) / 1000
  const proposals = proposalsFor(
    facts,
    { workpiece, material, machine, size: { widthMm } },
    assetsSupply(() => bytes),
  )
  const chosen = proposals[Math.floor(random() * proposals.length)]
  const job = moved(chosen.job, 'source', 3 * random() - 1.5, 3 * random() - 1.5)
  const operations = Object.fromEntries(Object.entries(job.operations).map(([id, each]) => [id, varied(each, random)]))
  const last = burnOrder(job).at(-1)!
  const asked: Step =
    random() < 0.5 ? { kind: 'set-up', name: 'Wipe the soot off' } : { kind: 'pause', text: 'Wipe the soot off' }
  const varies = { ...job, operations }
  const paused = random() < 0.3 ? askedFor(varies, last, asked) : varies
  const { pose } = mainPiece(job)
  const lies = { xMm: Math.round(pose.xMm * 1000 * random()) / 1000, yMm: Math.round(pose.yMm * 1000 * random()) / 1000 }
  return { name: `${String(index).padStart(2, '0')}-${kind}-${chosen.id}`, job: withPiece(paused, { pose: lies }) }
}
