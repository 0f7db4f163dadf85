import { MenuItem, TextField, Typography } from '@mui/material'
import { askedBy, isOutline, type JobDocument, partsPrograms, RANGES, type Step, stepAs, tellArtwork } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { Words } from '../../parts/words.tsx'
import { Choice } from '../field/Choice.tsx'
import { CountField, LengthField } from '../field/quantities.tsx'
import { asKind, STOP_WORDS, type Stop, type StopKind, worded } from '../run-line/step-words.ts'
import { useEdit } from '../use-edit.ts'
import { ElsewhereFile } from './ElsewhereFile.tsx'

const KINDS = Object.fromEntries(
  (Object.keys(STOP_WORDS) as StopKind[]).map((kind) => [kind, STOP_WORDS[kind].name.toLowerCase()]),
) as Record<StopKind, string>

const WANTED = { parts: 'the parts within the outlines', sheet: 'the sheet they open' } as const

/** What the machine waits for: what is to be done, by whom, and with what. */
export function StepDetails({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const step = job.steps[id] as Stop
  return (
    <>
      <Typography variant="h2">{STOP_WORDS[step.kind].name}</Typography>
      <Words tone="quiet" bottom="snug">
        {STOP_WORDS[step.kind].hint}
      </Words>
      <StopFields job={job} id={id} />
    </>
  )
}

/** The fields of a step at which the machine waits. */
export function StopFields({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const step = job.steps[id] as Stop
  const asked = askedBy(step) ?? ''
  const [text, setText] = useState(asked)
  useEffect(() => setText(asked), [asked])
  const set = (name: string, next: Step): void => edit(name, (base) => stepAs(base, id, next))
  return (
    <>
      <TextField
        fullWidth
        size="small"
        multiline
        label="What is to be done"
        value={text}
        onChange={(event) => setText(event.target.value.replace(/\n/g, ' ').slice(0, 300))}
        onBlur={() => text !== asked && text.trim() !== '' && set('words of the step', worded(step, text.trim()))}
        margin="dense"
      />
      <Choice
        label="It is"
        value={step.kind}
        options={KINDS}
        onChoose={(to) => set(`it is ${KINDS[to]}`, asKind(step, to))}
        testId="stop-kind"
      />
      {step.kind === 'by-hand' && (
        <CountField
          label="Minutes"
          value={step.minutes}
          range={RANGES.minutes}
          onCommit={(v) => set(`${v} minutes`, { ...step, minutes: v })}
        />
      )}
      {step.kind === 'elsewhere' && <ElsewhereFields job={job} id={id} step={step} />}
      {partsPrograms(step) && (
        <Words tone="quiet" top="snug">
          What comes after it is a program file of its own, with its own list before the start.
        </Words>
      )}
    </>
  )
}

function ElsewhereFields({
  job,
  id,
  step,
}: {
  readonly job: JobDocument
  readonly id: string
  readonly step: Extract<Stop, { kind: 'elsewhere' }>
}) {
  const edit = useEdit()
  const set = (name: string, change: Partial<typeof step>): void => edit(name, (base) => stepAs(base, id, { ...step, ...change }))
  const outlines = Object.keys(job.nodes).filter((node) => isOutline(job.nodes[node]))
  const [tool, setTool] = useState(step.tool)
  useEffect(() => setTool(step.tool), [step.tool])
  return (
    <>
      <TextField
        fullWidth
        size="small"
        label="Tool"
        value={tool}
        onChange={(event) => setTool(event.target.value.slice(0, 200))}
        onBlur={() => tool !== step.tool && set('another tool', { tool })}
        margin="dense"
      />
      <TextField
        select
        fullWidth
        size="small"
        label="It cuts"
        value={[...(step.of ?? [])]}
        onChange={(event) => set('what it cuts', { of: event.target.value as unknown as string[] })}
        slotProps={{ select: { multiple: true } }}
        margin="dense"
        data-testid="elsewhere-of"
      >
        {outlines.map((node) => (
          <MenuItem key={node} value={node} dense>
            {tellArtwork(job, node)}
          </MenuItem>
        ))}
      </TextField>
      <LengthField
        label="Tool diameter"
        value={step.toolMm ?? 3}
        range={RANGES.toolMm}
        digits={2}
        step={0.5}
        hint="Its path keeps half of it away from what is wanted."
        onCommit={(v) => set('tool diameter', { toolMm: v })}
      />
      <Choice
        label="What is wanted"
        value={step.keeps ?? 'parts'}
        options={WANTED}
        onChoose={(to) =>
          set(to === 'sheet' ? 'the sheet is wanted' : 'the parts are wanted', { keeps: to === 'sheet' ? 'sheet' : undefined })
        }
        testId="elsewhere-keeps"
      />
      <ElsewhereFile job={job} id={id} />
    </>
  )
}
