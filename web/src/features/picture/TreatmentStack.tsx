import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core'
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { Button, ListSubheader, Menu, MenuItem, Typography } from '@mui/material'
import {
  addedStep,
  burnsRows,
  type FramingStep,
  framedSize,
  type JobDocument,
  movedStep,
  picturedRoot,
  pictureNode,
  type RowSettings,
  type TreatmentStep,
  withFraming,
  withMask,
  withoutStep,
  withStep,
} from '@neotaxis/core'
import { memo, type ReactNode, useEffect, useRef, useState } from 'react'
import { Panel } from '../../parts/Panel.tsx'
import { Row } from '../../parts/Row.tsx'
import { Quiet } from '../../parts/words.tsx'
import type { BenchFacts } from '../../workers/shared.ts'
import { onCommand } from '../bar/commands.ts'
import { newId } from '../new-id.ts'
import { CardBox, StepCard, useStepSensors } from '../steps/StepCards.tsx'
import { useEdit } from '../use-edit.ts'
import { DotsControls } from './DotsControls.tsx'
import { FramingControls } from './FramingControls.tsx'
import { GreyControls, greyWords } from './GreyControls.tsx'
import { MaskControls } from './MaskControls.tsx'
import { MeshControls, meshWords } from './MeshControls.tsx'
import { newFraming, newStep, placeOf, STEP_ORDER } from './new-steps.ts'
import { ReliefControls, reliefWords } from './ReliefControls.tsx'
import { StartValues } from './StartValues.tsx'
import { StepControls } from './StepControls.tsx'
import { dotsWords, STEP_NAMES, stepWords } from './step-words.ts'
import type { MaskHand } from './use-mask-tool.tsx'

/** What is selected in the stack. */
export type Card =
  | { readonly kind: 'framing'; readonly index: number }
  | { readonly kind: 'step'; readonly id: string }
  | { readonly kind: 'mesh' | 'grey' | 'dots' | 'power' }

export interface Hands {
  readonly sampling: 'ink' | 'paper' | null
  readonly mask: MaskHand | null
  readonly keepRatio: boolean
}

interface Props {
  readonly job: JobDocument
  /** Without what is being dragged. */
  readonly rested: JobDocument
  readonly node: string
  readonly operationId: string | undefined
  readonly card: Card | null
  readonly onCard: (card: Card | null) => void
  readonly hands: Hands
  readonly onHands: (hands: Partial<Hands>) => void
  readonly facts: BenchFacts | undefined
}

const FRAMING: readonly FramingStep['kind'][] = ['crop', 'straighten', 'turn', 'mirror']
/** All that is done to a picture, top to bottom: framing for everything made from it, treatment, dots. */
export const TreatmentStack = memo(function TreatmentStack({
  job,
  rested,
  node,
  operationId,
  card,
  onCard,
  hands,
  onHands,
  facts,
}: Props) {
  const edit = useEdit()
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const add = useRef<HTMLButtonElement>(null)
  const picture = pictureNode(job, node)
  const root = picturedRoot(job, node)
  const operation = operationId ? job.operations[operationId] : undefined
  const burn = burnsRows(operation) ? operation : undefined
  const sensors = useStepSensors()
  const open = (next: Card): void => {
    onHands({ sampling: null, mask: null })
    onCard(sameCard(card, next) ? null : next)
  }
  const frameWith = (name: string, change: (framing: readonly FramingStep[]) => readonly FramingStep[]): void =>
    edit(name, (base) => withFraming(base, node, change(picturedRoot(base, node).framing)))
  const addFraming = (kind: FramingStep['kind']): void => {
    setMenu(null)
    const step = newFraming(kind, framedSize(root, root.framing))
    frameWith(`add ${STEP_NAMES[kind].toLowerCase()}`, (framing) => [...framing, step])
    onCard({ kind: 'framing', index: root.framing.length })
  }
  const addStep = (kind: TreatmentStep['kind']): void => {
    setMenu(null)
    const id = newId()
    const maskId = newId()
    const at = placeOf(
      kind,
      picture.order.map((each) => picture.steps[each].kind),
    )
    edit(`add ${STEP_NAMES[kind].toLowerCase()}`, (base) => {
      const masked =
        kind === 'clear'
          ? withMask(base, node, maskId, {
              name: `mask ${Object.keys(picture.masks).length + 1}`,
              feather: 0,
              parts: {},
              order: [],
            })
          : base
      return addedStep(masked, node, id, newStep(kind, maskId), at)
    })
    onHands({ sampling: null, mask: kind === 'clear' ? { tool: 'brush', add: true, radius: 16, tolerance: 0.08 } : null })
    onCard({ kind: 'step', id })
  }
  useEffect(() => {
    const adds = [...FRAMING, ...STEP_ORDER].map((kind) => ({
      id: `add-${kind}`,
      title: `Add a step: ${STEP_NAMES[kind].toLowerCase()}`,
      words: `treatment picture ${kind}`,
    }))
    return onCommand(
      {
        ...Object.fromEntries(FRAMING.map((kind) => [`add-${kind}`, () => addFraming(kind)])),
        ...Object.fromEntries(STEP_ORDER.map((kind) => [`add-${kind}`, () => addStep(kind)])),
      },
      adds,
    )
  })
  const framingIds = Array.from({ length: root.framing.length }, (_, i) => `frame-${i}`)
  const stepIds = [...picture.order]
  const dropped = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return
    const from = String(active.id)
    const to = String(over.id)
    if (framingIds.includes(from) && framingIds.includes(to)) {
      frameWith('other order of framing', (framing) => {
        const rest = framing.filter((_, i) => framingIds[i] !== from)
        rest.splice(framingIds.indexOf(to), 0, framing[framingIds.indexOf(from)])
        return rest
      })
      onCard(null)
    } else if (picture.order.includes(from) && picture.order.includes(to))
      edit('other order of steps', (base) => movedStep(base, node, from, picture.order.indexOf(to)))
  }
  // Numbers of the cards from top to bottom.
  const framingFrom = root.kind === 'mesh' ? 2 : 1
  const greyAt = framingFrom + root.framing.length
  const stepsFrom = root.kind === 'source' ? greyAt + 1 : greyAt
  const dotsAt = stepsFrom + picture.order.length
  const plain = (kind: 'mesh' | 'grey' | 'dots' | 'power', name: string, words: string, number: number, controls: ReactNode) => (
    <CardBox key={kind} name={name} words={words} number={number} open={card?.kind === kind} onOpen={() => open({ kind })}>
      {controls}
    </CardBox>
  )
  return (
    <Panel side="left" as="aside" aria-label="Treatment of the picture, top to bottom">
      <Row gap="none" bottom="snug">
        <Typography variant="h3" component="h2" sx={{ flex: 1 }}>
          Treatment, top to bottom
        </Typography>
        <Button ref={add} size="small" onClick={() => setMenu(add.current)} data-testid="add-step">
          Add a step
        </Button>
      </Row>
      {root.kind === 'mesh' && plain('mesh', 'Mesh', meshWords(root), 1, <MeshControls job={job} id={root.id} />)}
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
        <SortableContext items={framingIds} strategy={verticalListSortingStrategy}>
          {root.framing.map((step, index) => (
            <StepCard
              // biome-ignore lint/suspicious/noArrayIndexKey: framing steps have no other name
              key={`frame-${index}`}
              id={`frame-${index}`}
              number={framingFrom + index}
              step={step}
              name={STEP_NAMES[step.kind]}
              words={stepWords(step)}
              open={card?.kind === 'framing' && card.index === index}
              onOpen={() => open({ kind: 'framing', index })}
              onSwitch={(on) =>
                frameWith(`${STEP_NAMES[step.kind].toLowerCase()} ${on ? 'on' : 'off'}`, (framing) =>
                  framing.map((each, i) => (i === index ? { ...each, on } : each)),
                )
              }
              onRemove={() => {
                onCard(null)
                frameWith(`remove ${STEP_NAMES[step.kind].toLowerCase()}`, (framing) => framing.filter((_, i) => i !== index))
              }}
            >
              <FramingControls
                job={job}
                node={node}
                index={index}
                step={step}
                keepRatio={hands.keepRatio}
                onKeepRatio={(keepRatio) => onHands({ keepRatio })}
              />
            </StepCard>
          ))}
        </SortableContext>
        {root.kind === 'source' && plain('grey', 'Grey', greyWords(picture.grey), greyAt, <GreyControls job={job} node={node} />)}
        <SortableContext items={stepIds} strategy={verticalListSortingStrategy}>
          {picture.order.map((id, index) => {
            const step = picture.steps[id]
            return (
              <StepCard
                key={id}
                id={id}
                number={stepsFrom + index}
                step={step}
                name={STEP_NAMES[step.kind]}
                words={stepWithMask(step, step.mask ? picture.masks[step.mask]?.name : undefined)}
                open={card?.kind === 'step' && card.id === id}
                onOpen={() => open({ kind: 'step', id })}
                onSwitch={(on) =>
                  edit(`${STEP_NAMES[step.kind].toLowerCase()} ${on ? 'on' : 'off'}`, (base) => withStep(base, node, id, { on }))
                }
                onRemove={() => {
                  onCard(null)
                  edit(`remove ${STEP_NAMES[step.kind].toLowerCase()}`, (base) => withoutStep(base, node, id))
                }}
              >
                <StepControls
                  node={node}
                  id={id}
                  step={step}
                  facts={facts}
                  sampling={hands.sampling}
                  onSampling={(sampling) => onHands({ sampling, mask: null })}
                />
                {facts?.step && (
                  <Quiet top="tight" data-testid="step-coverage">
                    Area with marks: {(100 * facts.step.before).toFixed(1)} % before,{' '}
                    <b>{(100 * facts.step.after).toFixed(1)} %</b> after
                  </Quiet>
                )}
                <MaskControls
                  job={job}
                  node={node}
                  id={id}
                  step={step}
                  hand={hands.mask}
                  onHand={(mask) => onHands({ mask, sampling: null })}
                />
              </StepCard>
            )
          })}
        </SortableContext>
      </DndContext>
      {plain('dots', 'Dots', dotsWords(picture.dots), dotsAt, <DotsControls job={job} node={node} operation={burn} />)}
      {burn &&
        operationId &&
        picture.dots.kernel === 'none' &&
        plain(
          'power',
          'Power and depth',
          reliefWords(burn),
          dotsAt + 1,
          <ReliefControls job={job} id={operationId} operation={burn as RowSettings} />,
        )}
      <StartValues job={rested} node={node} />
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        <ListSubheader sx={{ lineHeight: '28px' }}>For everything made from it</ListSubheader>
        {FRAMING.map((kind) => (
          <MenuItem key={kind} onClick={() => addFraming(kind)} data-testid={`add-${kind}`}>
            {STEP_NAMES[kind]}
          </MenuItem>
        ))}
        <ListSubheader sx={{ lineHeight: '28px' }}>For this picture</ListSubheader>
        {STEP_ORDER.map((kind) => (
          <MenuItem key={kind} onClick={() => addStep(kind)} data-testid={`add-${kind}`}>
            {STEP_NAMES[kind]}
          </MenuItem>
        ))}
      </Menu>
    </Panel>
  )
})

const sameCard = (a: Card | null, b: Card): boolean =>
  a !== null &&
  a.kind === b.kind &&
  (a.kind === 'framing' && b.kind === 'framing'
    ? a.index === b.index
    : a.kind === 'step' && b.kind === 'step'
      ? a.id === b.id
      : true)

const stepWithMask = (step: TreatmentStep, mask: string | undefined): string =>
  mask ? `${stepWords(step)} · ${step.outside ? 'not in ' : 'in '}${mask}` : stepWords(step)
