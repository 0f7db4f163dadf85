import { Arena, type Kernel } from '../kernels/kernel.ts'
import { bytesBy } from './bytes.ts'
import { clean } from './clean.ts'
import { flatten } from './flatten.ts'
import type { Framed } from './framing.ts'
import { type Grade, gradeOf } from './grade.ts'
import { inkOnly } from './ink/ink-only.ts'
import { type MaskBase, maskPlane } from './mask.ts'
import { type PictureKernel, pictureKernel } from './picture-kernel.ts'
import { type Plane, WHITE } from './plane.ts'
import { type RowSink, resampleMarks } from './resample.ts'
import { type BlackAndWhite, patchedFromPlane, patchedFromSource } from './samples.ts'
import { sharpen } from './sharpen.ts'
import { activeSteps, type Treatment, type TreatmentStep } from './steps.ts'
import { sampleTurned, turnedPlane } from './turned.ts'

export interface TreatOptions {
  /** Distance of dots, mm. */
  readonly pitchMm: number
  /** Called now and then with the share done 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
  /** Keeps results by a key of what they depend on, beyond the picture itself. */
  readonly keep?: <T>(key: string, make: () => T, bytes: (value: T) => number) => T
}

/** The side that the small copy for masks has at most, px. */
const BASE_SIDE = 1600

/** Gives all rows of marks wanted, top to bottom, working in the kernel's memory that the arena has left. */
export type RowSource = (kernel: Kernel<PictureKernel>, arena: Arena, sink: RowSink) => void

/**
 * A framed picture treated, as rows of marks wanted 0–1 at dot pitch. Steps that look at one tone at a time work before
 * the picture is resampled, as long as none before them looks around itself or is limited to a mask: then marks are
 * averaged (`docs/decisions/0003-marks-are-averaged.md`), and a full bed never stands in memory. Otherwise the treated
 * picture is made at once, here.
 */
export function treatedRows(
  framed: Framed,
  treatment: Treatment,
  columns: number,
  rows: number,
  options: TreatOptions,
): RowSource {
  const { first, rest } = parted(treatment, framed)
  const { picture, window } = framed
  if (rest.length === 0 && !framed.turned)
    return (kernel, arena, sink) =>
      resampleMarks(kernel, arena, picture, markTable(first, picture.full), columns, rows, sink, {
        crop: window,
        progress: options.progress,
      })
  const { tone, alpha } = treatedPlane(framed, treatment, columns, rows, options)
  return ({ run, room }, arena, sink) => {
    const row = arena.take(4 * columns + 16)
    const tones = arena.take(2 * columns)
    const shares = arena.take(columns)
    const { buffer } = room(arena.bytes)
    const toneRow = new Uint16Array(buffer, tones, columns)
    const shareRow = new Uint8Array(buffer, shares, columns)
    for (let y = 0; y < rows; y++) {
      toneRow.set(tone.subarray(y * columns, (y + 1) * columns))
      if (alpha) shareRow.set(alpha.subarray(y * columns, (y + 1) * columns))
      run.toMarks(tones, alpha ? shares : 0, columns, row)
      sink(y, row)
    }
  }
}

/** A framed picture treated, at dot pitch, as tones: what the dots are made of. */
export function treatedPlane(
  framed: Framed,
  treatment: Treatment,
  columns: number,
  rows: number,
  { pitchMm, progress, keep = (_key, make) => make() }: TreatOptions,
): Plane {
  const { first, rest } = parted(treatment, framed)
  const share = 1 / (rest.length + 1)
  let plane = keep(
    JSON.stringify(['plane', first.grades.length, first.key, columns, rows]),
    () => resampled(framed, markTable(first, framed.picture.full), columns, rows, progress && ((done) => progress(done * share))),
    planeBytes,
  )
  const base = (): MaskBase =>
    keep(
      'mask base',
      () => maskBase(framed.turned?.of ?? framed),
      ({ grey }) => grey.byteLength,
    )
  const planeOf = (id: string): Uint8Array | undefined => {
    const mask = treatment.masks[id]
    if (!mask) return undefined
    return keep(
      JSON.stringify(['mask', mask, columns, rows]),
      () => {
        const { turned } = framed
        if (!turned) return maskPlane(mask, framed, columns, rows, base)
        return turnedPlane(turned, maskPlane(mask, turned.of, turned.columns, turned.rows, base), columns, rows)
      },
      (made) => made.byteLength,
    )
  }
  let key = first.key
  for (let i = 0; i < rest.length; ) {
    progress?.((i + 1) * share)
    const step = rest[i]
    const before = plane
    // Steps that look at one tone at a time, one after the other on all of the picture, are one table.
    const count = tonesOnly(rest, i)
    if (count > 0) {
      const steps = rest.slice(i, i + count)
      key = JSON.stringify([key, steps])
      plane = { ...before, tone: throughGrades(before, steps, framed) }
      i += count
      continue
    }
    const mask = step.mask === undefined ? undefined : planeOf(step.mask)
    key = JSON.stringify([key, step, step.mask === undefined ? null : treatment.masks[step.mask]])
    // The last steps change with every move of a slider: only what is costly is kept.
    const here = progress && ((part: number): void => progress((i + 1 + part) * share))
    const make = (): Plane => done(before, step, mask, pitchMm, framed, here)
    plane =
      step.kind === 'flatten' || step.kind === 'ink' || step.kind === 'sharpen'
        ? keep(JSON.stringify([key, columns, rows, pitchMm]), make, planeBytes)
        : make()
    i++
  }
  return plane
}

const planeBytes = ({ tone, alpha }: Plane): number => tone.byteLength + (alpha?.byteLength ?? 0)

interface First {
  readonly grades: readonly Grade[]
  readonly key: string
}

/** Steps that can be one table on the source, and the others. */
function parted(treatment: Treatment, framed: Framed): { first: First; rest: readonly TreatmentStep[] } {
  const steps = activeSteps(treatment)
  const grades: Grade[] = []
  const keys: unknown[] = []
  let i = 0
  for (; i < steps.length; i++) {
    const step = steps[i]
    const grade =
      step.mask === undefined
        ? gradeOf(
            step,
            sampledLevels(step, () => patchedFromSource(framed, grades, step)),
          )
        : undefined
    if (!grade) break
    grades.push(grade)
    keys.push(step)
  }
  return { first: { grades, key: JSON.stringify(keys) }, rest: steps.slice(i) }
}

/** Levels that a step samples on a picture at dot pitch; undefined for steps that sample nothing. */
export const sampledLevelsOf = (step: TreatmentStep, framed: Framed, plane: Plane): BlackAndWhite | undefined =>
  sampledLevels(step, () => patchedFromPlane(plane, framed, step))

const sampledLevels = (step: TreatmentStep, read: () => BlackAndWhite | undefined): BlackAndWhite | undefined =>
  step.kind === 'levels' && step.ink.length + step.paper.length > 0 ? read() : undefined

/** Sample → mark: 1 − lightness after all grades. */
function markTable({ grades }: First, full: number): Float32Array {
  const table = new Float32Array(full + 1)
  for (let i = 0; i <= full; i++) {
    let v = i / full
    for (const grade of grades) v = grade(v)
    table[i] = 1 - Math.fround(v)
  }
  return table
}

/** A picture's tones at dot pitch, and its opacity on its own, so that what is transparent stays so when inverted. */
function resampled(
  { picture, window, turned }: Framed,
  table: Float32Array,
  columns: number,
  rows: number,
  progress?: (done: number) => void,
): Plane {
  if (turned) {
    const { marks, seen } = sampleTurned(turned, table, columns, rows, progress)
    return { width: columns, height: rows, ...tonesOf(marks, seen) }
  }
  const kernel = pictureKernel()
  const { run, room } = kernel
  const part = (half: number) => progress && ((done: number): void => progress(picture.alpha ? (half + done) / 2 : done))
  if (!picture.alpha) {
    const tone = new Uint16Array(columns * rows)
    const arena = new Arena(run.freeFrom())
    const tones = arena.take(2 * columns)
    const sink: RowSink = (y, at) => {
      run.toTones(at, columns, tones)
      tone.set(new Uint16Array(room(0).buffer, tones, columns), y * columns)
    }
    resampleMarks(kernel, arena, picture, table, columns, rows, sink, { crop: window, progress: part(0) })
    return { width: columns, height: rows, tone }
  }
  const marks = (of: Float32Array, half: number): Float32Array => {
    const out = new Float32Array(columns * rows)
    const sink: RowSink = (y, at) => out.set(new Float32Array(room(0).buffer, at, columns), y * columns)
    resampleMarks(kernel, new Arena(run.freeFrom()), picture, of, columns, rows, sink, { crop: window, progress: part(half) })
    return out
  }
  const wanted = marks(table, 0)
  const seen = marks(new Float32Array(table.length).fill(1), 1)
  return { width: columns, height: rows, ...tonesOf(wanted, seen) }
}

/** Marks of what is seen, as tones with their opacity. */
function tonesOf(wanted: Float32Array, seen: Float32Array): Pick<Required<Plane>, 'tone' | 'alpha'> {
  const tone = new Uint16Array(wanted.length)
  const alpha = new Uint8Array(wanted.length)
  for (let i = 0; i < tone.length; i++) {
    alpha[i] = seen[i] * 255 + 0.5
    tone[i] = seen[i] > 0.002 ? Math.max(0, 1 - wanted[i] / seen[i]) * WHITE + 0.5 : WHITE
  }
  return { tone, alpha }
}

/** One step on the plane; a new plane, the old one stays as it was. */
function done(
  plane: Plane,
  step: TreatmentStep,
  mask: Uint8Array | undefined,
  pitchMm: number,
  framed: Framed,
  progress?: (done: number) => void,
): Plane {
  // A mask that is gone limits nothing.
  const limited = (i: number): number => (mask ? (step.outside ? 255 - mask[i] : mask[i]) : 255)
  if (step.kind === 'clear') {
    const alpha = new Uint8Array(plane.tone.length)
    for (let i = 0; i < alpha.length; i++) alpha[i] = ((plane.alpha ? plane.alpha[i] : 255) * (255 - limited(i)) + 127) / 255
    return { ...plane, alpha }
  }
  const changed = changedTone(plane, step, pitchMm, framed, progress)
  if (mask) {
    for (let i = 0; i < changed.length; i++) {
      const m = limited(i)
      if (m !== 255) changed[i] = plane.tone[i] + ((changed[i] - plane.tone[i]) * m) / 255 + 0.5
    }
  }
  return { ...plane, tone: changed }
}

function changedTone(
  plane: Plane,
  step: TreatmentStep,
  pitchMm: number,
  framed: Framed,
  progress?: (done: number) => void,
): Uint16Array {
  switch (step.kind) {
    case 'flatten':
      return flatten(plane, step.radiusMm / pitchMm)
    case 'ink':
      return inkOnly(plane, step, progress).tone
    case 'sharpen':
      return sharpen(plane, step.radius, step.amount, step.threshold)
    case 'clean':
      if (step.specksMm2 > 0) return clean(plane, step.below, step.specksMm2 / (pitchMm * pitchMm))
  }
  return throughGrades(plane, [step], framed)
}

/** How many steps from `i` on look at one tone at a time, without a mask; only the first may sample what comes in. */
function tonesOnly(steps: readonly TreatmentStep[], i: number): number {
  let n = 0
  for (; i + n < steps.length; n++) {
    const step = steps[i + n]
    const samples = step.kind === 'levels' && step.ink.length + step.paper.length > 0
    if (step.mask !== undefined || (samples && n > 0) || !gradeOf(step)) break
  }
  return n
}

/** Tones led through grades by one table. */
function throughGrades(plane: Plane, steps: readonly TreatmentStep[], framed: Framed): Uint16Array {
  const grades = steps.flatMap((step) => {
    const grade = gradeOf(step, sampledLevelsOf(step, framed, plane))
    return grade ? [grade] : []
  })
  const table = new Uint16Array(WHITE + 1)
  for (let i = 0; i <= WHITE; i++) {
    let v = i / WHITE
    for (const grade of grades) v = grade(v)
    table[i] = v * WHITE + 0.5
  }
  const out = new Uint16Array(plane.tone.length)
  for (let i = 0; i < out.length; i++) out[i] = table[plane.tone[i]]
  return out
}

/** The small copy on which masks look for tones and edges. */
export function maskBase(framed: Framed): MaskBase {
  const scale = Math.min(1, BASE_SIDE / Math.max(framed.window.width, framed.window.height))
  const width = Math.max(1, Math.round(framed.window.width * scale))
  const height = Math.max(1, Math.round(framed.window.height * scale))
  const { tone, alpha } = resampled(framed, markTable({ grades: [], key: '' }, framed.picture.full), width, height)
  return { width, height, grey: bytesBy(tone.length, (i) => (alpha && alpha[i] < 128 ? 255 : tone[i] >> 8)) }
}
