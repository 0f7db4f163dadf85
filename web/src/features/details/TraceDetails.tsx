import { MenuItem, TextField } from '@mui/material'
import { formatLength, INK, type JobDocument, RANGES, type TraceNode, withNode, withTraceMode } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect, useRef } from 'react'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { tracePalette } from '../../workers/engine.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { firstZone } from '../compose/use-zone-tool.tsx'
import { CountField, LengthField, PercentField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'
import { ColourFields, FIRST_COLOURS } from './ColourFields.tsx'
import { Heading } from './Heading.tsx'
import { ValueSlider } from './ValueSlider.tsx'

/** Where an edge is when nobody says: half. */
const EDGE = 0.5
/** How far below the threshold a band begins at first. */
const BAND = 0.2

/** How outlines are found in a picture, and what came of it. */
export function TraceDetails({ job, id, node }: { readonly job: JobDocument; readonly id: string; readonly node: TraceNode }) {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  // Colours are looked for while something else may be chosen, or the outline left: only what was chosen last is taken.
  const latest = useRef(0)
  // biome-ignore lint/correctness/useExhaustiveDependencies: of another outline nothing is awaited here
  useEffect(() => () => void latest.current++, [id])
  const unit = useSelector((state) => state.view.lengthUnit)
  const numbers = useEvaluation(({ measure }) => measure?.outlines[id])
  const source = job.nodes[node.from]
  const lines = node.mode === 'centreline'
  const colours = node.mode === 'colours'
  const outline = node.mode === undefined
  const alpha = source.kind === 'source' && source.hasAlpha
  // A band stays a band: its lower end keeps under the threshold.
  const set = (threshold: number) => (base: JobDocument) => {
    const now = base.nodes[id]
    const above = now.kind === 'trace' && now.above !== undefined ? Math.min(now.above, threshold - 0.01) : undefined
    return withNode(base, id, { threshold, ...(above === undefined ? {} : { above: Math.max(0, above) }) })
  }
  const counts = node.channel === 'alpha' ? 'Opacity' : 'Lightness'
  const percent = (v: number): string => `${Math.round(v * 100)} %`
  const toggle = (name: string, label: string, on: boolean, change: (on: boolean) => Partial<TraceNode>) => (
    <SwitchRow
      testId={`trace-${name}`}
      label={label}
      on={on}
      onSwitch={(next) => edit(next ? label.toLowerCase() : `no ${name}`, (base) => withNode(base, id, change(next)))}
    />
  )
  return (
    <>
      <Heading>Trace of “{source.name}”</Heading>
      <TextField
        select
        size="small"
        fullWidth
        label="What is traced"
        value={node.mode ?? 'outline'}
        onChange={(event) => {
          const wanted = event.target.value
          const mine = ++latest.current
          if (wanted === 'colours')
            tracePalette(job, id, FIRST_COLOURS).then(
              (found) => {
                if (mine === latest.current)
                  edit('outlines of colours', (base) => withTraceMode(base, id, { ...found, mode: 'colours' }))
              },
              (cause: unknown) =>
                enqueueSnackbar(cause instanceof Error ? cause.message : 'Its colours cannot be told.', { variant: 'error' }),
            )
          else
            edit(wanted === 'centreline' ? 'lines in strokes' : 'outlines', (base) =>
              withTraceMode(base, id, { mode: wanted === 'centreline' ? 'centreline' : undefined }),
            )
        }}
        margin="dense"
        data-testid="trace-mode"
      >
        <MenuItem value="outline">outlines, to cut along</MenuItem>
        <MenuItem value="centreline">its strokes, as lines to score</MenuItem>
        <MenuItem value="colours">its colours, side by side</MenuItem>
      </TextField>
      {node.channel === 'grey' && !colours && (
        <>
          {toggle('ink', 'Ink of a page only', node.ink !== undefined, (on) => ({
            ink: on ? INK : undefined,
            threshold: EDGE,
            ...(on ? { above: undefined } : {}),
          }))}
          {node.ink && (
            <SwitchRow
              testId="trace-ruled"
              label="Ruled lines away"
              on={node.ink.ruled}
              onSwitch={(ruled) =>
                edit(ruled ? 'ruled lines away' : 'ruled lines kept', (base) =>
                  withNode(base, id, { ink: { ...INK, ...node.ink, ruled } }),
                )
              }
            />
          )}
        </>
      )}
      {colours ? (
        <ColourFields job={job} id={id} node={node} />
      ) : (
        <>
          <PercentField
            label="Threshold"
            value={node.threshold}
            range={RANGES.threshold}
            hint={
              node.channel === 'alpha'
                ? 'Opacity from which a pixel counts.'
                : node.ink
                  ? 'Half is the edge of its ink; less is thinner, more is bolder.'
                  : 'Lightness below which a pixel counts as dark.'
            }
            onCommit={(v) => edit(`threshold ${percent(v)}`, set(v))}
          />
          <ValueSlider
            label="Threshold"
            value={node.threshold}
            min={RANGES.threshold.min}
            max={RANGES.threshold.max}
            step={0.01}
            text={percent}
            change={set}
            name={(v) => `threshold ${percent(v)}`}
          />
        </>
      )}
      {outline && (
        <>
          {toggle('band', 'Only a band of tones', node.above !== undefined, (on) => ({
            above: on ? Math.max(0, Math.round(100 * (node.threshold - BAND)) / 100) : undefined,
          }))}
          {node.above !== undefined && (
            <>
              <PercentField
                label="Band from"
                value={node.above}
                range={{ min: 0, max: node.threshold - 0.01 }}
                hint={`${counts} above which a pixel counts; up to the threshold.`}
                onCommit={(above) => edit(`band from ${percent(above)}`, (base) => withNode(base, id, { above }))}
              />
              <ValueSlider
                label="Band from"
                value={node.above}
                min={0}
                max={node.threshold - 0.01}
                step={0.01}
                text={percent}
                change={(above) => (base) => withNode(base, id, { above })}
                name={(above) => `band from ${percent(above)}`}
              />
            </>
          )}
        </>
      )}
      {alpha && !colours && (
        <TextField
          select
          size="small"
          fullWidth
          label="Traced from"
          value={node.channel}
          onChange={(event) =>
            edit('trace another channel', (base) => withNode(base, id, { channel: event.target.value as TraceNode['channel'] }))
          }
          margin="dense"
        >
          <MenuItem value="alpha">its transparency</MenuItem>
          <MenuItem value="grey">its darkness</MenuItem>
        </TextField>
      )}
      {outline && (
        <>
          <LengthField
            label="Smoothing"
            value={node.smoothMm ?? 0}
            range={RANGES.smoothMm}
            digits={2}
            step={0.05}
            hint="Ripples narrower than this go; corners get rounder too."
            onCommit={(smoothMm) => edit(`smoothing ${formatLength(smoothMm, unit)}`, (base) => withNode(base, id, { smoothMm }))}
          />
          <CountField
            label="Corner from"
            unit="°"
            value={node.cornerDeg}
            range={RANGES.cornerDeg}
            onCommit={(cornerDeg) => edit('corner angle', (base) => withNode(base, id, { cornerDeg }))}
          />
        </>
      )}
      <LengthField
        label="Fit within"
        value={node.toleranceMm}
        range={RANGES.toleranceMm}
        digits={3}
        step={0.01}
        hint="How far curves may lie off the edge; 0 follows the picture's own sharpness."
        onCommit={(toleranceMm) => edit('fit of the trace', (base) => withNode(base, id, { toleranceMm }))}
      />
      {!lines && (
        <CountField
          label="Specks under"
          unit="mm²"
          digits={2}
          value={node.minAreaMm2}
          range={RANGES.minAreaMm2}
          onCommit={(v) => edit('drop specks', (base) => withNode(base, id, { minAreaMm2: v }))}
        />
      )}
      {toggle('zone', 'Only in a zone of the picture', node.zone !== undefined, (on) => ({
        zone: on ? firstZone(job, id) : undefined,
      }))}
      {numbers && (
        <Quiet top="snug" data-testid="trace-numbers">
          {numbers.paths === 0 ? (
            <b>Nothing to trace here: another threshold, or another zone.</b>
          ) : (
            <>
              <b>{numbers.paths}</b> {`${lines ? 'line' : 'outline'}${numbers.paths === 1 ? '' : 's'}`}, <b>{numbers.nodes}</b>{' '}
              nodes, <b>{formatLength(numbers.lengthMm, unit)}</b>; {lines ? 'thinnest stroke' : 'smallest'}{' '}
              {formatLength(numbers.smallestMm, unit)} {lines ? 'wide' : 'across'}.
            </>
          )}
        </Quiet>
      )}
      {numbers?.pixelMm !== undefined && numbers.pixelMm > COARSE_MM && (
        <Words size="small" weight="strong" top="tight" data-testid="trace-coarse">
          One pixel is {formatLength(numbers.pixelMm, unit)} here: edges will be soft or stepped. A larger picture, or a smaller
          size, traces better.
        </Words>
      )}
    </>
  )
}

/** Pixels larger than this show in a cut edge, mm. */
const COARSE_MM = 0.25
