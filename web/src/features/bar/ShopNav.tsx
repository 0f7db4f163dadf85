import { Box } from '@mui/material'
import { useLocation } from 'react-router'
import { useSelector } from '../../store/hooks.ts'
import { TabLink } from './TabLink.tsx'

const SCREENS = [
  ['/jobs', 'Jobs'],
  ['/library', 'Library'],
  ['/materials', 'Materials'],
  ['/stock', 'Stock'],
  ['/journal', 'Journal'],
  ['/machines', 'Machines'],
] as const

/** The screens of the shop. */
export function ShopNav() {
  const { pathname } = useLocation()
  const keeps = useSelector(({ session }) => session.signsIn && session.person?.keeps === true)
  return (
    <Box component="nav" aria-label="Screens of the shop" sx={{ display: 'flex', gap: 0.5, alignSelf: 'stretch' }}>
      {[...SCREENS, ...(keeps ? [['/people', 'People'] as const] : [])].map(([to, name]) => (
        <TabLink key={to} to={to} name={name} here={pathname === to} />
      ))}
    </Box>
  )
}
