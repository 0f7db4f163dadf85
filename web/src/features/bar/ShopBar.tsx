import { Button, styled } from '@mui/material'
import type { ReactNode } from 'react'
import { Row } from '../../parts/Row.tsx'
import { Strip } from '../../parts/Strip.tsx'
import { useDispatch, useTheme } from '../../store/hooks.ts'
import { themeChosen } from '../../store/view-slice.ts'
import { SPACE } from '../../theme/tokens.ts'
import { keepStopPlace } from '../live/stop-place.ts'
import { runCommand } from './commands.ts'
import { Operator } from './Operator.tsx'
import { ShopNav } from './ShopNav.tsx'
import { Wordmark } from './Wordmark.tsx'

/** The bar of the shop's screens: where one is, who one is, and what the screen adds. */
export function ShopBar({ children }: { readonly children?: ReactNode }) {
  const dispatch = useDispatch()
  const mode = useTheme()
  return (
    <Bar along="top" tone="bar" as="header">
      <Wordmark />
      <ShopNav />
      {children}
      <Row ref={keepStopPlace} align="stretch" />
      <Operator />
      <Button
        color="secondary"
        onClick={() => runCommand('shortcuts')}
        aria-label="Help for this screen"
        data-testid="help-open"
        style={{ minWidth: 32, padding: 0 }}
      >
        ?
      </Button>
      <WideButton color="secondary" onClick={() => dispatch(themeChosen(mode === 'light' ? 'dark' : 'light'))}>
        {mode === 'light' ? 'Dark' : 'Light'}
      </WideButton>
    </Bar>
  )
}

/** One row down to 1024 px: what it holds moves together where there is little room. */
const Bar = styled(Strip)(({ theme }) => ({
  height: 'auto',
  minHeight: 60,
  flexWrap: 'wrap',
  rowGap: 0,
  columnGap: SPACE.room,
  padding: `0 ${SPACE.wide}px`,
  [theme.breakpoints.down('lg')]: { columnGap: SPACE.tight, padding: `0 ${SPACE.snug}px` },
}))

// On narrow screens it is in the help.
const WideButton = styled(Button)(({ theme }) => ({ [theme.breakpoints.down('lg')]: { display: 'none' } })) as typeof Button
