import { Box, Button, ButtonBase, Tooltip } from '@mui/material'
import { type JobDocument, type TraceNode, withNode } from '@neotaxis/core'
import { EDGE } from '../../theme/tokens.ts'
import { tracePalette } from '../../workers/engine.ts'
import { CountField } from '../field/quantities.tsx'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'

const COUNT = { min: 2, max: 32 }
/** Colours of a palette to begin with. */
export const FIRST_COLOURS = 5

interface Props {
  readonly job: JobDocument
  readonly id: string
  readonly node: TraceNode
}

/** The palette that a picture is parted by, and which of its colours are meant; an outline can be made of each. */
export function ColourFields({ job, id, node }: Props) {
  const edit = useEdit()
  const palette = node.palette ?? []
  const chosen = node.chosen ?? []
  const another = async (count: number): Promise<void> => {
    const found = await tracePalette(job, id, count)
    edit(`${count} colours`, (base) => withNode(base, id, found))
  }
  const toggle = (label: number): void =>
    edit(chosen.includes(label) ? 'leave a colour out' : 'take a colour in', (base) => {
      const now = base.nodes[id]
      if (now.kind !== 'trace') return base
      const list = now.chosen ?? []
      return withNode(base, id, {
        chosen: list.includes(label) ? list.filter((each) => each !== label) : [...list, label].sort((a, b) => a - b),
      })
    })
  const each = (): void => {
    const ids = chosen.map(newId)
    edit('an outline for each colour', (base) => {
      const now = base.nodes[id]
      if (now.kind !== 'trace') return base
      return {
        ...base,
        nodes: {
          ...base.nodes,
          ...Object.fromEntries(chosen.map((label, i) => [ids[i], { ...now, name: `colour ${label + 1}`, chosen: [label] }])),
        },
      }
    })
  }
  return (
    <>
      <CountField label="Colours" value={palette.length} range={COUNT} onCommit={(count) => void another(count)} />
      <Box role="group" aria-label="Colours that are meant" sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.8, py: 1 }}>
        {palette.map((rgb, label) => {
          const on = chosen.includes(label)
          return (
            <Tooltip key={rgb.join()} title={on ? 'Meant: press to leave it out' : 'Left out: press to take it in'}>
              <ButtonBase
                aria-pressed={on}
                aria-label={`Colour ${label + 1}, red ${rgb[0]}, green ${rgb[1]}, blue ${rgb[2]}`}
                onClick={() => toggle(label)}
                data-testid={`colour-${label}`}
                sx={{
                  width: 34,
                  height: 34,
                  borderRadius: `${EDGE.small}px`,
                  bgcolor: `rgb(${rgb.join(' ')})`,
                  border: on ? 3 : 1,
                  borderColor: on ? 'primary.main' : 'divider',
                  opacity: on ? 1 : 0.45,
                }}
              />
            </Tooltip>
          )
        })}
      </Box>
      {chosen.length > 1 && (
        <Button size="small" onClick={each} data-testid="each-colour">
          An outline for each
        </Button>
      )}
    </>
  )
}
