import CheckIcon from '@mui/icons-material/Check'
import { Box, Button, ButtonBase, Typography } from '@mui/material'
import type { PreflightItem } from '@neotaxis/core'

interface Props {
  readonly items: readonly PreflightItem[]
  readonly answers: ReadonlySet<string>
  readonly stops: readonly string[]
  readonly onAnswer: (id: string, yes: boolean) => void
  readonly onAll: () => void
  readonly onFocus?: () => void
}

/** What must be seen to before this start. */
export function PreflightList({ items, answers, stops, onAnswer, onAll, onFocus }: Props) {
  const done = items.filter(({ id }) => answers.has(id)).length
  const routine = items.filter(({ kind }) => kind === 'routine')
  return (
    <Box component="section" aria-label="Before this start">
      <Box sx={{ display: 'flex', alignItems: 'center', mb: 0.5 }}>
        <Typography variant="h3" sx={{ flex: 1 }} data-testid="preflight-count">
          Before this start, {done} of {items.length}
        </Typography>
        <Button size="small" onClick={onAll} disabled={routine.every(({ id }) => answers.has(id))} data-testid="preflight-all">
          Routine seen to
        </Button>
      </Box>
      {stops.map((stop) => (
        <Box key={stop} role="alert" sx={{ border: 2, borderColor: 'shop.stop', borderRadius: 1.5, p: 1.2, mb: 1, fontSize: 14 }}>
          <b>Cannot run:</b> {stop}
        </Box>
      ))}
      {items.map(({ id, title, detail, action, kind }) => {
        const yes = answers.has(id)
        return (
          <Box
            key={id}
            sx={{
              display: 'flex',
              borderBottom: 1,
              borderColor: 'divider',
              alignItems: 'stretch',
              ...(kind === 'asked' && !yes && { borderLeft: 4, borderLeftColor: 'shop.ask', pl: 1 }),
            }}
          >
            <ButtonBase
              role="checkbox"
              aria-checked={yes}
              onClick={() => onAnswer(id, !yes)}
              data-testid={`preflight-${id}`}
              sx={{ flex: 1, justifyContent: 'start', textAlign: 'left', gap: 1.4, py: 0.9, minHeight: 48 }}
            >
              <Box
                sx={{
                  flex: 'none',
                  width: 26,
                  height: 26,
                  borderRadius: 1,
                  border: 2,
                  borderColor: yes ? 'primary.main' : 'text.secondary',
                  bgcolor: yes ? 'primary.main' : 'transparent',
                  color: 'primary.contrastText',
                  display: 'grid',
                  placeItems: 'center',
                }}
              >
                {yes && <CheckIcon sx={{ fontSize: 20 }} />}
              </Box>
              <span>
                <Box component="span" sx={{ display: 'block', fontWeight: 650, lineHeight: 1.25 }}>
                  {title}
                </Box>
                <Box component="span" sx={{ fontSize: 12.5, color: 'text.secondary' }}>
                  {detail}
                </Box>
              </span>
            </ButtonBase>
            {action === 'focus' && onFocus && (
              <Button size="small" onClick={onFocus} sx={{ alignSelf: 'center', minHeight: 44 }} data-testid="to-focus">
                Go there
              </Button>
            )}
          </Box>
        )
      })}
    </Box>
  )
}
