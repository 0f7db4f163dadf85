import { Box } from '@mui/material'

/** What to do when it flares up: one glance away while the beam may be on. */
export function FlareCard() {
  return (
    <Box
      component="section"
      aria-label="If it flares up"
      sx={{
        border: 3,
        borderColor: 'shop.hot',
        borderRadius: 2,
        p: 1.4,
        bgcolor: 'background.paper',
        fontSize: 16,
        lineHeight: 1.3,
      }}
    >
      <Box sx={{ fontWeight: 800, color: 'shop.hot', fontSize: 18 }}>Flames that stay?</Box>
      <Box component="ol" sx={{ m: 0, pl: 2.6, '& li': { py: 0.2 } }}>
        <li>
          <b>Stop</b>, air off
        </li>
        <li>
          <b>Lid shut</b>: let it choke
        </li>
        <li>
          <b>Blanket</b>, then extinguisher
        </li>
      </Box>
    </Box>
  )
}
