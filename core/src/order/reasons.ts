import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { burns } from '../job/document/steps.ts'
import { processOf } from '../process/table.ts'
import type { Relation } from './relations.ts'

/** Why an operation stands where it does. */
export interface Place {
  /** Each a part of a sentence: “before 3, which frees what it marks”. */
  readonly reasons: readonly string[]
  /** What speaks against it. */
  readonly against: readonly string[]
}

const listed = (numbers: readonly number[]): string => {
  const words = [...numbers].sort((a, b) => a - b).map(String)
  return words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`
}

/** Why each operation of a job stands where it does, or what speaks against it. */
export function placesInOrder(job: JobDocument, relations: readonly Relation[]): Record<string, Place> {
  const order = burnOrder(job)
  const at = new Map(order.map((id, i) => [id, i]))
  const numbers = (ids: readonly string[]): string => listed(ids.map((id) => at.get(id)! + 1))
  const set = setUpNumbers(job)
  return Object.fromEntries(
    order.map((id, i): [string, Place] => {
      const reasons: string[] = []
      const against: string[] = []
      const of = (first: boolean, why: Relation['why'], kept: boolean): string[] =>
        relations
          .filter((one) => (first ? one.first : one.then) === id && one.why === why)
          .map((one) => (first ? one.then : one.first))
          .filter((other) => at.has(other) && (first ? at.get(other)! > i : at.get(other)! < i) === kept)
      const say = (to: string[], ids: readonly string[], words: (which: string) => string): void => {
        if (ids.length > 0) to.push(words(numbers(ids)))
      }
      const many = (ids: readonly string[]): string => (ids.length > 1 ? 'which free' : 'which frees')
      for (const kept of [true, false]) {
        const to = kept ? reasons : against
        const side = kept ? 'before' : 'after'
        const [marks, cuts] = [of(true, 'marks-on', kept), of(true, 'cuts-in', kept)]
        say(to, marks, (which) => `${side} ${which}, ${many(marks)} what it marks`)
        say(to, cuts, (which) => `${side} ${which}, ${many(cuts)} the part around it`)
        const [marked, inner] = [of(false, 'marks-on', kept), of(false, 'cuts-in', kept)]
        const other = kept ? 'after' : 'before'
        say(to, marked, (which) => `${other} ${which}: it frees what ${marked.length > 1 ? 'they mark' : 'that marks'}`)
        say(to, inner, (which) => `${other} ${which}: the inner ${inner.length > 1 ? 'cuts' : 'cut'} first`)
      }
      const before = order[i - 1]
      const operation = job.operations[id]
      if (before !== undefined && set.get(before) !== set.get(id)) reasons.push('in its own set-up')
      else if (operation.prepared !== undefined && before !== undefined && job.operations[before].prepared === operation.prepared)
        reasons.push(`prepared as ${i} is: ${operation.prepared}`)
      if (reasons.length === 0 && against.length === 0) {
        const { turn } = processOf(operation)
        const later = order.slice(i + 1).some((other) => processOf(job.operations[other]).turn > turn)
        reasons.push(
          later ? 'what marks comes before what cuts' : order.length === 1 ? 'alone' : 'the least way from the one before',
        )
      }
      return [id, { reasons, against }]
    }),
  )
}

/** In which set-up each operation burns. */
export function setUpNumbers(job: JobDocument): ReadonlyMap<string, number> {
  const made = new Map<string, number>()
  let number = 0
  for (const id of job.order) {
    const step = job.steps[id]
    if (step.kind === 'set-up' || step.kind === 'elsewhere') number++
    if (burns(step)) made.set(step.operation, number)
  }
  return made
}
