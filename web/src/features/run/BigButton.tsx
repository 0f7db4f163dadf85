import { Box, ButtonBase } from '@mui/material'
import { EDGE, TYPE, WEIGHT } from '../../theme/tokens.ts'

interface Props {
  readonly title: string
  readonly detail: string
  readonly kind?: 'plain' | 'main' | 'hot' | 'dark'
  readonly disabled?: boolean
  readonly onClick: () => void
  readonly testid: string
}

/** A button for dusty hands, read from two metres. */
export function BigButton({ title, detail, kind = 'plain', disabled = false, onClick, testid }: Props) {
  const fill = { plain: 'background.paper', main: 'primary.main', hot: 'shop.hot', dark: 'text.primary' }[kind]
  const ink = kind === 'plain' ? 'text.primary' : 'shop.halo'
  return (
    <ButtonBase
      onClick={onClick}
      disabled={disabled}
      data-testid={testid}
      sx={{
        flex: '1 1 0',
        minWidth: 0,
        minHeight: 88,
        borderRadius: `${EDGE.card}px`,
        border: 2,
        borderColor: kind === 'plain' || disabled ? 'divider' : fill,
        bgcolor: disabled ? 'transparent' : fill,
        color: disabled ? 'text.secondary' : ink,
        display: 'grid',
        alignContent: 'center',
        px: 1,
        '&:focus-visible': { outlineOffset: 3 },
      }}
    >
      <Box component="span" sx={{ fontSize: TYPE.figure, fontWeight: WEIGHT.strong, lineHeight: 1.2 }}>
        {title}
      </Box>
      <Box component="span" sx={{ fontSize: TYPE.small, textAlign: 'center' }}>
        {detail}
      </Box>
    </ButtonBase>
  )
}
