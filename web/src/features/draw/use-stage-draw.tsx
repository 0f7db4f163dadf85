import { styled, useTheme } from '@mui/material'
import { type Bounds, boxBetween, type Drawn, formatLength, type JobDocument, mapped, micro } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect, useState } from 'react'
import type { Showing } from '../../stage/layer.ts'
import { faceSpace } from '../../stage/layers/face.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import { StageHint, StageWord } from '../../stage/StageWords.tsx'
import type { Spot, Tool } from '../../stage/tool.ts'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { severalSelected } from '../../store/view-slice.ts'
import { EDGE } from '../../theme/tokens.ts'
import { onCommand } from '../bar/commands.ts'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'
import { drawnInto } from './drawn-into.ts'
import { FIRST } from './first-numbers.ts'
import { handData } from './hand-line.ts'
import { usePen } from './use-pen.tsx'

/** What is drawn where it goes: a text is typed there, a line set corner by corner, all else pulled out to its size. */
export const DRAWN_HERE = {
  text: 'Write a text here',
  rectangle: 'A rectangle',
  ellipse: 'A circle or an ellipse',
  polygon: 'A polygon',
  star: 'A star',
  line: 'A straight line',
  path: 'A line by hand, straight and curved',
  code: 'A code for cameras',
} as const
export type DrawnHere = keyof typeof DRAWN_HERE

/** Places are taken to the next whole step, unless Alt is held, mm. */
const STEP = 1
/** A letter's height against the size of its type. */
const CAP_SHARE = 0.7

const snap = (v: number, { alt }: Pick<Spot, 'alt'>): number => (alt ? micro(v) : Math.round(v / STEP) * STEP)

/** What a box that was pulled out becomes; undefined where it is too small for anything. */
export function pulledOut(kind: DrawnHere, from: readonly [number, number], to: readonly [number, number]): Drawn | undefined {
  const [widthMm, heightMm] = [Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])].map(micro)
  if (kind === 'line') {
    const lengthMm = micro(Math.hypot(widthMm, heightMm))
    const angleDeg = Number(((Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI).toFixed(3))
    return lengthMm < 1 ? undefined : { kind, lengthMm, angleDeg }
  }
  const across = Math.min(widthMm, heightMm)
  if (across < 1) return undefined
  const first = FIRST[kind]
  switch (first.kind) {
    case 'rectangle':
      return { ...first, widthMm, heightMm, radiusMm: Math.min(first.radiusMm, across / 4) }
    case 'ellipse':
      return { ...first, widthMm, heightMm }
    case 'polygon':
    case 'star':
      return { ...first, diameterMm: across }
    case 'code':
      return { ...first, sizeMm: across }
    default:
      return undefined
  }
}

/** Draws on the stage itself: asked for by a command, once. */
export function useStageDraw(job: JobDocument): Tool | undefined {
  const edit = useEdit()
  const dispatch = useDispatch()
  const { enqueueSnackbar } = useSnackbar()
  const [kind, setKind] = useState<DrawnHere>()
  const [pull, setPull] = useState<readonly [readonly [number, number], readonly [number, number]]>()
  const [at, setAt] = useState<readonly [number, number]>()
  const begin = (next: DrawnHere): void => {
    setPull(undefined)
    setAt(undefined)
    setKind(next)
  }
  useEffect(() =>
    onCommand(
      Object.fromEntries((Object.keys(DRAWN_HERE) as DrawnHere[]).map((each) => [`draw-here-${each}`, () => begin(each)])),
    ),
  )
  const away = (): void => {
    setKind(undefined)
    setPull(undefined)
    setAt(undefined)
  }
  const make = async (drawn: Drawn, place: Parameters<typeof drawnInto>[2]): Promise<void> => {
    away()
    try {
      const change = await drawnInto(job, drawn, place, newId().slice(0, 8))
      let root: string | undefined
      edit(drawn.kind === 'text' ? 'write a text' : 'draw a shape', (base) => {
        const made = change(base)
        root = made.root
        return made.job
      })
      if (root !== undefined) dispatch(severalSelected([root]))
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be drawn.', { variant: 'error' })
    }
  }
  const pen = usePen(job, {
    hint: 'Press for corners, pull for bends; the first corner closes it, Enter ends it',
    least: 2,
    onDone: (points, closed) => void make({ kind: 'path', data: handData(points, closed) }, { xMm: 0, yMm: 0, isOrigin: true }),
    onLeave: () => setKind(undefined),
  })
  if (!kind) return undefined
  const leaves = ({ key }: { readonly key: string }): boolean => {
    if (key === 'Escape') away()
    return key === 'Escape'
  }
  if (kind === 'path') return pen
  if (kind === 'text')
    return {
      name: 'draw here',
      space: faceSpace(job),
      cursor: 'text',
      press: (spot) => ({ end: () => setAt([snap(spot.x, spot), snap(spot.y, spot)]) }),
      key: leaves,
      over: (showing) =>
        at ? (
          <Writing
            at={at}
            showing={showing}
            onDone={(text) => {
              if (text.trim() === '') away()
              else void make({ ...FIRST.text, text } as Drawn, { xMm: at[0], yMm: at[1], isOrigin: true })
            }}
          />
        ) : (
          <StageHint at={showing} text="Press where the text begins" />
        ),
    }
  return {
    name: 'draw here',
    space: faceSpace(job),
    cursor: 'crosshair',
    press: (spot) => {
      const from = [snap(spot.x, spot), snap(spot.y, spot)] as const
      const to = (next: Spot): readonly [number, number] => {
        const [x, y] = [snap(next.x, next), snap(next.y, next)]
        if (!next.shift || kind === 'line') return [x, y]
        // As high as wide.
        const side = Math.max(Math.abs(x - from[0]), Math.abs(y - from[1]))
        return [from[0] + Math.sign(x - from[0] || 1) * side, from[1] + Math.sign(y - from[1] || 1) * side]
      }
      return {
        move: (next) => setPull([from, to(next)]),
        end: (next, moved) => {
          const drawn = moved ? pulledOut(kind, from, to(next)) : undefined
          const box = boxBetween({ x: from[0], y: from[1] }, { x: to(next)[0], y: to(next)[1] })
          if (!drawn) setPull(undefined)
          else void make(drawn, inTheMiddle(drawn, box))
        },
        cancel: () => setPull(undefined),
      }
    },
    key: leaves,
    over: (showing) =>
      pull ? (
        <Pulled pull={pull} isLine={kind === 'line'} at={showing} />
      ) : (
        <StageHint at={showing} text="Pull it out to its size" />
      ),
  }
}

/** Shapes lie around the middle of what was pulled out. */
function inTheMiddle(drawn: Drawn, { x0, y0, x1, y1 }: Bounds): { xMm: number; yMm: number; isOrigin?: true } {
  return drawn.kind === 'rectangle' || drawn.kind === 'ellipse'
    ? { xMm: x0, yMm: y0 }
    : { xMm: micro((x0 + x1) / 2), yMm: micro((y0 + y1) / 2), isOrigin: true }
}

function Pulled({
  pull: [a, b],
  isLine,
  at,
}: {
  readonly pull: readonly [readonly [number, number], readonly [number, number]]
  readonly isLine: boolean
  readonly at: Showing
}) {
  const { palette } = useTheme()
  const unit = useSelector((state) => state.view.lengthUnit)
  const corners = isLine ? [a, b] : [a, [b[0], a[1]] as const, b, [a[0], b[1]] as const]
  const onScreen = corners.map(([x, y]) => mapped(at.map, x, y).join(','))
  const [tx, ty] = mapped(at.map, b[0], b[1])
  const words = isLine
    ? formatLength(Math.hypot(b[0] - a[0], b[1] - a[1]), unit)
    : `${formatLength(Math.abs(b[0] - a[0]), unit)} × ${formatLength(Math.abs(b[1] - a[1]), unit)}`
  return (
    <Overlay>
      <polygon points={onScreen.join(' ')} fill="none" stroke={palette.shop.halo} strokeWidth={4} />
      <polygon points={onScreen.join(' ')} fill="none" stroke={palette.primary.main} strokeWidth={1.8} />
      <StageWord x={tx + 12} y={ty + 22} text={words} />
    </Overlay>
  )
}

interface WritingProps {
  /** Where the first line begins, face mm. */
  readonly at: readonly [number, number]
  readonly showing: Showing
  /** Empty: nothing is written. */
  readonly onDone: (text: string) => void
}

/** A text that is typed where it will stand, about as large as it will be. Enter writes it, Shift and Enter begins a line. */
function Writing({ at, showing, onDone }: WritingProps) {
  const [text, setText] = useState('')
  const cap = FIRST.text.kind === 'text' ? FIRST.text.capMm : 8
  const size = (cap * showing.scale) / CAP_SHARE
  const [left, top] = mapped(showing.map, at[0], at[1])
  return (
    <Field
      autoFocus
      rows={Math.max(1, text.split('\n').length)}
      value={text}
      aria-label="Text"
      data-testid="write-here"
      style={{ left, top: top - size, fontSize: size, width: Math.max(160, (text.length + 4) * size * 0.6) }}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => onDone(text)}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') onDone('')
        if (event.key === 'Enter' && !event.shiftKey) {
          event.preventDefault()
          onDone(text)
        }
      }}
    />
  )
}

const Field = styled('textarea')(({ theme: { palette } }) => ({
  position: 'absolute',
  padding: 0,
  lineHeight: 1.15,
  resize: 'none',
  overflow: 'hidden',
  pointerEvents: 'auto',
  fontFamily: 'inherit',
  color: palette.primary.main,
  backgroundColor: `color-mix(in srgb, ${palette.shop.halo} 55%, transparent)`,
  border: `1px dashed ${palette.primary.main}`,
  borderRadius: EDGE.sharp,
  outline: 'none',
}))
