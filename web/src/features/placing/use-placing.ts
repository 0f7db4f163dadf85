import { aligned, type Bounds, type Boxed, faceBox, type JobDocument, mainPiece, spreadEvenly, unite } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect } from 'react'
import { useSelector } from '../../store/hooks.ts'
import { fitted } from '../../workers/engine.ts'
import { onCommand, PLACES } from '../bar/commands.ts'
import { useEdit } from '../use-edit.ts'

/** A box made smaller all around, but never turned inside out. */
function within({ x0, y0, x1, y1 }: Bounds, by: number): Bounds {
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2]
  return { x0: Math.min(cx, x0 + by), y0: Math.min(cy, y0 + by), x1: Math.max(cx, x1 - by), y1: Math.max(cy, y1 - by) }
}

/** The selection is put to places of the workpiece, in line, evenly, as large as it can be: by commands. */
export function usePlacing(job: JobDocument, items: readonly Boxed[]): void {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const { marginMm, linedUpBy } = useSelector((state) => state.view)
  const byEachOther = items.length > 1 && linedUpBy === 'each other'
  const to = byEachOther ? items.map(({ box }) => box).reduce(unite) : within(faceBox(mainPiece(job)), marginMm)
  const put = ({ where, ...place }: (typeof PLACES)[number]): void => {
    const sides = ['across' in place ? place.across : undefined, 'down' in place ? place.down : undefined]
    edit(`put ${where}`, (base) => {
      const lay = (of: JobDocument): JobDocument => sides.reduce((sum, side) => (side ? aligned(sum, items, side, to) : sum), of)
      return lay(base)
    })
  }
  const enlarge = async (angles: readonly number[] | undefined): Promise<void> => {
    const { node } = items[items.length - 1]
    const found = await fitted(job, node, { marginMm, ...(angles && { angles }) })
    if ('not' in found) {
      enqueueSnackbar(found.not, { variant: 'warning' })
      return
    }
    const { placements } = found
    edit('as large as the workpiece takes it', (base) => ({
      ...base,
      placements: {
        ...base.placements,
        ...Object.fromEntries(Object.entries(placements).filter(([id]) => id in base.placements)),
      },
    }))
  }
  useEffect(() =>
    onCommand(
      items.length === 0
        ? {}
        : {
            ...Object.fromEntries(PLACES.map((place) => [`put-${place.id}`, () => put(place)])),
            'as-large': () => void enlarge(undefined),
            'as-large-straight': () => void enlarge([0]),
            ...(items.length > 2 && {
              'gaps-across': () => edit('even gaps across', (base) => spreadEvenly(base, items, 'x')),
              'gaps-down': () => edit('even gaps down', (base) => spreadEvenly(base, items, 'y')),
            }),
          },
    ),
  )
}
