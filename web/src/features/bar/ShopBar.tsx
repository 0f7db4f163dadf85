import { Box, Button } from '@mui/material'
import type { ReactNode } from 'react'
import { useDispatch, useTheme } from '../../store/hooks.ts'
import { themeChosen } from '../../store/view-slice.ts'
import { keepStopPlace } from '../live/stop-place.ts'
import { Operator } from './Operator.tsx'
import { ShopNav } from './ShopNav.tsx'
import { Wordmark } from './Wordmark.tsx'

/** The bar of the shop's screens: where one is, who one is, and what the screen adds. */
export function ShopBar({ children }: { readonly children?: ReactNode }) {
  const dispatch = useDispatch()
  const mode = useTheme()
  return (
    <Box
      component="header"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: { xs: 1, lg: 2 },
        px: { xs: 2, lg: 3 },
        height: 60,
        bgcolor: 'shop.bar',
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      <Wordmark />
      <ShopNav />
      {children}
      <Box ref={keepStopPlace} sx={{ display: 'flex', gap: 0.8 }} />
      <Operator />
      <Button color="secondary" onClick={() => dispatch(themeChosen(mode === 'light' ? 'dark' : 'light'))}>
        {mode === 'light' ? 'Dark' : 'Light'}
      </Button>
    </Box>
  )
}
