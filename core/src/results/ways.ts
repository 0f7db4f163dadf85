import type { JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { RANGES } from '../job/document/ranges.ts'
import type { Machine } from '../machine/machine.ts'
import { measuredCurve, readingsOf } from '../material/answer.ts'
import { type Material, topLayer } from '../material/material.ts'
import { inverse } from '../numeric/monotone.ts'
import { processOf } from '../process/table.ts'

/** What shall come out. */
export type Result =
  | { readonly kind: 'depth'; readonly mm: number }
  | { readonly kind: 'tone'; readonly share: number }
  | { readonly kind: 'through' }
  | { readonly kind: 'lift' }

/** Settings that a way changes. */
export type WayChange = Pick<Operation, 'power' | 'speedMmS' | 'passes'>

/** One way to a result. */
export interface Way {
  readonly id: 'quickest' | 'speed-stays' | 'power-stays' | 'gentle'
  readonly title: string
  readonly change: WayChange
  /** By how much the result may be off, share of it. */
  readonly off: number
  /** What that rests on, in words. */
  readonly why: string
}

/** Ways to a result, or why there is none: a sentence that says what to do. */
export type Ways = { readonly ways: readonly Way[] } | { readonly not: string }

/** Results that can be asked of an operation: by what it is and what is known of its material. */
export function wantable(job: JobDocument, id: string): Result['kind'][] {
  const operation = job.operations[id]
  const process = processOf(operation)
  if (process.silent?.(operation)) return []
  if (process.cutting) return ['through']
  if (process.dose(operation, job.machine).doseJPerMm2 === undefined || process.form === 'as written') return []
  const { liftDose } = topLayer(operationMaterial(job, operation))
  return ['depth', 'tone', ...(liftDose ? (['lift'] as const) : [])]
}

/** A window is aimed at so far from its lower end, as a share of it on a scale of ratios: what just begins fails in places. */
const INTO = { through: 0.25, lift: 0.5 } as const
/** What is below is kept under this share of what harms it. */
const KEPT_UNDER = 0.8
/** What a doubling of the speed against that of the measurement may change, and another machine's, share. */
const BY_SPEED = 0.03
const BY_MACHINE = 0.15

/** What has to be left where, and how sure that is. */
interface Target {
  /** J/mm² of all passes over an area, or J/mm along a line. */
  readonly dose: number
  readonly off: number
  readonly why: string
  /** The speed at which it was measured, mm/s. */
  readonly speedMmS?: number
}

/** Ways in which an operation gives a result: each the settings solved for the dose that does, by the material's curves and windows. */
export function waysTo(job: JobDocument, id: string, wanted: Result): Ways {
  const operation = job.operations[id]
  if (!wantable(job, id).includes(wanted.kind)) return { not: 'This cannot be asked of this operation.' }
  const material = operationMaterial(job, operation)
  const { machine } = job
  const target = targetOf(wanted, material, machine)
  if ('not' in target) return target
  const least = topSpeedWay(job, operation, target)
  const found = [
    least,
    solvedPower(job, operation, target, 'speed-stays', 'The speed stays', operation.speedMmS, 1),
    solvedSpeed(job, operation, target),
    solvedPower(
      job,
      operation,
      target,
      'gentle',
      'Gentler, in more passes',
      operation.speedMmS,
      Math.max(2, 2 * operation.passes),
    ),
  ].filter((way) => way !== undefined)
  const ways = found.filter(
    (way, i) => found.findIndex((other) => JSON.stringify(other.change) === JSON.stringify(way.change)) === i,
  )
  if (ways.length === 0)
    return {
      not: `${machine.name} cannot: it takes ${target.dose.toFixed(2)} ${wanted.kind === 'through' ? 'J/mm' : 'J/mm²'}, more than ${RANGES.passes.max} passes give.`,
    }
  return { ways }
}

function targetOf(wanted: Result, material: Material, machine: Machine): Target | { readonly not: string } {
  if (wanted.kind === 'through') {
    const { from, to } = material.cutDose
    return {
      dose: from * (to / from) ** INTO.through,
      off: (to - from) / (to + from) / 2,
      why: `${material.name} ${material.thicknessMm} mm goes through from ${from} J/mm on and chars above ${to}`,
    }
  }
  if (wanted.kind === 'lift') {
    const { liftDose, harmsBelow, name } = topLayer(material)
    if (!liftDose) return { not: `At which dose the ${name} lifts is not known: try it on a card of scrap.` }
    const { from, to } = liftDose
    const most = Math.min(to, harmsBelow === undefined ? to : KEPT_UNDER * harmsBelow)
    if (most < from)
      return { not: `The ${name} of ${material.name} lifts from ${from} J/mm² on, where what is below it is harmed already.` }
    return {
      dose: from * (most / from) ** INTO.lift,
      off: (most - from) / (most + from) / 2,
      why: `the ${name} lifts between ${from} and ${to} J/mm²${harmsBelow === undefined ? '' : `; ${material.layers[1]?.name ?? 'what is below'} is harmed from ${harmsBelow}`}`,
    }
  }
  const quantity = wanted.kind
  const value = wanted.kind === 'depth' ? wanted.mm : wanted.share
  const curve = measuredCurve(material, quantity, machine.id)
  const readings = readingsOf(material, quantity, machine.id)
  const what = quantity === 'depth' ? 'How deep it goes' : 'How dark it turns'
  if (!curve || !readings)
    return { not: `${what} was not measured on ${material.name}: burn a step wedge on scrap and measure it.` }
  if (quantity === 'depth' && value >= material.thicknessMm)
    return { not: `The material is ${material.thicknessMm} mm thick: what is carved must leave a ground.` }
  const [low, high] = [curve.at(curve.from), curve.at(curve.to)]
  if (value > high || value <= low) {
    const told = (v: number): string => (quantity === 'depth' ? `${Number(v.toFixed(2))} mm` : `${Math.round(100 * v)} %`)
    return { not: `${material.name} was measured from ${told(low)} to ${told(high)}: ${told(value)} is not known.` }
  }
  const { machine: measuredOn, speedMmS, date } = readings.conditions
  const other = measuredOn !== machine.id
  return {
    dose: curve.inputFor(value),
    off: curve.residual / value + (other ? BY_MACHINE : 0),
    why: `measured on ${date}${other ? ' with another machine' : ''}, ${readings.points.length} points`,
    ...(speedMmS === undefined ? {} : { speedMmS }),
  }
}

const doseOf = (job: JobDocument, operation: Operation, change: Partial<WayChange>): number => {
  const { doseJPerMm, doseJPerMm2 } = processOf(operation).dose({ ...operation, ...change }, job.machine)
  return doseJPerMm2 ?? doseJPerMm ?? 0
}

/** Within a tenth of a per cent, the next one up, as a dial shows it. */
const dialled = (power: number, most: number): number => Math.min(most, Math.ceil(power * 1000 - 1e-6) / 1000)
/** Three digits, rounded so that the dose is no less. */
const slower = (speed: number): number => {
  const unit = 10 ** (Math.floor(Math.log10(speed)) - 2)
  return Number((Math.floor(speed / unit + 1e-9) * unit).toPrecision(3))
}

const way = (target: Target, id: Way['id'], title: string, change: WayChange): Way => {
  const { speedMmS } = target
  const away = speedMmS === undefined ? 0 : BY_SPEED * Math.abs(Math.log2(change.speedMmS / speedMmS))
  return { id, title, change, off: target.off + away, why: target.why }
}

/** All the power that the source stands, as fast as that gives the dose; where the machine is not so fast, with less power. */
function topSpeedWay(job: JobDocument, operation: Operation, target: Target): Way | undefined {
  const { machine } = job
  const power = machine.safePower ?? 1
  const top = Math.min(processOf(operation).topSpeed(machine), RANGES.speedMmS.max)
  const once = doseOf(job, operation, { power, speedMmS: 1, passes: 1 })
  for (let passes = 1; passes <= RANGES.passes.max; passes++) {
    const speedMmS = (once * passes) / target.dose
    if (speedMmS < slowest(operation)) continue
    if (speedMmS <= top) return way(target, 'quickest', 'With all the power', { power, speedMmS: slower(speedMmS), passes })
    return solvedPower(job, operation, target, 'quickest', 'With all the power', top, passes)
  }
  return undefined
}

/** Slower than this a line takes its surroundings with it: better in more passes, mm/s. */
const SLOWEST = { along: 2, over: 20 } as const
const slowest = (operation: Operation): number =>
  Math.min(operation.speedMmS, processOf(operation).cutting ? SLOWEST.along : SLOWEST.over)

/** The power that gives the dose at a speed, in the fewest passes from so many on. */
function solvedPower(
  job: JobDocument,
  operation: Operation,
  target: Target,
  id: Way['id'],
  title: string,
  speedMmS: number,
  from: number,
): Way | undefined {
  const most = job.machine.safePower ?? 1
  for (let passes = from; passes <= RANGES.passes.max; passes++) {
    const at = (power: number): number => doseOf(job, operation, { power, speedMmS, passes })
    if (at(most) < target.dose) continue
    return way(target, id, title, { power: dialled(inverse(at, target.dose, 0, most), most), speedMmS, passes })
  }
  return undefined
}

/** The speed that gives the dose with the power and the passes that are set. */
function solvedSpeed(job: JobDocument, operation: Operation, target: Target): Way | undefined {
  const { power, passes } = operation
  const speedMmS = doseOf(job, operation, { power, speedMmS: 1, passes }) / target.dose
  const top = processOf(operation).topSpeed(job.machine)
  if (!(speedMmS >= RANGES.speedMmS.min && speedMmS <= top)) return undefined
  return way(target, 'power-stays', 'The power stays', { power, speedMmS: slower(speedMmS), passes })
}
