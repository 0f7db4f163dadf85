import { Box, Typography } from '@mui/material'

/** A screen that holds nothing yet: what it is for, and how it begins. */
export function NothingYet({ title, children }: { readonly title: string; readonly children: string }) {
  return (
    <Box
      sx={{ textAlign: 'center', py: 10, border: '2px dashed', borderColor: 'divider', borderRadius: 4, bgcolor: 'shop.panel' }}
    >
      <Typography variant="h1" sx={{ mb: 1 }}>
        {title}
      </Typography>
      <Typography sx={{ color: 'text.secondary' }}>{children}</Typography>
    </Box>
  )
}
