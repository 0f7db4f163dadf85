import { formatLength, type JobDocument } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect } from 'react'
import { useSelector } from '../../store/hooks.ts'
import { cutOffOf } from '../../workers/engine.ts'
import { onCommand } from '../bar/commands.ts'
import { drawnInto } from '../draw/drawn-into.ts'
import { tellArea } from '../field/told.ts'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'

/** By command: what is left of the sheet is cut off by a straight line, last. */
export function useCutOff(job: JobDocument): void {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const { marginMm, lengthUnit } = useSelector((state) => state.view)
  const cutOff = async (): Promise<void> => {
    const line = await cutOffOf(job, marginMm)
    if (!line) {
      enqueueSnackbar('Nothing worth a cut is left beside what is burned.', { variant: 'warning' })
      return
    }
    const xs = line.lines.flatMap((ring) => [...ring].filter((_, i) => i % 2 === 0))
    const ys = line.lines.flatMap((ring) => [...ring].filter((_, i) => i % 2 === 1))
    const data = line.lines.map((ring) => `M${ring[0]} ${ring[1]}L${ring[2]} ${ring[3]}`).join('')
    const at = { xMm: Math.min(...xs), yMm: Math.min(...ys) }
    const change = await drawnInto(job, { kind: 'path', data }, at, newId().slice(0, 8), 'cut-lines')
    edit(`cut the rest off ${formatLength(marginMm, lengthUnit)} away`, (base) => change(base).job)
    enqueueSnackbar(`${tellArea(line.savedMm2)} stay in one piece behind the line.`)
  }
  useEffect(() =>
    onCommand({
      'cut-off': () =>
        void cutOff().catch((cause: unknown) =>
          enqueueSnackbar(cause instanceof Error ? cause.message : 'The line could not be drawn.', { variant: 'error' }),
        ),
    }),
  )
}
