import { styled, ToggleButton } from '@mui/material'
import { SPACE } from '../theme/tokens.ts'

/** A tool that stands for itself: taken in hand, or not. */
export const ToolToggle = styled(ToggleButton)(({ theme: { palette } }) => ({
  padding: `2px ${SPACE.snug}px`,
  border: `1px solid ${palette.divider}`,
  backgroundColor: palette.background.paper,
  '&.Mui-selected': { backgroundColor: palette.shop.selected, borderColor: palette.primary.main },
}))
