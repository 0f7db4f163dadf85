import { styled, Typography } from '@mui/material'

const Veil = styled('div')(({ theme: { palette } }) => ({
  position: 'fixed',
  inset: 0,
  zIndex: 1200,
  display: 'grid',
  placeItems: 'center',
  backgroundColor: palette.shop.surround,
  opacity: 0.94,
}))

/** Lies over the page while a file is held over it, or read. */
export const DropVeil = ({ children }: { readonly children: string }) => (
  <Veil role="status">
    <Typography variant="h1">{children}</Typography>
  </Veil>
)
