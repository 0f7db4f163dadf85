import { useTheme } from '@mui/material'
import { circledAbout, cosSin, isAround, type JobDocument, mapped, repeatedAround, repetitionOf } from '@neotaxis/core'
import { faceSpace } from '../../stage/layers/face.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import type { Tool } from '../../stage/tool.ts'
import { useChange, useEdit } from '../use-edit.ts'

/** Half of the cross in the middle, CSS px. */
const CROSS = 5
/** It comes to a straight line that is so near, CSS px. */
const SNAPS = 6

/** The circle that the selected artwork goes around: its middle is taken hold of, the first one stays where it lies. */
export function useCircleTool(job: JobDocument, node: string | undefined): Tool | undefined {
  const { palette } = useTheme()
  const { show, finish, giveUp } = useChange()
  const edit = useEdit()
  const known = node === undefined ? undefined : repetitionOf(job, node)
  const middle = known && repeatedAround(job, known.root)
  if (node === undefined || !known || !middle || !isAround(known.repetition)) return undefined
  const { diameterMm, atDeg } = known.repetition
  const [x, y] = middle
  const [cos, sin] = cosSin(atDeg)
  const [fx, fy] = [x + (diameterMm / 2) * cos, y + (diameterMm / 2) * sin]
  /** Straight below or beside the first one, where it is nearly there. */
  const straight = (to: number, first: number, scale: number): number => (Math.abs(to - first) * scale < SNAPS ? first : to)
  return {
    name: 'circle',
    space: faceSpace(job),
    grips: [
      {
        id: 'circle-middle',
        at: middle,
        look: 'ring',
        radius: 8,
        cursor: 'move',
        label: 'Middle of the circle: arrows move it',
        testId: 'circle-middle',
        hold: () => ({
          move: ({ ctrl, scale }, { dx, dy }) => {
            const [tx, ty] = ctrl ? [x + dx, y + dy] : [straight(x + dx, fx, scale), straight(y + dy, fy, scale)]
            show((base) => circledAbout(base, node, tx, ty))
          },
          end: (_, didMove) => didMove && finish('move the middle of the circle'),
          cancel: giveUp,
        }),
        nudge: (dx, dy, far) =>
          edit('move the middle of the circle', (base) =>
            circledAbout(base, node, x + dx * (far ? 10 : 1), y + dy * (far ? 10 : 1)),
          ),
      },
    ],
    over: ({ map }) => {
      const [cx, cy] = mapped(map, x, y)
      const [ex, ey] = mapped(map, x + diameterMm / 2, y)
      const r = Math.hypot(ex - cx, ey - cy)
      return (
        <Overlay>
          <circle cx={cx} cy={cy} r={r} fill="none" stroke={palette.shop.halo} strokeWidth={3} opacity={0.5} />
          <circle cx={cx} cy={cy} r={r} fill="none" stroke={palette.primary.main} strokeWidth={1} strokeDasharray="2 4" />
          <path
            d={`M${cx - CROSS} ${cy}h${2 * CROSS}M${cx} ${cy - CROSS}v${2 * CROSS}`}
            stroke={palette.primary.main}
            strokeWidth={1.2}
          />
        </Overlay>
      )
    },
  }
}
