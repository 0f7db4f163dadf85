import type { OperationReport, PreflightItem } from '@neotaxis/core'
import type { Mark } from '@neotaxis/link'

/** Times are kept for every so many lines of a program. */
export const LINES_A_STEP = 32

/** A program on disk, ready to be sent, and how its lines belong to time. */
export interface Prepared {
  readonly file: string
  /** Findings that stop it. */
  readonly stops: readonly string[]
  readonly lines: number
  /** Places in the file from which it can go on without being read from the start. */
  readonly marks: readonly Mark[]
  readonly seconds: number
  /** Seconds of the estimate at every 32nd line. */
  readonly times: Float64Array
  readonly parts: readonly RunPart[]
  readonly operations: readonly OperationReport[]
  readonly bounds: readonly [number, number, number, number] | null
  /** What must be confirmed before the start. */
  readonly preflight: readonly string[]
}

/** One operation in the program. */
export interface RunPart {
  readonly id: string
  readonly linesBefore: number
  /** What is to be done at the machine before it begins; null where it does not wait. */
  readonly pause: string | null
  /** What must be confirmed before it begins, where it begins a set-up; else nothing. */
  readonly list: readonly PreflightItem[]
}

/** Operations in parts, where the program waits in the midst of them: each wait begins another part. */
export function withWaits(
  parts: readonly RunPart[],
  waits: readonly { readonly lines: number; readonly text: string }[],
): RunPart[] {
  const more = waits.map(({ lines, text }) => ({
    id: partAt({ parts }, lines) ?? parts[0].id,
    linesBefore: lines,
    pause: text,
    list: [],
  }))
  return [...parts, ...more].sort((a, b) => a.linesBefore - b.linesBefore)
}

/** Seconds of the estimate when so many lines are driven. */
export function timeAt({ times, seconds }: Pick<Prepared, 'times' | 'seconds'>, lines: number): number {
  const at = lines / LINES_A_STEP
  const i = Math.floor(at)
  if (i + 1 >= times.length) return seconds
  return times[i] + (times[i + 1] - times[i]) * (at - i)
}

/** The operation that a line belongs to. */
export function partAt({ parts }: Pick<Prepared, 'parts'>, lines: number): string | null {
  return parts.filter(({ linesBefore }) => linesBefore <= lines).at(-1)?.id ?? null
}

/** What is to be done where the program waits after so many lines. */
export const instructionAt = (prepared: Pick<Prepared, 'parts'>, lines: number): string | null =>
  waitAt(prepared, lines)?.pause ?? null

/** The operation before which the program waits after so many lines: the one with a pause that is nearest to them. */
export function waitAt({ parts }: Pick<Prepared, 'parts'>, lines: number): RunPart | undefined {
  let nearest: RunPart | undefined
  for (const part of parts) {
    if (part.pause === null) continue
    if (!nearest || Math.abs(part.linesBefore - lines) < Math.abs(nearest.linesBefore - lines)) nearest = part
  }
  return nearest
}
