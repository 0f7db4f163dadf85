import {
  aligned,
  type Bounds,
  type Boxed,
  faceBox,
  type JobDocument,
  mainPiece,
  repetitionOf,
  spreadEvenly,
  unite,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect } from 'react'
import { useSelector } from '../../store/hooks.ts'
import { fillSheet, fitted, layOut } from '../../workers/engine.ts'
import { onCommand, PLACES } from '../bar/commands.ts'
import { useEdit } from '../use-edit.ts'
import { useWaited } from './use-waited.tsx'

/** A box made smaller all around, but never turned inside out. */
function within({ x0, y0, x1, y1 }: Bounds, by: number): Bounds {
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2]
  return { x0: Math.min(cx, x0 + by), y0: Math.min(cy, y0 + by), x1: Math.max(cx, x1 - by), y1: Math.max(cy, y1 - by) }
}

/** Rows of other artwork stay rows. */
function otherRepeats(job: JobDocument, node: string): Pick<JobDocument, 'repeats'> {
  const own = repetitionOf(job, node)?.root
  const repeats = Object.fromEntries(Object.entries(job.repeats ?? {}).filter(([root]) => root !== own))
  return Object.keys(repeats).length > 0 ? { repeats } : {}
}

type Placements = JobDocument['placements']
const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)

/**
 * The job with artwork where it was found to lie: only what that moved, and only where nobody moved it meanwhile.
 * @param asked as it lay when it was asked for
 */
export function withPlaces(job: JobDocument, asked: Placements, found: Placements): JobDocument {
  const moved = Object.entries(found).filter(([id, place]) => !isSame(place, asked[id]) && isSame(job.placements[id], asked[id]))
  return { ...job, placements: { ...job.placements, ...Object.fromEntries(moved) } }
}

/** The selection is put to places of the workpiece, in line, evenly, as large as it can be: by commands. */
export function usePlacing(job: JobDocument, items: readonly Boxed[]): void {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const whileWaited = useWaited()
  const { marginMm, spacingMm, linedUpBy } = useSelector((state) => state.view)
  const byEachOther = items.length > 1 && linedUpBy === 'each other'
  const to = byEachOther ? items.map(({ box }) => box).reduce(unite) : within(faceBox(mainPiece(job)), marginMm)
  const put = ({ where, ...place }: (typeof PLACES)[number]): void => {
    const sides = ['across' in place ? place.across : undefined, 'down' in place ? place.down : undefined]
    edit(`put ${where}`, (base) => sides.reduce((sum, side) => (side ? aligned(sum, items, side, to) : sum), base))
  }
  const told = (cause: unknown): void =>
    void enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be worked out.', { variant: 'error' })
  const enlarge = async (angles: readonly number[] | undefined): Promise<void> => {
    const { node } = items[items.length - 1]
    const found = await whileWaited('As large as it goes', fitted(job, node, { marginMm, ...(angles && { angles }) }))
    if (!found) return
    if ('not' in found) {
      enqueueSnackbar(found.not, { variant: 'warning' })
      return
    }
    edit('as large as the workpiece takes it', (base) => withPlaces(base, job.placements, found.placements))
  }
  const arrange = async (angles?: readonly number[]): Promise<void> => {
    const nodes = items.map(({ node }) => node)
    const found = await whileWaited('Laying out', layOut(job, nodes, { marginMm, spacingMm, ...(angles && { angles }) }))
    if (!found) return
    if ('not' in found) {
      enqueueSnackbar(found.not, { variant: 'warning' })
      return
    }
    edit('lay out on the workpiece', (base) => withPlaces(base, job.placements, found.placements))
    enqueueSnackbar(`Laid out: ${(100 * found.used).toFixed(0)} % of the workpiece is used.`)
  }
  const fill = async (angles?: readonly number[]): Promise<void> => {
    const { node } = items[items.length - 1]
    const asked = fillSheet(job, node, { marginMm, spacingMm, ...(angles && { angles }) })
    const found = await whileWaited('Filling the workpiece', asked)
    if (!found) return
    if ('not' in found) {
      enqueueSnackbar(found.not, { variant: 'warning' })
      return
    }
    const { placements, count, used } = found
    edit(`${count} of it on the workpiece`, (base) => {
      // Only what lay there when it was asked for.
      if (!isSame(base.placements, job.placements)) return base
      const { repeats: _, ...bare } = base
      return { ...bare, ...otherRepeats(base, node), placements }
    })
    enqueueSnackbar(`${count} of it: ${(100 * used).toFixed(0)} % of the workpiece is used.`)
  }
  useEffect(() =>
    onCommand(
      items.length === 0
        ? {}
        : {
            ...Object.fromEntries(PLACES.map((place) => [`put-${place.id}`, () => put(place)])),
            'fill-sheet': () => void fill().catch(told),
            'fill-sheet-straight': () => void fill([0, 180]).catch(told),
            'as-large': () => void enlarge(undefined).catch(told),
            'as-large-straight': () => void enlarge([0]).catch(told),
            ...(items.length > 1 && {
              'lay-out': () => void arrange().catch(told),
              'lay-out-straight': () => void arrange([0, 180]).catch(told),
            }),
            ...(items.length > 2 && {
              'gaps-across': () => edit('even gaps across', (base) => spreadEvenly(base, items, 'x')),
              'gaps-down': () => edit('even gaps down', (base) => spreadEvenly(base, items, 'y')),
            }),
          },
    ),
  )
}
