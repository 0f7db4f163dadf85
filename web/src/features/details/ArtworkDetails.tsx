import { Box, MenuItem, Switch, TextField, Typography } from '@mui/material'
import {
  formatLength,
  isRoot,
  type JobDocument,
  type OffsetNode,
  type PictureNode,
  RANGES,
  type TraceNode,
  withNode,
} from '@neotaxis/core'
import { useSelector } from '../../store/hooks.ts'
import { CountField, LengthField, PercentField } from '../field/quantities.tsx'
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

function PictureDetails({ id, node }: { readonly id: string; readonly node: PictureNode }) {
  const edit = useEdit()
  const { tone } = node
  const set = (change: Partial<PictureNode['tone']>) => (base: JobDocument) => {
    const now = base.nodes[id]
    return now.kind === 'picture' ? withNode(base, id, { tone: { ...now.tone, ...change } }) : base
  }
  return (
    <>
      <Heading>Tones of “{node.name}”</Heading>
      <CountField
        label="Black at"
        value={tone.black}
        range={{ min: 0, max: tone.white - 1 }}
        onCommit={(black) => edit(`black at ${black}`, set({ black }))}
      />
      <CountField
        label="White at"
        value={tone.white}
        range={{ min: tone.black + 1, max: 255 }}
        onCommit={(white) => edit(`white at ${white}`, set({ white }))}
      />
      <Box sx={{ pt: 1, color: 'text.secondary', fontSize: 12.5 }}>Middle tones, gamma {tone.gamma.toFixed(2)}</Box>
      <ValueSlider
        label="Gamma"
        value={tone.gamma}
        min={0.3}
        max={3}
        step={0.05}
        text={(v) => v.toFixed(2)}
        change={(gamma) => set({ gamma })}
        name={(v) => `gamma ${v.toFixed(2)}`}
      />
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Box component="label" htmlFor={`invert-${id}`} sx={{ flex: 1 }}>
          Invert: burn what is light
        </Box>
        <Switch
          size="small"
          id={`invert-${id}`}
          checked={tone.invert}
          onChange={(_, on) => edit(on ? 'invert' : 'not inverted', set({ invert: on }))}
        />
      </Box>
      <TextField
        select
        size="small"
        fullWidth
        label="Dots"
        value={node.kernel}
        onChange={(event) =>
          edit('other dots', (base) => withNode(base, id, { kernel: event.target.value as PictureNode['kernel'] }))
        }
        sx={{ mt: 1 }}
      >
        <MenuItem value="floyd-steinberg">Floyd–Steinberg</MenuItem>
        <MenuItem value="threshold">black or nothing</MenuItem>
        <MenuItem value="none">none: grey as power</MenuItem>
      </TextField>
    </>
  )
}
