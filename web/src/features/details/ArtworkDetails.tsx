import { Box, Button, MenuItem, Switch, TextField, Tooltip, Typography } from '@mui/material'
import {
  activeSteps,
  formatLength,
  isRoot,
  type JobDocument,
  type OffsetNode,
  type PictureNode,
  RANGES,
  type TraceNode,
  withNode,
} from '@neotaxis/core'
import { Link, useParams } from 'react-router'
import { useSelector } from '../../store/hooks.ts'
import { CountField, LengthField, PercentField } from '../field/quantities.tsx'
import { dotsWords, STEP_NAMES, stepWords } from '../picture/step-words.ts'
import { useEdit } from '../use-edit.ts'
import { ValueSlider } from './ValueSlider.tsx'

const Heading = ({ children }: { readonly children: React.ReactNode }) => (
  <Typography variant="h3" component="h3" sx={{ mt: 2.2, mb: 0.4 }}>
    {children}
  </Typography>
)

/** What a piece of artwork was made with, and what that was made from, up to its source: all can be changed. */
export function ArtworkDetails({ job, node: first }: { readonly job: JobDocument; readonly node: string }) {
  const chain: string[] = []
  for (let id: string | undefined = first; id; ) {
    chain.push(id)
    const node: JobDocument['nodes'][string] = job.nodes[id]
    id = isRoot(node) ? undefined : node.from
  }
  return chain.map((id) => {
    const node = job.nodes[id]
    if (node.kind === 'offset') return <OffsetDetails key={id} id={id} node={node} />
    if (node.kind === 'trace') return <TraceDetails key={id} job={job} id={id} node={node} />
    if (node.kind === 'picture') return <PictureDetails key={id} id={id} node={node} />
    return null
  })
}

function OffsetDetails({ id, node }: { readonly id: string; readonly node: OffsetNode }) {
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  // A name that only told the distance goes on telling it.
  const named = (distanceMm: number): Partial<OffsetNode> => ({
    distanceMm,
    name: node.name.replace(
      /[+−-] ?[\d.]+ (mm|in)$/,
      `${distanceMm < 0 ? '−' : '+'} ${Number(Math.abs(distanceMm).toFixed(2))} mm`,
    ),
  })
  return (
    <>
      <Heading>Distance of “{node.name}”</Heading>
      <LengthField
        label="Distance"
        value={node.distanceMm}
        range={RANGES.distanceMm}
        digits={2}
        step={0.5}
        hint="How far outside the outline; negative is inside."
        onCommit={(v) => edit(`distance ${formatLength(v, unit)}`, (base) => withNode(base, id, named(v)))}
      />
      <ValueSlider
        label="Distance"
        value={node.distanceMm}
        min={-5}
        max={20}
        step={0.1}
        text={(v) => formatLength(v, unit)}
        change={(v) => (base) => withNode(base, id, named(v))}
        name={(v) => `distance ${formatLength(v, unit)}`}
      />
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Box component="label" htmlFor={`outermost-${id}`} sx={{ flex: 1 }}>
          Outermost edge only
        </Box>
        <Switch
          size="small"
          id={`outermost-${id}`}
          checked={node.outermost}
          onChange={(_, on) => edit(on ? 'outermost edge only' : 'all edges', (base) => withNode(base, id, { outermost: on }))}
        />
      </Box>
    </>
  )
}

function TraceDetails({ job, id, node }: { readonly job: JobDocument; readonly id: string; readonly node: TraceNode }) {
  const edit = useEdit()
  const source = job.nodes[node.from]
  const alpha = source.kind === 'source' && source.hasAlpha
  const set = (threshold: number) => (base: JobDocument) => withNode(base, id, { threshold })
  return (
    <>
      <Heading>Trace of “{source.name}”</Heading>
      <PercentField
        label="Threshold"
        value={node.threshold}
        range={RANGES.threshold}
        hint={node.channel === 'alpha' ? 'Opacity from which a pixel counts.' : 'Lightness below which a pixel counts as dark.'}
        onCommit={(v) => edit(`threshold ${Math.round(v * 100)} %`, set(v))}
      />
      <ValueSlider
        label="Threshold"
        value={node.threshold}
        min={RANGES.threshold.min}
        max={RANGES.threshold.max}
        step={0.01}
        text={(v) => `${Math.round(v * 100)} %`}
        change={set}
        name={(v) => `threshold ${Math.round(v * 100)} %`}
      />
      {alpha && (
        <TextField
          select
          size="small"
          fullWidth
          label="Traced from"
          value={node.channel}
          onChange={(event) =>
            edit('trace another channel', (base) => withNode(base, id, { channel: event.target.value as TraceNode['channel'] }))
          }
          sx={{ mb: 1 }}
        >
          <MenuItem value="alpha">its transparency</MenuItem>
          <MenuItem value="grey">its darkness</MenuItem>
        </TextField>
      )}
      <CountField
        label="Specks under"
        unit="mm²"
        value={node.minAreaMm2}
        range={RANGES.minAreaMm2}
        onCommit={(v) => edit('drop specks', (base) => withNode(base, id, { minAreaMm2: v }))}
      />
    </>
  )
}

/** What is done to the picture, in words; the bench is where it is changed. */
function PictureDetails({ id, node }: { readonly id: string; readonly node: PictureNode }) {
  const { id: job = '' } = useParams()
  return (
    <>
      <Heading>Treatment of “{node.name}”</Heading>
      <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none', fontSize: 13.5 }}>
        {activeSteps(node).map((step, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the order is what they are
          <Box component="li" key={i} sx={{ py: 0.4 }}>
            <b>{STEP_NAMES[step.kind]}</b>{' '}
            <Box component="span" sx={{ color: 'text.secondary' }}>
              {stepWords(step)}
            </Box>
          </Box>
        ))}
        <Box component="li" sx={{ py: 0.4 }}>
          <b>Dots</b>{' '}
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {dotsWords(node.dots)}
          </Box>
        </Box>
      </Box>
      <Tooltip title="Crop, tones, dots, masks: on the picture bench  (B)">
        <Button
          component={Link}
          to={`/jobs/${job}/picture/${id}`}
          fullWidth
          variant="outlined"
          color="secondary"
          data-testid="open-bench"
          sx={{ mt: 0.8, borderColor: 'divider', bgcolor: 'background.paper' }}
        >
          Treat this picture
        </Button>
      </Tooltip>
    </>
  )
}
