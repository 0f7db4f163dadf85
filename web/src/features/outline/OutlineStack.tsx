import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core'
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { Button, Divider, Menu, MenuItem, Typography } from '@mui/material'
import {
  type CleanNode,
  cleanerOf,
  givesLines,
  isOutline,
  type JobDocument,
  othersFor,
  tellArtwork,
  withCombination,
  withOffset,
  withOutlineStep,
  withoutOutlineStep,
  withStepChanged,
  withStepMoved,
} from '@neotaxis/core'
import { type ReactNode, useRef, useState } from 'react'
import { Panel } from '../../parts/Panel.tsx'
import { Row } from '../../parts/Row.tsx'
import { useSelector } from '../../store/hooks.ts'
import type { OutlineView } from '../../workers/shared.ts'
import { OffsetDetails } from '../details/OffsetDetails.tsx'
import { TraceDetails } from '../details/TraceDetails.tsx'
import { WithinFields } from '../details/WithinFields.tsx'
import { newId } from '../new-id.ts'
import { CardBox, StepCard, useStepSensors } from '../steps/StepCards.tsx'
import { useEdit } from '../use-edit.ts'
import { BridgeFields } from './BridgeFields.tsx'
import { CombineFields } from './CombineFields.tsx'
import { OutlineStepFields } from './OutlineStepFields.tsx'
import { COMBINED, MENU_STEPS, newOutlineStep, OUTLINE_STEP_NAMES, outlineStepWords } from './outline-words.ts'
import { PartFields } from './PartFields.tsx'

interface Props {
  readonly job: JobDocument
  readonly node: string
  readonly view: OutlineView
  readonly onNode: (id: string) => void
}

/** What an outline is made of, from its picture or drawing down: every stage can be opened and changed. */
export function OutlineStack({ job, node, view, onNode }: Props) {
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  const sensors = useStepSensors()
  const [open, setOpen] = useState<string | null>(null)
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const add = useRef<HTMLButtonElement>(null)
  const chain: string[] = []
  for (let id: string | undefined = node; id && isOutline(job.nodes[id]); ) {
    chain.unshift(id)
    const each: JobDocument['nodes'][string] = job.nodes[id]
    id = isOutline(each) ? each.from : undefined
  }
  const cleaner = cleanerOf(job, node)
  const steps = cleaner ? (job.nodes[cleaner] as CleanNode) : undefined
  const addStep = (kind: (typeof MENU_STEPS)[number]): void => {
    setMenu(null)
    const ids = { step: newId(), node: newId() }
    edit(OUTLINE_STEP_NAMES[kind].toLowerCase(), (base) => withOutlineStep(base, node, newOutlineStep(kind), ids))
    setOpen(ids.step)
    if (!cleaner) onNode(ids.node)
  }
  const addOffset = (): void => {
    setMenu(null)
    const id = newId()
    edit('outline at a distance', (base) => withOffset(base, node, 3, id))
    onNode(id)
  }
  const others = othersFor(job, node)
  const addCombination = (other: string): void => {
    setMenu(null)
    const id = newId()
    // Lines part what they run through; areas are taken off.
    const op = givesLines(job, other) ? 'split' : 'subtract'
    edit('combine outlines', (base) => withCombination(base, node, other, op, id))
    onNode(id)
  }
  const cardsOf = (id: string): number => (id === cleaner ? (steps?.order.length ?? 0) : 1)
  const toggle = (id: string): void => setOpen(open === id ? null : id)
  const dropped = ({ active, over }: DragEndEvent): void => {
    if (over && active.id !== over.id && cleaner && steps)
      edit('other order of steps', (base) =>
        withStepMoved(base, cleaner, String(active.id), steps.order.indexOf(String(over.id))),
      )
  }
  return (
    <Panel side="left" as="aside" aria-label="How the outline is made, top to bottom">
      <Row gap="none" bottom="snug">
        <Typography variant="h3" component="h2" sx={{ flex: 1 }}>
          From edge to outline
        </Typography>
        <Button ref={add} size="small" onClick={() => setMenu(add.current)} data-testid="add-outline-step">
          Add a step
        </Button>
      </Row>
      {chain.map((id, at) => {
        const each = job.nodes[id]
        const first = 1 + chain.slice(0, at).reduce((sum, before) => sum + cardsOf(before), 0)
        const card = cardOf(job, id)
        if (card)
          return (
            <CardBox key={id} name={card.name} words={card.words} number={first} open={open === id} onOpen={() => toggle(id)}>
              {card.fields}
            </CardBox>
          )
        const clean = each as CleanNode
        if (id !== cleaner)
          return (
            <CardBox
              key={id}
              name="Cleaned up"
              words={`${clean.order.length} steps: open it to change them`}
              number={first}
              open={false}
              onOpen={() => onNode(id)}
            >
              {null}
            </CardBox>
          )
        return (
          <DndContext key={id} sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
            <SortableContext items={[...clean.order]} strategy={verticalListSortingStrategy}>
              {clean.order.map((stepId, index) => {
                const step = clean.steps[stepId]
                return (
                  <StepCard
                    key={stepId}
                    id={stepId}
                    number={first + index}
                    step={step}
                    name={OUTLINE_STEP_NAMES[step.kind]}
                    words={outlineStepWords(step, unit, view.reports[stepId])}
                    open={open === stepId}
                    onOpen={() => toggle(stepId)}
                    onSwitch={(on) =>
                      edit(`${OUTLINE_STEP_NAMES[step.kind].toLowerCase()} ${on ? 'on' : 'off'}`, (base) =>
                        withStepChanged(base, id, stepId, { on }),
                      )
                    }
                    onRemove={() => {
                      setOpen(null)
                      if (clean.order.length === 1) onNode(clean.from)
                      edit(`remove ${OUTLINE_STEP_NAMES[step.kind].toLowerCase()}`, (base) =>
                        withoutOutlineStep(base, id, stepId),
                      )
                    }}
                  >
                    <OutlineStepFields cleaner={id} id={stepId} step={step} />
                  </StepCard>
                )
              })}
            </SortableContext>
          </DndContext>
        )
      })}
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        {MENU_STEPS.map((kind) => (
          <MenuItem key={kind} onClick={() => addStep(kind)} data-testid={`add-${kind}`}>
            {OUTLINE_STEP_NAMES[kind]}
          </MenuItem>
        ))}
        <Divider />
        <MenuItem onClick={addOffset} data-testid="add-offset">
          An outline at a distance
        </MenuItem>
        {others.map((other) => (
          <MenuItem key={other} onClick={() => addCombination(other)} data-testid={`combine-${other}`}>
            Combine with “{tellArtwork(job, other)}”
          </MenuItem>
        ))}
      </Menu>
    </Panel>
  )
}

/** How one outline of the chain is made, and where that is changed; undefined for clean-up, which is a card for every step. */
function cardOf(
  job: JobDocument,
  id: string,
): { readonly name: string; readonly words: string; readonly fields: ReactNode } | undefined {
  const each = job.nodes[id]
  switch (each.kind) {
    case 'trace':
      return { name: 'Trace', words: each.name, fields: <TraceDetails job={job} id={id} node={each} /> }
    case 'offset':
      return { name: 'At a distance', words: each.name, fields: <OffsetDetails id={id} node={each} /> }
    case 'combine':
      return { name: 'Combined', words: COMBINED[each.op], fields: <CombineFields job={job} id={id} node={each} /> }
    case 'bridged':
      return {
        name: 'Bridges',
        words: `${Object.keys(each.bridges).length} hold what would fall`,
        fields: <BridgeFields id={id} node={each} />,
      }
    case 'clip':
      return { name: 'Kept within', words: each.name, fields: <WithinFields job={job} id={id} /> }
    case 'part':
      return { name: 'From the drawing', words: each.name, fields: <PartFields id={id} node={each} /> }
    default:
      return undefined
  }
}
