import CheckIcon from '@mui/icons-material/Check'
import { Box, Button, ButtonBase } from '@mui/material'
import type { PreflightItem } from '@neotaxis/core'
import { Card } from '../../parts/Card.tsx'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet } from '../../parts/words.tsx'
import { EDGE, TYPE, WEIGHT } from '../../theme/tokens.ts'

interface Props {
  readonly title?: string
  readonly items: readonly PreflightItem[]
  readonly answers: ReadonlySet<string>
  readonly stops: readonly string[]
  readonly onAnswer: (id: string, yes: boolean) => void
  readonly onAll: () => void
  readonly onFocus?: () => void
  /** Sends the head to a place of the face, mm. */
  readonly onPlace?: ((x: number, y: number) => void) | undefined
}

/** What must be seen to before this start. */
export function PreflightList({
  title: heading = 'Before this start',
  items,
  answers,
  stops,
  onAnswer,
  onAll,
  onFocus,
  onPlace,
}: Props) {
  const done = items.filter(({ id }) => answers.has(id)).length
  const routine = items.filter(({ kind }) => kind === 'routine')
  return (
    <Box component="section" aria-label={heading}>
      <Row gap="none" bottom="tight">
        <Title variant="h3" grow data-testid="preflight-count">
          {heading}, {done} of {items.length}
        </Title>
        <Button size="small" onClick={onAll} disabled={routine.every(({ id }) => answers.has(id))} data-testid="preflight-all">
          Routine seen to
        </Button>
      </Row>
      {stops.map((stop) => (
        <Card mark="stop" key={stop} role="alert">
          <b>Cannot run:</b> {stop}
        </Card>
      ))}
      {items.map(({ id, title, detail, action, place, kind }) => {
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
                  borderRadius: `${EDGE.small}px`,
                  border: 2,
                  borderColor: yes ? 'primary.main' : 'text.secondary',
                  bgcolor: yes ? 'primary.main' : 'transparent',
                  color: 'primary.contrastText',
                  display: 'grid',
                  placeItems: 'center',
                }}
              >
                {yes && <CheckIcon sx={{ fontSize: TYPE.figure }} />}
              </Box>
              <span>
                <Box component="span" sx={{ display: 'block', fontWeight: WEIGHT.firm, lineHeight: 1.25 }}>
                  {title}
                </Box>
                <Quiet as="span">{detail}</Quiet>
              </span>
            </ButtonBase>
            {place && onPlace && <GoThere id={id} onGo={() => onPlace(...place)} />}
            {action === 'focus' && onFocus && <GoThere id="focus" onGo={onFocus} />}
          </Box>
        )
      })}
    </Box>
  )
}

const GoThere = ({ id, onGo }: { readonly id: string; readonly onGo: () => void }) => (
  <Button onClick={onGo} sx={{ alignSelf: 'center' }} size="large" data-testid={`to-${id}`}>
    Go there
  </Button>
)
