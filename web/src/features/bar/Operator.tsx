import { ButtonBase, Tooltip } from '@mui/material'
import { lazy, Suspense, useRef, useState } from 'react'
import { useSelector } from '../../store/hooks.ts'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'

const OperatorPopover = lazy(() => import('./OperatorPopover.tsx'))

/** Who works at this screen: whoever is signed in, or a name that is kept in this browser. It stands beside every run. */
export function Operator() {
  const signedIn = useSelector(({ session }) => (session.signsIn ? (session.person?.name ?? null) : null))
  const operator = useSelector((state) => state.view.operator)
  const chip = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  const name = signedIn ?? operator
  return (
    <>
      <Tooltip
        title={signedIn === null ? 'Who works here: stands beside every run' : 'Who is signed in: stands beside every run'}
      >
        <ButtonBase
          ref={chip}
          onClick={() => setOpen(true)}
          data-testid="operator"
          sx={{
            minHeight: 34,
            px: 1,
            fontSize: TYPE.body,
            fontWeight: name ? WEIGHT.plain : WEIGHT.strong,
            color: name ? 'text.primary' : 'primary.main',
            whiteSpace: 'nowrap',
          }}
        >
          {name || 'Who are you?'}
        </ButtonBase>
      </Tooltip>
      {open && (
        <Suspense fallback={null}>
          <OperatorPopover at={chip.current} signedIn={signedIn} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  )
}
