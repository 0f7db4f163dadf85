import {
  canLieTrue,
  checkFindings,
  checkJob,
  faceSize,
  mainPiece,
  packJob,
  ROTARIES,
  sourceOf,
  type Thick,
  timesRound,
  withRound,
  withTrueToFace,
} from '@neotaxis/core'
import { type Io, lengthOption, numberOption, tell, UsageError, WorkError, wordOption, writeOutput } from '../io.ts'
import { loadJob } from '../jobs.ts'

interface Wished {
  readonly device?: string | undefined
  readonly length?: string | undefined
  readonly around?: string | undefined
  readonly true?: boolean | undefined
  readonly output?: string | undefined
  readonly json?: boolean | undefined
}

/** The ways artwork closes around: so many times, by gaps or by its size. */
const CLOSINGS = ['gap', 'size'] as const

/** Puts a job on something round: job → job. @param is its diameter, or the three numbers of a cone */
export function roundJob(
  path: string,
  wished: Wished,
  is: { readonly cone: readonly number[] | undefined; readonly diameterMm: number | undefined },
  io: Io,
): number {
  const { job, supply, assets } = loadJob(path)
  const devices = { ...ROTARIES, ...job.machine.rotaries }
  const id = wordOption('device', wished.device, Object.keys(devices)) ?? 'rollers'
  if (is.diameterMm === undefined) throw new UsageError('say what it is: --diameter D, --circumference C or --cone D1,D2,SLANT.')
  if (!wished.output && !wished.json) throw new UsageError('say where the job goes with -o OUT.')
  const thick: Thick = is.cone ? { leftMm: is.cone[0], rightMm: is.cone[1] } : is.diameterMm
  const length = is.cone?.[2] ?? lengthOption('length', wished.length) ?? faceSize(mainPiece(job)).widthMm
  let round = withRound(job, devices[id], thick, length)
  if (wished.around !== undefined) {
    const [often, how = 'gap'] = wished.around.split(':')
    const count = numberOption('around', often, 1, 1000)
    const closing = wordOption('around', how, CLOSINGS) ?? 'gap'
    const root = Object.keys(job.nodes).find((node) => sourceOf(job, node) === node)
    if (root === undefined || count === undefined) throw new WorkError('This job has no artwork to go around.')
    round = timesRound(round, root, closing === 'size' ? 'scale' : 'gap', { count })
  }
  if (wished.true) {
    if (!canLieTrue(mainPiece(round))) throw new UsageError('--true is for what tapers: give it with --cone.')
    for (const root of Object.keys(round.nodes).filter((node) => sourceOf(round, node) === node))
      round = withTrueToFace(round, root, true)
  }
  const made = checkJob(JSON.parse(JSON.stringify(round)))
  if (wished.output)
    writeOutput(
      wished.output,
      packJob(made, (asset) => assets.get(asset)!),
    )
  const stops = checkFindings(made, supply).filter(({ severity }) => severity === 'stop')
  const { widthMm, heightMm } = faceSize(mainPiece(made))
  tell(io, wished.json ?? false, { widthMm, heightMm, device: devices[id].name, stops: stops.map(({ message }) => message) }, [
    `in “${devices[id].name}”: its face is ${widthMm.toFixed(2)} mm long, once around ${heightMm.toFixed(2)} mm`,
    ...stops.map(({ message }) => message),
  ])
  return stops.length > 0 ? 1 : 0
}
