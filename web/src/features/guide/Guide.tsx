import { Button, Link, styled } from '@mui/material'
import { useEffect } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { useLive } from '../../api/use-live.ts'
import { Spread } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { guided } from '../../store/view-slice.ts'
import { SPACE } from '../../theme/tokens.ts'
import { useDoing } from '../run/use-doing.ts'
import { firstPicture } from './first-picture.ts'
import { GUIDE_STEPS, guideStep } from './guide-words.ts'

/** So much of the window it takes, px: screens that fill it are that much lower. */
const HIGH = 48

/** A first job, step by step, in a strip over the screen: it says what comes next, and can be left at any point. */
export function Guide() {
  const dispatch = useDispatch()
  const navigate = useNavigate()
  const doing = useDoing()
  const { pathname } = useLocation()
  const isOn = useSelector((state) => state.view.guide === 'on')
  const job = /^\/jobs\/([^/]+)\//.exec(pathname)?.[1]
  const run = useLive(({ machines }) => machines.find((desk) => desk.run?.jobId === job)?.run ?? null)
  const machine = useSelector((state) => state.job.document?.machine.id)
  const simulated = useLive(({ machines }) => machines.find((desk) => desk.machine === machine)?.simulated ?? false)
  useEffect(() => {
    document.documentElement.style.setProperty('--guide-high', isOn ? `${HIGH}px` : '0px')
  }, [isOn])
  if (!isOn) return null
  const { at, says, offers } = guideStep(pathname, run, simulated)
  return (
    <Over as="aside" aria-label="First job" data-testid="guide">
      <Quiet weight="strong">
        First job, {at} of {GUIDE_STEPS}
      </Quiet>
      <Words role="status">{says}</Words>
      <Spread />
      {offers === 'picture' && (
        <Button
          variant="contained"
          size="small"
          onClick={() => void doing(async () => navigate('/jobs', { state: { files: [await firstPicture()] } }))}
          data-testid="guide-picture"
        >
          Take this picture
        </Button>
      )}
      {offers === 'run' && job && (
        <Button variant="contained" size="small" onClick={() => void navigate(`/jobs/${job}/run`)} data-testid="guide-run">
          To Run
        </Button>
      )}
      {offers === 'end' && (
        <Button variant="contained" size="small" onClick={() => dispatch(guided('left'))} data-testid="guide-end">
          That was it
        </Button>
      )}
      <Link component="button" onClick={() => dispatch(guided('left'))} data-testid="guide-leave">
        Leave it
      </Link>
    </Over>
  )
}

/** Offered on the board to who is new. */
export function GuideOffer() {
  const dispatch = useDispatch()
  const isOffered = useSelector((state) => state.view.guide === 'offered')
  if (!isOffered) return null
  return (
    <Offer data-testid="guide-offer">
      <Words>New here?</Words>
      <Link component="button" onClick={() => dispatch(guided('on'))} data-testid="guide-begin">
        A first job, step by step
      </Link>
      <Link component="button" color="text.secondary" onClick={() => dispatch(guided('left'))}>
        No, thank you
      </Link>
    </Offer>
  )
}

const Over = styled('div')(({ theme: { palette } }) => ({
  height: HIGH,
  display: 'flex',
  alignItems: 'center',
  gap: SPACE.wide,
  padding: `0 ${SPACE.wide}px`,
  overflow: 'hidden',
  backgroundColor: palette.shop.selected,
  borderBottom: `1px solid ${palette.divider}`,
}))
const Offer = styled('div')({ display: 'flex', alignItems: 'baseline', gap: SPACE.wide })
