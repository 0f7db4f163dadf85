import {
  archOf,
  checkFindings,
  checkJob,
  faceSize,
  fittedLens,
  fociOf,
  type JobDocument,
  mainPiece,
  packJob,
  RANGES,
  radiusByChord,
  readHeights,
  type Surface,
  sagittaMm,
  sharpHalfWidth,
  withArch,
  withFollowing,
  withHeights,
  withPiece,
  withStrips,
} from '@neotaxis/core'
import { type Io, lengthOption, readInput, readOptions, tell, UsageError, WorkError, wordOption, writeOutput } from '../io.ts'
import { loadJob } from '../jobs.ts'

interface Wished {
  readonly radius?: string | undefined
  readonly crown?: string | undefined
  readonly heights?: string | undefined
  readonly flat: boolean
  readonly across?: string | undefined
}

/** A job and how its face is → the job on that face: curved across, uneven as it was measured, or flat; sharp in strips, or by a lens that follows. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      radius: { type: 'string' },
      crown: { type: 'string' },
      heights: { type: 'string' },
      flat: { type: 'boolean', default: false },
      across: { type: 'string' },
      thickness: { type: 'string' },
      strips: { type: 'boolean', default: false },
      follow: { type: 'boolean', default: false },
    },
    { min: 1, max: 1, what: 'one job' },
  )
  if (!values.output && !values.json) throw new UsageError('say where the job goes with -o OUT.')
  if (values.strips && values.follow) throw new UsageError('--strips or --follow, not both.')
  const { job, supply, assets } = loadJob(positionals[0])
  if (mainPiece(job).surface.kind !== 'flat') throw new WorkError('What turns in a rotary is round already.')
  const shaped = sharpened(asThick(faced(job, values), values), values)
  const made = checkJob(JSON.parse(JSON.stringify(shaped)))
  if (values.output)
    writeOutput(
      values.output,
      packJob(made, (asset) => assets.get(asset)!),
    )
  const stops = checkFindings(made, supply).filter(({ severity }) => severity === 'stop')
  const told = { ...figures(made), stops: stops.map(({ message }) => message) }
  tell(io, values.json, told, [...wordsOf(made), ...told.stops])
  return stops.length > 0 ? 1 : 0
}

/** The job on the face that is asked for. */
function faced(job: JobDocument, wished: Wished): JobDocument {
  const ways = [wished.radius, wished.crown, wished.heights, wished.flat || undefined].filter((each) => each !== undefined)
  if (ways.length !== 1) throw new UsageError('say how its face is by one of --radius R, --crown H, --heights FILE or --flat.')
  if (wished.flat) return withHeights(withArch(job, undefined), undefined)
  if (wished.heights !== undefined) return measured(job, wished.heights)
  const across = wordOption('across', wished.across, ['x', 'y']) ?? 'x'
  const { widthMm, heightMm } = faceSize(mainPiece(job))
  const chord = across === 'x' ? widthMm : heightMm
  const crown = lengthOption('crown', wished.crown)
  if (crown !== undefined && !(crown > 0 && crown <= chord / 2))
    throw new UsageError(`--crown is how much higher its middle is than its edges: up to ${chord / 2} mm over ${chord} mm.`)
  const radiusMm = crown === undefined ? lengthOption('radius', wished.radius)! : radiusByChord(chord, crown)
  const least = Math.max(RANGES.archMm.min, chord / 2)
  if (!(radiusMm >= least && radiusMm <= RANGES.archMm.max))
    throw new UsageError(`--radius goes from ${least} to ${RANGES.archMm.max} mm on a face of ${chord} mm, not ${radiusMm}.`)
  return withArch(withHeights(job, undefined), { radiusMm, across })
}

/** So high stands its crown over the bed. */
function asThick(
  job: JobDocument,
  { thickness, heights }: { readonly thickness?: string | undefined } & Partial<Wished>,
): JobDocument {
  const thicknessMm = lengthOption('thickness', thickness)
  if (thicknessMm === undefined) return job
  if (heights !== undefined) throw new UsageError('--thickness is told by --heights.')
  const { min, max } = RANGES.thicknessMm
  if (!(thicknessMm >= min && thicknessMm <= max))
    throw new UsageError(`--thickness goes from ${min} to ${max} mm, not ${thicknessMm}.`)
  return withPiece(job, { thicknessMm })
}

function measured(job: JobDocument, path: string): JobDocument {
  try {
    const { thicknessMm, heights } = readHeights(new TextDecoder().decode(readInput(path)))
    return withPiece(withHeights(withArch(job, undefined), heights), { thicknessMm })
  } catch (cause) {
    throw cause instanceof RangeError ? new WorkError(cause.message) : cause
  }
}

/** How it stays sharp. */
function sharpened(job: JobDocument, { strips, follow }: { readonly strips: boolean; readonly follow: boolean }): JobDocument {
  const { arch, heights } = mainPiece(job).surface as Surface & { kind: 'flat' }
  if (strips && !arch) throw new UsageError('--strips is for a face that is curved: --radius or --crown.')
  if (follow && !arch && !heights) throw new UsageError('--follow is for a face that is curved or uneven.')
  if (strips && job.machine.axes.z)
    throw new WorkError(`The ${job.machine.name} moves its lens: let it follow the face with --follow.`)
  if (follow && !job.machine.axes.z)
    throw new WorkError(`The ${job.machine.name} does not move its lens: burn the face in strips with --strips.`)
  return withStrips(withFollowing(job, follow), strips)
}

function figures(job: JobDocument) {
  const piece = mainPiece(job)
  const { widthMm, heightMm } = faceSize(piece)
  const arch = archOf(piece)
  const { heights } = piece.surface as Surface & { kind: 'flat' }
  const chord = arch?.across === 'y' ? heightMm : widthMm
  return {
    thicknessMm: piece.thicknessMm,
    ...(arch && {
      radiusMm: arch.radiusMm,
      crownMm: sagittaMm(arch.radiusMm, chord / 2),
      sharpMm: Math.min(chord / 2, sharpHalfWidth(arch.radiusMm, fittedLens(job.machine).depthOfFocusMm)),
    }),
    ...(heights && { columns: heights.columns, rows: heights.rows, lowestMm: Math.min(...heights.mm) }),
    foci: fociOf(job, piece).map(({ underMm }) => underMm),
  }
}

function wordsOf(job: JobDocument): string[] {
  const { thicknessMm, radiusMm, crownMm, sharpMm, columns, rows, lowestMm, foci } = figures(job)
  if (radiusMm !== undefined)
    return [
      `curved by a radius of ${radiusMm.toFixed(1)} mm: its crown stands ${crownMm!.toFixed(2)} mm over its edges, and is sharp ${sharpMm!.toFixed(1)} mm to each side`,
      ...(foci.length > 0
        ? [`burned in strips, the focus set ${foci.map((mm) => mm.toFixed(1)).join(', ')} mm under its crown`]
        : []),
    ]
  if (columns !== undefined)
    return [
      `uneven: ${columns} × ${rows} places, the highest ${thicknessMm} mm over the bed, the lowest ${(-lowestMm!).toFixed(2)} mm under it`,
    ]
  return ['flat']
}
