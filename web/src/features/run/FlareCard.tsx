import { Box } from '@mui/material'
import { Card } from '../../parts/Card.tsx'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'

/** What to do when it flares up: one glance away while the beam may be on. */
export function FlareCard() {
  return (
    <Card mark="hot" as="section" aria-label="If it flares up">
      <Box sx={{ fontWeight: WEIGHT.heavy, color: 'shop.hot', fontSize: TYPE.title }}>Flames that stay?</Box>
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
    </Card>
  )
}
