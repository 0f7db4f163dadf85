import { Box, InputBase } from '@mui/material'
import type { Range } from '@neotaxis/core'
import { EDGE, TYPE, WEIGHT } from '../../theme/tokens.ts'
import type { Measure } from '../field/measures.ts'
import { outside } from '../field/refusal.ts'
import { useTyped } from '../field/use-typed.ts'

interface Props {
  readonly label: string
  readonly value: number
  readonly as: Measure
  readonly range: Range
  readonly onTake: (value: number) => void
  /** Nothing is typed any more. */
  readonly onEnd: () => void
}

/** A number of a dimension line while it is typed. */
export function MeasureInput({ label, value, as, range, onTake, onEnd }: Props) {
  const { input, text, error, type, take } = useTyped(value, as, onTake, outside(label, as, range))
  return (
    <>
      <InputBase
        autoFocus
        inputRef={input}
        value={text}
        onFocus={(event) => event.target.select()}
        onChange={(event) => type(event.target.value)}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Escape' || (event.key === 'Enter' && take())) onEnd()
        }}
        onBlur={() => error === null && take() && onEnd()}
        endAdornment={
          <Box component="span" sx={{ color: 'text.secondary', fontSize: TYPE.small, ml: 0.5 }}>
            {as.unit}
          </Box>
        }
        inputProps={{ 'aria-label': label, 'aria-invalid': error !== null }}
        sx={{
          bgcolor: 'background.paper',
          border: 2,
          borderColor: error ? 'error.main' : 'primary.main',
          borderRadius: `${EDGE.small}px`,
          px: 1,
          width: 108,
          fontWeight: WEIGHT.strong,
          '& input': { p: 0.2 },
        }}
      />
      {error && (
        <Box
          role="alert"
          sx={{
            position: 'absolute',
            top: '100%',
            left: 0,
            mt: 0.5,
            width: 220,
            bgcolor: 'background.paper',
            color: 'error.main',
            border: 1,
            borderColor: 'error.main',
            borderRadius: `${EDGE.small}px`,
            p: 0.8,
            fontSize: TYPE.small,
          }}
        >
          {error}
        </Box>
      )}
    </>
  )
}
