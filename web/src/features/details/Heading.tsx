import { Typography } from '@mui/material'
import type { ReactNode } from 'react'

/** What a group of details is about. */
export const Heading = ({ children }: { readonly children: ReactNode }) => (
  <Typography variant="h3" component="h3" sx={{ mt: 2.2, mb: 0.4 }}>
    {children}
  </Typography>
)
