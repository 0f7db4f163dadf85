import { styled } from '@mui/material'
import {
  faceSize,
  type JobDocument,
  liesWithin,
  mainPieceId,
  mapped,
  mappedRings,
  micro,
  outlineOfFace,
  poseBounds,
  SAME,
  withPiece,
} from '@neotaxis/core'
import { pieceSpace } from '../../stage/layers/face.ts'
import { isOtherSide } from '../../stage/layers/use-other-pieces.ts'
import type { Grip, Tool } from '../../stage/tool.ts'
import { useDispatch } from '../../store/hooks.ts'
import { pieceLookedAt } from '../../store/view-slice.ts'
import { EDGE, TYPE } from '../../theme/tokens.ts'
import { useChange, useEdit } from '../use-edit.ts'

/** The name of a workpiece stands so far over its box, CSS px. */
const OVER_PX = 12

/** Of several workpieces, one is looked at by a press on it; each is moved on the bed by the ring over it. */
export function usePieceTool(job: JobDocument): Tool | undefined {
  const dispatch = useDispatch()
  const edit = useEdit()
  const { show, finish, giveUp } = useChange()
  const main = mainPieceId(job)
  // The other side of what is looked at lies in the same place, at another time.
  const ids = Object.keys(job.workpieces).filter((id) => !isOtherSide(job, id))
  if (Object.keys(job.workpieces).length < 2) return undefined
  const boxes = ids.map((id) => ({ id, box: poseBounds(job.workpieces[id].pose, faceSize(job.workpieces[id])) }))
  const at = (x: number, y: number): string | undefined =>
    ids.find((id) => {
      const piece = job.workpieces[id]
      return liesWithin(mappedRings(pieceSpace(piece), outlineOfFace(piece.outline)), x, y)
    })
  const move = (base: JobDocument, id: string, dx: number, dy: number): JobDocument => {
    const { pose } = base.workpieces[id]
    return withPiece(base, { pose: { ...pose, xMm: micro(pose.xMm + dx), yMm: micro(pose.yMm + dy) } }, id)
  }
  const grips = boxes.map(({ id, box }): Grip => {
    const { name } = job.workpieces[id]
    return {
      id: `piece ${id}`,
      at: [(box.x0 + box.x1) / 2, box.y0],
      look: 'ring',
      chosen: id === main,
      radius: 7,
      cursor: 'move',
      label: `${name} on the bed: arrows move it`,
      testId: `piece-grip-${name}`,
      hold: () => ({
        move: (_, { dx, dy }) => show((base) => move(base, id, dx, dy)),
        end: (_, didMove) => (didMove ? finish(`move ${name} on the bed`) : dispatch(pieceLookedAt(id))),
        cancel: giveUp,
      }),
      nudge: (dx, dy, far) => edit(`move ${name} on the bed`, (base) => move(base, id, dx * (far ? 10 : 1), dy * (far ? 10 : 1))),
    }
  })
  return {
    name: 'pieces',
    space: SAME,
    grips,
    press: ({ x, y }) => {
      const id = at(x, y)
      if (id === undefined || id === main) return undefined
      return { pans: true, end: (_, didMove) => !didMove && dispatch(pieceLookedAt(id)) }
    },
    over: (showing) =>
      boxes.map(({ id, box }) => {
        const [left, top] = mapped(showing.map, (box.x0 + box.x1) / 2, box.y0)
        return (
          <PieceName key={id} style={{ left, top: top - OVER_PX }} data-main={id === main}>
            {id === main ? job.workpieces[id].name : shortName(job.workpieces[id].name)}
          </PieceName>
        )
      }),
  }
}

/** Where one is called as the others are, its number tells it. */
const shortName = (name: string): string => /\d+$/.exec(name)?.[0] ?? name

const PieceName = styled('div')(({ theme: { palette } }) => ({
  position: 'absolute',
  transform: 'translate(-50%, -100%)',
  padding: '0 6px',
  fontSize: TYPE.tiny,
  whiteSpace: 'nowrap',
  color: palette.text.secondary,
  backgroundColor: `color-mix(in srgb, ${palette.shop.surround} 82%, transparent)`,
  borderRadius: EDGE.small,
  pointerEvents: 'none',
  '&[data-main="true"]': { color: palette.primary.main },
}))
