import MoreIcon from '@mui/icons-material/ExpandMore'
import { Button, ButtonGroup, Divider, Menu, MenuItem, Tooltip } from '@mui/material'
import { type CardKind, cardKinds, type JobDocument } from '@neotaxis/core'
import { useRef, useState } from 'react'
import { cardOfTrials, stripOfTrials } from '../../workers/engine.ts'
import type { TrialMade } from '../../workers/trials-made.ts'
import { ChosenTrials } from './ChosenTrials.tsx'
import { useTrial } from './use-trial.ts'

const WORDS: Readonly<Record<CardKind, { readonly name: string; readonly what: string }>> = {
  'power-speed': { name: 'Power and speed', what: 'five by five, around what is set' },
  wedge: { name: 'Step wedge', what: 'ten powers up to what is set: for depths and tones' },
  'turn-on': { name: 'Turn-on ramp', what: 'the weakest powers, until it marks' },
  interval: { name: 'Line interval', what: 'from half to twice what is set' },
  passes: { name: 'Passes', what: 'one to five' },
  pulses: { name: 'Pulses and speed', what: 'over all that the source can' },
  focus: { name: 'Focus ramp', what: 'the lens from under its focus to over it' },
  kerf: { name: 'Slots', what: 'cut at five speeds, to measure how wide they are' },
}

/** One press from an operation to a card that tries its settings on scrap: a job of its own. What is tried may be chosen. */
export function TryOnCard({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const { making, make, scraps } = useTrial(id)
  const [open, setOpen] = useState(false)
  const [choosing, setChoosing] = useState(false)
  const more = useRef<HTMLButtonElement>(null)
  const kinds = cardKinds(job, id)
  const begin = (trial: () => Promise<TrialMade>): void => {
    setOpen(false)
    setChoosing(false)
    void make(trial)
  }
  return (
    <>
      <ButtonGroup fullWidth variant="outlined" color="secondary" disabled={making} style={{ marginTop: 4, marginBottom: 8 }}>
        <Button onClick={() => begin(() => cardOfTrials(job, id, 'power-speed'))} data-testid="try-on-card">
          Try it on a card of scrap
        </Button>
        <Tooltip title="What is tried on it">
          <Button
            ref={more}
            style={{ flex: '0 0 40px', padding: 0 }}
            onClick={() => setOpen(true)}
            aria-label="What is tried on the card"
            aria-haspopup="menu"
            data-testid="try-what"
          >
            <MoreIcon fontSize="small" />
          </Button>
        </Tooltip>
      </ButtonGroup>
      <Menu anchorEl={() => more.current!} open={open} onClose={() => setOpen(false)}>
        <MenuItem onClick={() => begin(() => stripOfTrials(job, id))} data-testid="try-strip">
          <span>
            <b>A strip of this artwork</b>: its hardest patch, three powers by three speeds
          </span>
        </MenuItem>
        {kinds.map((kind) => (
          <MenuItem key={kind} onClick={() => begin(() => cardOfTrials(job, id, kind))} data-testid={`try-${kind}`}>
            <span>
              <b>{WORDS[kind].name}</b>: {WORDS[kind].what}
            </span>
          </MenuItem>
        ))}
        <Divider />
        <MenuItem
          onClick={() => {
            setOpen(false)
            setChoosing(true)
          }}
          data-testid="try-chosen"
        >
          <span>
            <b>Chosen settings…</b>: up to three against each other, on scrap of any material
          </span>
        </MenuItem>
      </Menu>
      {choosing && <ChosenTrials job={job} id={id} scraps={scraps} onBegin={begin} onClose={() => setChoosing(false)} />}
    </>
  )
}
