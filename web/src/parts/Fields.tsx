import { styled } from '@mui/material'
import { SPACE } from '../theme/tokens.ts'

/** As many fields beside each other as have room. */
export const Fields = styled('div')({
  display: 'grid',
  gridTemplateColumns: 'repeat(auto-fill, minmax(170px, 1fr))',
  gap: SPACE.room,
  alignItems: 'start',
})
