import {
  burns,
  groupedSteps,
  groupNamed,
  type JobDocument,
  type Step,
  stepAdded,
  stepsMoved,
  switched,
  withMaterialSteps,
  withoutSteps,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect } from 'react'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { store } from '../../store/store.ts'
import { blocksSelected, groupFolded, hidden as hide, selected } from '../../store/view-slice.ts'
import { goodOrderOf } from '../../workers/engine.ts'
import { hideOperations } from '../../workers/use-evaluation.ts'
import { onCommand } from '../bar/commands.ts'
import { selectedOperations, selectedSteps } from '../selection.ts'
import { useEdit } from '../use-edit.ts'
import { type LineItem, placeAmong, stepsOfItem } from './line-items.ts'
import { STOP_WORDS, type StopKind } from './step-words.ts'

const KINDS = Object.keys(STOP_WORDS) as StopKind[]

/** What can be done with the blocks of the line that are selected. */
export function useLineCommands(job: JobDocument, items: readonly LineItem[]): void {
  const dispatch = useDispatch()
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const { selection, blocks, hidden } = useSelector((state) => state.view)
  const steps = selectedSteps(job, selection, blocks)
  const operations = selectedOperations(job, selection, blocks)
  const current = items.find((item) => stepsOfItem(item).some((id) => steps.includes(id)))
  const group = steps.length > 0 ? job.steps[steps[0]].group : undefined

  useEffect(() => hideOperations(hidden), [hidden])

  const shift = (by: number): void => {
    const over = current && items[items.indexOf(current) + by]
    if (!current || !over) return
    const to = placeAmong(items, current, over)
    edit(by < 0 ? 'run earlier' : 'run later', (base) => stepsMoved(base, stepsOfItem(current), to))
  }
  const add = (kind: StopKind, isLast = false): void => {
    const document = jobOnScreen()
    if (!document) return
    const at = steps.length > 0 && !isLast ? document.order.indexOf(steps[0]) : document.order.length
    const made = stepAdded(document, STOP_WORDS[kind].first, at)
    edit(`add: ${STOP_WORDS[kind].name.toLowerCase()}`, () => made.job)
    dispatch(selected({ kind: 'step', id: made.step }))
  }
  const order = (): void => {
    goodOrderOf(job).then(
      (good) => {
        if (!good) return
        const isSame = good.order.join() === job.order.join()
        if (!isSame) edit('put in a good order', (base) => (base === job ? { ...base, ...good } : base))
        enqueueSnackbar(
          isSame ? 'The order is good as it is.' : 'Put in a good order: each block says why it stands where it does.',
        )
      },
      (cause: unknown) => enqueueSnackbar(cause instanceof Error ? cause.message : 'No order was found.', { variant: 'error' }),
    )
  }
  const isBurn = (id: string): boolean => job.steps[id].kind === 'burn'
  const allOff = steps.filter(isBurn).every((id) => !burns(job.steps[id]))
  const switchThem = (): void =>
    edit(allOff ? 'switch on' : 'switch off', (base) =>
      steps.reduce((next, id) => {
        const step: Step = next.steps[id]
        return step?.kind === 'burn' ? switched(next, step.operation, allOff) : next
      }, base),
    )
  const all = job.order.flatMap((id) => {
    const step = job.steps[id]
    return burns(step) ? [step.operation] : []
  })
  const others = all.filter((id) => !operations.includes(id))
  const onlyThese =
    others.length > 0 && others.every((id) => hidden.includes(id)) && operations.every((id) => !hidden.includes(id))

  useEffect(() =>
    onCommand({
      'good-order': order,
      'add-material-steps': () => edit('what its material wants done by hand', withMaterialSteps),
      ...Object.fromEntries(KINDS.map((kind) => [`add-${kind}`, () => add(kind)])),
      'add-hand-last': () => add('by-hand', true),
      ...(current && { earlier: () => shift(-1), later: () => shift(1) }),
      ...(steps.some(isBurn) && { 'put-aside': switchThem }),
      ...(operations.length > 0 && {
        'hide-operation': () =>
          dispatch(
            hide(
              operations.every((id) => hidden.includes(id))
                ? hidden.filter((id) => !operations.includes(id))
                : [...new Set([...hidden, ...operations])],
            ),
          ),
        'only-operation': () => dispatch(hide(onlyThese ? [] : others)),
      }),
      ...(hidden.length > 0 && { 'show-operations': () => dispatch(hide([])) }),
      ...(steps.length > 1 && {
        'group-steps': () => {
          edit('group the blocks', (base) => groupedSteps(base, steps, 'Group'))
          dispatch(blocksSelected([]))
        },
      }),
      ...(group !== undefined && {
        'ungroup-steps': () => edit('ungroup the blocks', (base) => groupNamed(base, group, undefined)),
        'fold-group': () => dispatch(groupFolded({ name: group, isFolded: !store.getState().view.foldedGroups.includes(group) })),
      }),
      ...(selection?.kind === 'step' && {
        'delete-operation': () => {
          edit('delete a step', (base) => withoutSteps(base, [selection.id]))
          dispatch(selected(null))
        },
      }),
    }),
  )
}
