import {
  afterTurnTest,
  type ChuckDrive,
  type Cone,
  circumferenceMm,
  closedByGap,
  closedByScale,
  degreesPerMm,
  diameterAlong,
  levellingDeg,
  type RollerDrive,
  sectorOf,
  stepsPerMm,
} from '@neotaxis/core'
import { type Io, lengthOption, numberOption, numbersOption, readOptions, tell, UsageError, WorkError } from '../io.ts'
import { roundJob } from './round-job.ts'

/** Artwork that comes nearer to once around than this closes, mm. */
const CLOSES_MM = 0.005

/** A job and what it turns in → the job on it; or what holds it, and what it is → steps per mm, turn per mm, how artwork closes around it, a cone laid flat. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      roller: { type: 'string' },
      chuck: { type: 'boolean', default: false },
      diameter: { type: 'string' },
      circumference: { type: 'string' },
      steps: { type: 'string' },
      gear: { type: 'string' },
      'turn-test': { type: 'string' },
      cone: { type: 'string' },
      at: { type: 'string' },
      'artwork-width': { type: 'string' },
      repeat: { type: 'boolean', default: false },
      device: { type: 'string' },
      length: { type: 'string' },
      around: { type: 'string' },
      true: { type: 'boolean', default: false },
    },
    { min: 0, max: 1, what: 'one job, or options only' },
  )
  try {
    const cone = coneOf(values.cone)
    const diameterMm = diameterOf(values, cone)
    if (positionals.length > 0)
      return roundJob(positionals[0], values, { cone: numbersOption('cone', values.cone, 3), diameterMm }, io)
    const drive = driveOf(values)
    if (!drive && diameterMm === undefined)
      throw new UsageError(
        'say what holds it (--roller D or --chuck, with --steps N), or what it is (--diameter D, --cone D1,D2,SLANT).',
      )
    if (drive?.kind === 'chuck' && diameterMm === undefined) throw new UsageError('--chuck needs --diameter: in jaws it counts.')
    const beyond = lengthOption('turn-test', values['turn-test'])
    if (beyond !== undefined && !(drive && diameterMm !== undefined))
      throw new UsageError('--turn-test needs what holds it, and --diameter.')
    const proven = drive && beyond !== undefined ? afterTurnTest(drive, diameterMm!, beyond) : drive
    const around = diameterMm === undefined ? undefined : circumferenceMm(diameterMm)
    const width = lengthOption('artwork-width', values['artwork-width'])
    if (width === undefined && values.repeat) throw new UsageError('--repeat needs --artwork-width.')
    if (width !== undefined && around === undefined) throw new UsageError('--artwork-width needs --diameter or --cone.')
    const sector = cone && sectorOf(cone)
    const told = {
      ...(proven && { stepsPerMm: stepsPerMm(proven, diameterMm ?? 1) }),
      ...(beyond !== undefined && { stepsPerTurn: proven!.stepsPerTurn }),
      ...(around !== undefined && { degreesPerMm: degreesPerMm(diameterMm!), circumferenceMm: around, diameterMm }),
      ...(width !== undefined && { overlapMm: Math.max(0, width - around!) }),
      ...(values.repeat && { repeat: closedByScale(width!, around!), byGap: closedByGap(width!, around!) }),
      ...(sector && {
        cone: {
          innerRadiusMm: sector.innerRadiusMm,
          outerRadiusMm: sector.outerRadiusMm,
          angleDeg: (sector.angleRad * 180) / Math.PI,
          levellingDeg: levellingDeg(cone!),
        },
      }),
    }
    tell(io, values.json, told, wordsOf(told, width))
    return 0
  } catch (cause) {
    if (cause instanceof RangeError) throw new WorkError(cause.message)
    throw cause
  }
}

function coneOf(text: string | undefined): Cone | undefined {
  const numbers = numbersOption('cone', text, 3)
  return numbers && { smallMm: Math.min(numbers[0], numbers[1]), largeMm: Math.max(numbers[0], numbers[1]), slantMm: numbers[2] }
}

/** By calliper, by tape, or of a cone: half way along its side where nothing else is said. */
function diameterOf(
  values: { readonly diameter?: string; readonly circumference?: string; readonly at?: string },
  cone: Cone | undefined,
): number | undefined {
  const said = lengthOption('diameter', values.diameter)
  const tape = lengthOption('circumference', values.circumference)
  if (said !== undefined && tape !== undefined) throw new UsageError('--diameter or --circumference, not both.')
  if (said !== undefined) return said
  if (tape !== undefined) return tape / Math.PI
  return cone && diameterAlong(cone, lengthOption('at', values.at) ?? cone.slantMm / 2)
}

function driveOf(values: {
  readonly roller?: string
  readonly chuck: boolean
  readonly steps?: string
  readonly gear?: string
}): RollerDrive | ChuckDrive | undefined {
  const rollerMm = lengthOption('roller', values.roller)
  if (rollerMm === undefined && !values.chuck) return undefined
  if (rollerMm !== undefined && values.chuck) throw new UsageError('--roller or --chuck, not both.')
  const stepsPerTurn = numberOption('steps', values.steps, 1, 1e7)
  if (stepsPerTurn === undefined) throw new UsageError('--steps is missing: of the motor, for one turn.')
  return rollerMm === undefined
    ? { kind: 'chuck', stepsPerTurn, gear: numberOption('gear', values.gear, 0.01, 1000) ?? 1 }
    : { kind: 'roller', rollerMm, stepsPerTurn }
}

interface Told {
  readonly stepsPerMm?: number
  readonly stepsPerTurn?: number
  readonly degreesPerMm?: number
  readonly circumferenceMm?: number
  readonly overlapMm?: number
  readonly repeat?: { readonly count: number; readonly scale: number }
  readonly byGap?: { readonly count: number; readonly gapMm: number }
  readonly cone?: {
    readonly innerRadiusMm: number
    readonly outerRadiusMm: number
    readonly angleDeg: number
    readonly levellingDeg: number
  }
}

function wordsOf(told: Told, width: number | undefined): string[] {
  const lines: string[] = []
  if (told.stepsPerTurn !== undefined) lines.push(`${told.stepsPerTurn.toFixed(1)} steps for one turn, after the test`)
  if (told.stepsPerMm !== undefined) lines.push(`${told.stepsPerMm.toFixed(3)} steps for 1 mm of its surface`)
  if (told.circumferenceMm !== undefined)
    lines.push(`once around is ${told.circumferenceMm.toFixed(2)} mm; 1 mm is ${told.degreesPerMm!.toFixed(4)}°`)
  if (told.overlapMm !== undefined && width !== undefined)
    lines.push(
      told.overlapMm > CLOSES_MM
        ? `artwork ${width} mm wide goes round and ${told.overlapMm.toFixed(2)} mm over itself`
        : `artwork ${width} mm wide leaves ${(told.circumferenceMm! - width).toFixed(2)} mm free`,
    )
  if (told.repeat)
    lines.push(
      `${told.repeat.count} times round at ${(100 * told.repeat.scale).toFixed(2)} % of its size`,
      `or ${told.byGap!.count} times at its own size, with ${told.byGap!.gapMm.toFixed(2)} mm between`,
    )
  if (told.cone)
    lines.push(
      `laid flat: from R ${told.cone.innerRadiusMm.toFixed(2)} to R ${told.cone.outerRadiusMm.toFixed(2)} mm, ${told.cone.angleDeg.toFixed(3)}°; tilted by ${told.cone.levellingDeg.toFixed(2)}° its upper side is level`,
    )
  return lines
}
