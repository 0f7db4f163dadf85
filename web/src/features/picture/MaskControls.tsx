import { Box, Button, MenuItem, Slider, TextField, ToggleButton, ToggleButtonGroup, Tooltip } from '@mui/material'
import { type JobDocument, pictureNode, RANGES, type TreatmentStep, withMask, withStep } from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Quiet } from '../../parts/words.tsx'
import { TYPE } from '../../theme/tokens.ts'
import { ValueSlider } from '../details/ValueSlider.tsx'
import { SHOWS_EMPTY } from '../field/shows-empty.ts'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'
import type { MaskTool } from './mask-sketch.ts'
import type { MaskHand } from './use-mask-tool.tsx'

interface Props {
  readonly job: JobDocument
  readonly node: string
  readonly id: string
  readonly step: TreatmentStep
  readonly hand: MaskHand | null
  readonly onHand: (hand: MaskHand | null) => void
}

const TOOLS: readonly (readonly [MaskTool, string, string])[] = [
  ['brush', 'Brush', 'Paint with a round brush; each stroke can be undone'],
  ['rectangle', 'Box', 'Drag a rectangle'],
  ['polygon', 'Polygon', 'Click corners; Enter closes it'],
  ['bezier', 'Curve', 'Click, or press and drag for a bend; Enter closes it'],
  ['edges', 'Edges', 'Click a few points on an edge: the line between keeps to it; Enter closes it'],
  ['tone', 'Same tone', 'Click a place: everything of nearly its tone that hangs together with it'],
]

const FIRST: MaskHand = { tool: 'brush', add: true, radius: 16, tolerance: 0.08 }

/** What a step is limited to, and the hand that draws it. */
export function MaskControls({ job, node, id, step, hand, onHand }: Props) {
  const edit = useEdit()
  const { masks } = pictureNode(job, node)
  const mask = step.mask ? masks[step.mask] : undefined
  const choose = (value: string): void => {
    if (value === '') {
      onHand(null)
      edit('limit to nothing', (base) => withStep(base, node, id, { mask: undefined, outside: undefined }))
      return
    }
    if (value !== 'new') {
      edit('limit to a mask', (base) => withStep(base, node, id, { mask: value }))
      return
    }
    const name = `mask ${Object.keys(masks).length + 1}`
    const maskId = newId()
    edit('a new mask', (base) =>
      withStep(withMask(base, node, maskId, { name, feather: 0, parts: {}, order: [] }), node, id, { mask: maskId }),
    )
    onHand(hand ?? FIRST)
  }
  return (
    <Box sx={{ mt: 1, pt: 1, borderTop: 1, borderColor: 'divider' }}>
      <TextField
        select
        size="small"
        fullWidth
        label={step.kind === 'clear' ? 'Takes away' : 'Limited to'}
        value={step.mask ?? ''}
        slotProps={SHOWS_EMPTY}
        onChange={(event) => choose(event.target.value)}
        data-testid="mask-choice"
      >
        {step.kind !== 'clear' && <MenuItem value="">the whole picture</MenuItem>}
        {Object.entries(masks).map(([maskId, { name }]) => (
          <MenuItem key={maskId} value={maskId}>
            {name}
          </MenuItem>
        ))}
        <MenuItem value="new">a new mask …</MenuItem>
      </TextField>
      {mask && step.mask && (
        <>
          <SwitchRow
            label="Everywhere but there"
            on={step.outside ?? false}
            onSwitch={(outside) =>
              edit(outside ? 'outside the mask' : 'inside the mask', (base) => withStep(base, node, id, { outside }))
            }
          />
          <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', gap: 0.6, my: 0.8 }}>
            {TOOLS.map(([tool, name, hint]) => (
              <Tooltip key={tool} title={hint}>
                <ToggleButton
                  size="small"
                  value={tool}
                  selected={hand?.tool === tool}
                  onChange={() => onHand(hand?.tool === tool ? null : { ...(hand ?? FIRST), tool })}
                  data-testid={`mask-${tool}`}
                  sx={{ fontSize: TYPE.small }}
                >
                  {name}
                </ToggleButton>
              </Tooltip>
            ))}
          </Box>
          {hand && (
            <ToggleButtonGroup
              exclusive
              fullWidth
              size="small"
              value={hand.add}
              onChange={(_, add) => add !== null && onHand({ ...hand, add })}
              aria-label="What drawing does"
            >
              <ToggleButton value={true}>{step.kind === 'clear' ? 'Paint out' : 'Add to it'}</ToggleButton>
              <ToggleButton value={false}>{step.kind === 'clear' ? 'Keep in' : 'Take from it'}</ToggleButton>
            </ToggleButtonGroup>
          )}
          {hand?.tool === 'brush' && (
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: TYPE.small, color: 'text.secondary', mt: 0.6 }}>
              Brush
              <Slider
                size="small"
                aria-label="Size of the brush"
                value={hand.radius}
                min={2}
                max={80}
                onChange={(_, radius) => onHand({ ...hand, radius: radius as number })}
              />
              <b>{hand.radius}</b>
            </Box>
          )}
          {hand?.tool === 'tone' && (
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: TYPE.small, color: 'text.secondary', mt: 0.6 }}>
              Tolerance
              <Slider
                size="small"
                aria-label="Tolerance of tones"
                value={Math.round(hand.tolerance * 100)}
                min={1}
                max={40}
                onChange={(_, v) => onHand({ ...hand, tolerance: (v as number) / 100 })}
              />
              <b>{Math.round(hand.tolerance * 100)} %</b>
            </Box>
          )}
          <Quiet top="tight">
            Soft edge <b>{mask.feather} px</b>
          </Quiet>
          <ValueSlider
            label="Soft edge"
            value={mask.feather}
            min={RANGES.featherPx.min}
            max={120}
            step={1}
            text={(v) => `${v} px`}
            change={(feather) => (base) =>
              step.mask ? withMask(base, node, step.mask, { ...pictureNode(base, node).masks[step.mask], feather }) : base
            }
            name={(v) => `soft edge ${v} px`}
          />
          {mask.order.length > 0 && (
            <Button
              size="small"
              onClick={() =>
                edit('empty the mask', (base) =>
                  step.mask
                    ? withMask(base, node, step.mask, { ...pictureNode(base, node).masks[step.mask], parts: {}, order: [] })
                    : base,
                )
              }
            >
              Empty it ({mask.order.length} {mask.order.length === 1 ? 'part' : 'parts'})
            </Button>
          )}
        </>
      )}
    </Box>
  )
}
