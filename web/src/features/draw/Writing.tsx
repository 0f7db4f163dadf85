import { styled } from '@mui/material'
import { mapped } from '@neotaxis/core'
import { useLayoutEffect, useRef, useState } from 'react'
import type { Showing } from '../../stage/layer.ts'
import { EDGE } from '../../theme/tokens.ts'

/** A letter's height against the size of its type. */
const CAP_SHARE = 0.7
/** It is read as long as its letters have so many px. */
const LEAST_PX = 9
const SMALLER = 0.95

interface Props {
  /** Where the first line begins, at its base; or the corner of its box, face mm. */
  readonly at: readonly [number, number]
  /** The box that it is written in, mm. */
  readonly box?: { readonly widthMm: number; readonly heightMm: number } | undefined
  readonly capMm: number
  readonly align?: 'left' | 'middle' | 'right'
  /** What is written there already. */
  readonly text?: string
  readonly showing: Showing
  /** Empty: nothing is written. */
  readonly onDone: (text: string) => void
}

/** A text that is typed where it will stand, about as large as it will be. Enter writes it, Shift and Enter begins a line. */
export function Writing({ at, box, capMm, align = 'left', text: before = '', showing, onDone }: Props) {
  const [text, setText] = useState(before)
  const size = Math.max(LEAST_PX, (capMm * showing.scale) / CAP_SHARE)
  const [left, top] = mapped(showing.map, at[0], at[1])
  const place = box
    ? { left, top, width: box.widthMm * showing.scale, height: box.heightMm * showing.scale }
    : { left, top: top - size, width: Math.max(160, (text.length + 4) * size * 0.6) }
  // In a box letters get smaller as they will be written.
  const field = useRef<HTMLTextAreaElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is typed changes how much room it needs
  useLayoutEffect(() => {
    const own = field.current
    if (!own || !box) return
    for (let px = size; px >= LEAST_PX; px *= SMALLER) {
      own.style.fontSize = `${px}px`
      if (own.scrollHeight <= own.clientHeight) break
    }
  }, [text, size, box])
  return (
    <Field
      ref={field}
      autoFocus
      rows={Math.max(1, text.split('\n').length)}
      value={text}
      aria-label="Text"
      data-testid="write-here"
      style={{ ...place, fontSize: size, textAlign: align === 'middle' ? 'center' : align }}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => onDone(text)}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') onDone(before)
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
