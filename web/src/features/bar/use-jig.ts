import { type JigSettings, type JobDocument, jigOf, type Material, mainPiece, ringsBounds, writeSvgRings } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { bringIn, jobOrders, stockOrders } from '../../api/orders.ts'
import { proposals } from '../../workers/engine.ts'
import { JUST_BEGUN } from '../job/just-begun.ts'
import { useCatalogue } from './use-catalogue.ts'

/** Of the sheet beyond the jig, mm. */
const SPARE_MM = 10

/** What a jig is cut from: card, which costs next to nothing; else what the shop has first. */
const onWhat = (materials: readonly Material[]): Material | undefined => {
  const free = materials.filter(({ forbidden }) => forbidden === undefined)
  return free.find(({ finish }) => finish === 'card') ?? free[0]
}

/** The sheet that a jig of a workpiece is cut from, and its outlines. */
export function jigSheet(job: JobDocument, settings: JigSettings) {
  const rings = jigOf(mainPiece(job), settings)
  const { x0, y0, x1, y1 } = ringsBounds(rings)
  const sheet = { widthMm: Math.ceil(x1 - x0 + SPARE_MM), heightMm: Math.ceil(y1 - y0 + SPARE_MM) }
  const { axes } = job.machine
  return {
    svg: writeSvgRings(rings, x1 - x0, y1 - y0, x0, y0),
    sheet,
    isTooLarge: sheet.widthMm > axes.x.travelMm || sheet.heightMm > axes.y.travelMm,
  }
}

/** Whose piece a jig holds: told along with the way to the jig, so that one press leads back. */
export interface Holds {
  readonly holds: { readonly id: string; readonly name: string }
}

/** Makes a job of its own of a jig in which the workpiece lies always in the same place. @param id of the job that it is for */
export function useJig(job: JobDocument, id: string) {
  const navigate = useNavigate()
  const catalogue = useCatalogue()
  const { enqueueSnackbar } = useSnackbar()
  const [making, setMaking] = useState(false)
  /** @param then what of the jig is shown: itself, or its run */
  const make = async (settings: JigSettings, then: 'compose' | 'run'): Promise<void> => {
    setMaking(true)
    try {
      const { svg, sheet, isTooLarge } = jigSheet(job, settings)
      if (isTooLarge) throw new Error('The jig would be larger than the bed of this machine: make its frame narrower.')
      const material = onWhat(catalogue?.materials ?? [])
      if (!material) throw new Error('The shop has no material to cut a jig from yet.')
      const name = `jig for ${job.name}`
      const facts = await bringIn(new Blob([svg], { type: 'image/svg+xml' }))
      // A sheet that takes it as large as it is: made smaller it would hold nothing.
      const workpiece = { ...sheet, thicknessMm: material.thicknessMm }
      const made = await proposals({ facts: { ...facts, name }, workpiece, material, machine: job.machine })
      const cut = made?.find(({ id }) => id === 'cut-lines')
      if (!cut) throw new Error(`A jig cannot be cut from ${material.name}.`)
      const { id: jig } = await jobOrders.create({ ...cut.job, name })
      // A blank of the shop knows its jig from then on.
      const { stock } = mainPiece(job)
      if (stock)
        await stockOrders
          .change(stock.id, { jig })
          .catch(() => enqueueSnackbar('The blank does not know its jig: say it in stock.', { variant: 'warning' }))
      const holds: Holds = { holds: { id, name: job.name } }
      void navigate(`/jobs/${jig}/${then}`, { state: then === 'run' ? holds : JUST_BEGUN })
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'The jig could not be made.', { variant: 'error' })
    } finally {
      setMaking(false)
    }
  }
  return { make, making }
}
