import { useTheme } from '@mui/material'
import { besideRing, boxBetween, type JobDocument, lineUnder, mapped, micro, placedOn, type TextSpec } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { faceSpace } from '../../stage/layers/face.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import { StageHint } from '../../stage/StageWords.tsx'
import type { Tool } from '../../stage/tool.ts'
import { outlineView } from '../../workers/engine.ts'
import type { Drawing } from '../../workers/shared.ts'
import { FIRST } from './first-numbers.ts'
import { snap } from './snap.ts'
import { useMakeDrawn } from './use-make-drawn.ts'
import { Writing } from './Writing.tsx'

/** A text is meant to stand on a line from this far, CSS px. */
const NEAR = 8
/** A box is at least so wide and high, mm. */
const LEAST_MM = 3

const PLAIN = FIRST.text as TextSpec

/** Where a text is being written: from a place on, in a box, or on a line of the job. */
interface There {
  readonly at: readonly [number, number]
  readonly box?: { readonly widthMm: number; readonly heightMm: number }
  readonly line?: string
}

/**
 * Writes a text where it goes: from where it is pressed, in a box that is pulled out, or on a line that is pressed.
 * @param drawing of the workpiece that is looked at: the lines that a text can stand on
 */
export function useWriteTool(job: JobDocument, drawing: Drawing | undefined, onLeave: () => void): Tool {
  const { palette } = useTheme()
  const { enqueueSnackbar } = useSnackbar()
  const make = useMakeDrawn(job)
  const [there, setThere] = useState<There>()
  const [pull, setPull] = useState<There>()
  const [over, setOver] = useState<string>()
  const isLetters = (id: string): boolean => {
    const node = job.nodes[id]
    const from = node?.kind === 'part' ? job.nodes[node.from] : undefined
    return from?.kind === 'drawing' && from.drawn?.kind === 'text'
  }
  /** The outline whose line is near; letters are none. */
  const lineAt = (x: number, y: number, reach: number): string | undefined =>
    Object.entries(drawing?.outlines ?? {}).find(
      ([id, rings]) => job.nodes[id] && !isLetters(id) && rings.some((ring) => besideRing(ring, x, y, reach)),
    )?.[0]
  const leave = (): void => {
    setThere(undefined)
    setPull(undefined)
    setOver(undefined)
    onLeave()
  }
  const write = async (text: string, { at: [xMm, yMm], box, line }: There): Promise<void> => {
    leave()
    if (text.trim() === '') return
    if (line === undefined) {
      const along = box ? ({ along: { kind: 'box', ...box }, align: 'middle' } as const) : {}
      return make({ ...PLAIN, text, ...along }, { xMm, yMm, by: 'origin' })
    }
    try {
      const { paths } = await outlineView(job, line)
      const under = lineUnder(paths, xMm, yMm)
      if (!under) throw new Error('There is no line here any more.')
      await make(
        { ...PLAIN, text, align: under.align, along: { kind: 'path', data: under.data, on: placedOn(job, line, xMm, yMm) } },
        { xMm: 0, yMm: 0, by: 'origin' },
      )
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be written.', { variant: 'error' })
    }
  }
  const lineName = over === undefined ? undefined : job.nodes[over]?.name
  return {
    name: 'write here',
    space: faceSpace(job),
    cursor: 'text',
    hover: (spot) => setOver(spot && !there ? lineAt(spot.x, spot.y, NEAR / spot.scale) : undefined),
    press: (spot) => {
      const from = [snap(spot.x, spot), snap(spot.y, spot)] as const
      const boxTo = (next: typeof spot): There => {
        const { x0, y0, x1, y1 } = boxBetween({ x: from[0], y: from[1] }, { x: snap(next.x, next), y: snap(next.y, next) })
        return { at: [x0, y0], box: { widthMm: micro(x1 - x0), heightMm: micro(y1 - y0) } }
      }
      return {
        move: (next) => setPull(boxTo(next)),
        end: (next, moved) => {
          setPull(undefined)
          const pulled = moved ? boxTo(next) : undefined
          if (pulled?.box && Math.min(pulled.box.widthMm, pulled.box.heightMm) >= LEAST_MM) return setThere(pulled)
          const line = lineAt(spot.x, spot.y, NEAR / spot.scale)
          setThere(line === undefined ? { at: from } : { at: [spot.x, spot.y], line })
        },
        cancel: () => setPull(undefined),
      }
    },
    key: ({ key }) => {
      if (key === 'Escape') leave()
      return key === 'Escape'
    },
    over: (showing) => {
      if (there)
        return (
          <Writing
            at={there.at}
            box={there.box}
            capMm={PLAIN.capMm}
            align={there.box || there.line ? 'middle' : 'left'}
            showing={showing}
            onDone={(text) => void write(text, there)}
          />
        )
      if (!pull?.box)
        return (
          <StageHint
            at={showing}
            text={
              lineName
                ? `Press: it stands on “${lineName}”`
                : 'Press where the text begins, pull out a box for it, or press a line'
            }
          />
        )
      const { at, box } = pull
      const [x, y] = mapped(showing.map, ...at)
      const [x1, y1] = mapped(showing.map, at[0] + box.widthMm, at[1] + box.heightMm)
      const size = { x, y, width: x1 - x, height: y1 - y, fill: 'none' }
      return (
        <Overlay>
          <rect {...size} stroke={palette.shop.halo} strokeWidth={4} />
          <rect {...size} stroke={palette.primary.main} strokeWidth={1.6} strokeDasharray="5 4" />
        </Overlay>
      )
    },
  }
}
