import SearchIcon from '@mui/icons-material/Search'
import { InputBase, styled } from '@mui/material'
import type { Ref } from 'react'
import { EDGE, SPACE } from '../theme/tokens.ts'
import { isOfPage } from './laid.ts'

const Round = styled('div', { shouldForwardProp: isOfPage('width') })<{ readonly width: number }>(
  ({ theme: { palette }, width }) => ({
    display: 'flex',
    alignItems: 'center',
    gap: SPACE.snug,
    flex: `0 1 ${width}px`,
    minWidth: 120,
    minHeight: 38,
    padding: `0 ${SPACE.wide}px`,
    border: `1px solid ${palette.divider}`,
    borderRadius: EDGE.pill,
    backgroundColor: palette.background.paper,
  }),
)

interface Props {
  /** What is looked for, in words. */
  readonly label: string
  readonly text: string
  readonly onText: (text: string) => void
  /** As wide as it would like to be, px. */
  readonly width?: number
  /** What stands there until something is typed, where it is not the label. */
  readonly hint?: string
  readonly field?: Ref<HTMLInputElement>
  readonly testId?: string
}

/** Where one types what is looked for. */
export function SearchField({ label, text, onText, width = 260, hint, field, testId }: Props) {
  return (
    <Round width={width}>
      <SearchIcon fontSize="small" color="disabled" />
      <InputBase
        fullWidth
        inputRef={field}
        placeholder={hint ?? label}
        value={text}
        onChange={(event) => onText(event.target.value)}
        inputProps={{ 'aria-label': label, 'data-testid': testId } as object}
      />
    </Round>
  )
}
