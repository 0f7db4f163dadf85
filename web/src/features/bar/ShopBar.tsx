import { Button } from '@mui/material'
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
    <Strip
      along="top"
      tone="bar"
      as="header"
      style={{ height: 'auto', minHeight: 60, flexWrap: 'wrap', rowGap: 0, columnGap: SPACE.room, padding: `0 ${SPACE.wide}px` }}
    >
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
      <Button color="secondary" onClick={() => dispatch(themeChosen(mode === 'light' ? 'dark' : 'light'))}>
        {mode === 'light' ? 'Dark' : 'Light'}
      </Button>
    </Strip>
  )
}
