import { Box, Typography } from '@mui/material'

const CLOSING = [
  ['exhaust', 'The exhaust runs on until the smoke is gone', 'exhaust'],
  ['bed', 'Piece and scraps are out, the bed is clean', 'bed'],
  ['off', 'The machine is off, or somebody stays', 'machine off or watched'],
] as const

/** What of the closing list nobody has seen to, in a word each. */
export const openClosing = (closing: readonly string[]): readonly string[] =>
  CLOSING.flatMap(([item, , short]) => (closing.includes(item) ? [] : [short]))

/** What is seen to when a run is over. */
export function ClosingList({
  closing,
  onTick,
}: {
  readonly closing: readonly string[]
  readonly onTick: (item: string, seen: boolean) => void
}) {
  return (
    <Box component="section" aria-label="Closing list">
      <Typography variant="h3">When all is well</Typography>
      {CLOSING.map(([item, title]) => (
        <Box
          component="label"
          key={item}
          sx={{
            display: 'flex',
            gap: 1.2,
            alignItems: 'center',
            minHeight: 44,
            borderBottom: 1,
            borderColor: 'divider',
            cursor: 'pointer',
          }}
        >
          <input
            type="checkbox"
            checked={closing.includes(item)}
            onChange={(event) => onTick(item, event.target.checked)}
            style={{ width: 22, height: 22, flex: 'none' }}
            data-testid={`closing-${item}`}
          />
          {title}
        </Box>
      ))}
    </Box>
  )
}
