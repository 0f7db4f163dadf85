import PauseIcon from '@mui/icons-material/Pause'
import PlayArrowIcon from '@mui/icons-material/PlayArrow'
import { Box, Button, IconButton, Tooltip } from '@mui/material'
import { type JobDocument, moveAt, trackSeconds } from '@neotaxis/core'
import { useEffect } from 'react'
import { Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { TYPE } from '../../theme/tokens.ts'
import { trackOf } from '../../workers/tracks.ts'
import { onCommand } from '../bar/commands.ts'
import { leaveMoment, momentNow, setMoment, useMoment } from './moment.ts'

const SPEEDS = [1, 8, 60, 300]

/** Plays the job through before it is run: the stage shows what is burned by then. */
export function Rehearsal({ job }: { readonly job: JobDocument }) {
  const playing = useMoment((moment) => moment.playing)
  const speed = useMoment((moment) => moment.speed)
  const inMoment = useMoment((moment) => moment.seconds !== null)
  const travel = useMoment((moment) => moment.travel)

  // A changed job is rehearsed anew; leaving the page ends it.
  useEffect(() => {
    if (momentNow().seconds !== null) trackOf(job)
  }, [job])
  useEffect(() => () => leaveMoment(), [])

  useEffect(() => {
    if (!playing) return
    let last = performance.now()
    let frame = requestAnimationFrame(function tick(now) {
      const track = trackOf(job)
      const { seconds, speed: times } = momentNow()
      if (track && seconds !== null) {
        const next = seconds + ((now - last) / 1000) * times
        const end = trackSeconds(track)
        setMoment(next >= end ? { seconds: end, playing: false } : { seconds: next })
      }
      last = now
      frame = requestAnimationFrame(tick)
    })
    return () => cancelAnimationFrame(frame)
  }, [playing, job])

  const play = (): void => {
    const track = trackOf(job)
    const { seconds } = momentNow()
    const over = track && seconds !== null && seconds >= trackSeconds(track)
    setMoment({ playing: !playing, seconds: playing ? seconds : seconds === null || over ? 0 : seconds })
  }
  const step = (by: 1 | -1): void => {
    const track = trackOf(job)
    if (!track || track.count === 0) return
    const { seconds } = momentNow()
    const move = moveAt(track, seconds ?? 0)
    // To the end of this move, or to its start; from its start to the start of the one before.
    const from = (i: number): number => (i > 0 ? track.seconds[i - 1] : 0)
    const start = from(move)
    const next =
      by > 0
        ? track.seconds[Math.min(move, track.count - 1)]
        : (seconds ?? 0) > start + 1e-9
          ? start
          : from(Math.max(0, move - 1))
    setMoment({ seconds: next, playing: false })
  }
  useEffect(() =>
    onCommand({
      play,
      'step-on': () => step(1),
      'step-back': () => step(-1),
      'after-burn': leaveMoment,
      travel: () => setMoment({ travel: !momentNow().travel, ...(momentNow().seconds === null && { seconds: 0 }) }),
    }),
  )
  const small = { minWidth: 30, minHeight: 26, px: 0.8, fontSize: TYPE.small, color: 'text.primary' } as const
  return (
    <Box
      component="section"
      aria-label="Rehearsal"
      sx={{ width: 148, alignSelf: 'center', display: 'grid', gap: 0.4, justifyItems: 'start' }}
    >
      <Row gap="tight">
        <Tooltip placement="top" title={playing ? 'Stand still  (Space)' : 'Rehearse: see it burn  (Space)'}>
          <IconButton
            onClick={play}
            aria-label={playing ? 'Stand still' : 'Rehearse'}
            data-testid="rehearse"
            sx={{ border: 1, borderColor: 'divider' }}
            size="large"
          >
            {playing ? <PauseIcon /> : <PlayArrowIcon />}
          </IconButton>
        </Tooltip>
        <Column gap="none">
          <Tooltip placement="top" title="One move back, one move on  ( , . )">
            <Row align="stretch" gap="none">
              <Button sx={small} onClick={() => step(-1)} aria-label="One move back">
                ‹ move
              </Button>
              <Button sx={small} onClick={() => step(1)} aria-label="One move on">
                ›
              </Button>
            </Row>
          </Tooltip>
          <Tooltip placement="right" title="How much faster than the machine">
            <Button
              sx={{ ...small, justifyContent: 'start' }}
              onClick={() => setMoment({ speed: SPEEDS[(SPEEDS.indexOf(speed) + 1) % SPEEDS.length] })}
              data-testid="rehearsal-speed"
            >
              {speed} × as fast
            </Button>
          </Tooltip>
        </Column>
      </Row>
      <Row align="stretch" gap="tight">
        <Tooltip placement="top" title="All travel of the head, not only near it  (T)">
          <Button
            sx={{ ...small, bgcolor: travel ? 'shop.selected' : undefined }}
            aria-pressed={travel}
            onClick={() => setMoment({ travel: !travel, ...(!inMoment && { seconds: 0 }) })}
          >
            all travel
          </Button>
        </Tooltip>
        <Tooltip placement="top" title="Back to the workpiece after the burn  (Esc)">
          <span>
            <Button sx={small} disabled={!inMoment} onClick={leaveMoment} data-testid="after-burn">
              to the end
            </Button>
          </span>
        </Tooltip>
      </Row>
    </Box>
  )
}
