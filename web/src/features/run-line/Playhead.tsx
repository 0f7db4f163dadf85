import { Box, useTheme } from '@mui/material'
import { formatDuration } from '@neotaxis/core'
import { type PointerEvent as ReactPointerEvent, useRef } from 'react'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'
import { setMoment, useMoment } from '../rehearsal/moment.ts'
import type { TimeScale } from './time-scale.ts'

interface Props {
  readonly scale: TimeScale
  /** Where the run really is: it cannot be dragged then. */
  readonly live?: boolean
}

/** The moment that the stage shows, on the run line: drag it, or anywhere on the clock above the blocks. */
export function Playhead({ scale, live = false }: Props) {
  const { palette } = useTheme()
  const seconds = useMoment((moment) => moment.seconds)
  const frame = useRef<HTMLDivElement>(null)
  const go = (event: ReactPointerEvent): void => {
    const x = event.clientX - frame.current!.getBoundingClientRect().left
    setMoment({ seconds: scale.toTime(x), playing: false })
  }
  const at = Math.min(seconds ?? scale.total, scale.total)
  const x = scale.toX(at)
  return (
    <Box
      ref={frame}
      {...(!live && {
        role: 'slider',
        tabIndex: 0,
        'aria-label': 'Moment of the run',
        'aria-valuemin': 0,
        'aria-valuemax': Math.round(scale.total),
        'aria-valuenow': Math.round(at),
        'aria-valuetext': seconds === null ? 'after the burn' : formatDuration(at),
        onPointerDown: (event: ReactPointerEvent) => {
          event.currentTarget.setPointerCapture(event.pointerId)
          go(event)
        },
        onPointerMove: (event: ReactPointerEvent) => {
          if (event.buttons & 1) go(event)
        },
        onKeyDown: (event: React.KeyboardEvent) => {
          const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: 30, PageDown: -30 }[event.key]
          const to = event.key === 'Home' ? 0 : event.key === 'End' ? scale.total : undefined
          if (by === undefined && to === undefined) return
          event.preventDefault()
          const next = to ?? at + (by ?? 0) * (event.shiftKey ? 10 : 1)
          setMoment({ seconds: Math.min(scale.total, Math.max(0, next)), playing: false })
        },
      })}
      data-testid="playhead"
      sx={{
        position: 'absolute',
        left: 0,
        right: 0,
        top: 0,
        height: 24,
        zIndex: 3,
        cursor: live ? 'default' : 'ew-resize',
        touchAction: 'none',
      }}
    >
      {seconds !== null && (
        <Box
          aria-hidden
          style={{ transform: `translateX(${x}px)` }}
          sx={{
            position: 'absolute',
            left: -1,
            top: 0,
            width: 2,
            height: 92,
            bgcolor: live ? palette.shop.hot : palette.text.primary,
            pointerEvents: 'none',
          }}
        >
          <Box
            sx={{
              position: 'absolute',
              top: 0,
              left: x > scale.toX(scale.total) - 70 ? undefined : 2,
              right: x > scale.toX(scale.total) - 70 ? 2 : undefined,
              px: 0.7,
              height: 18,
              lineHeight: '18px',
              fontSize: TYPE.small,
              fontWeight: WEIGHT.strong,
              bgcolor: live ? palette.shop.hot : palette.text.primary,
              color: palette.shop.halo,
              whiteSpace: 'nowrap',
            }}
          >
            {formatDuration(at)}
          </Box>
        </Box>
      )}
    </Box>
  )
}
