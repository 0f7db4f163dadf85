import {
  duplicated,
  grouped,
  isRoot,
  type JobDocument,
  onEach,
  onlyArtwork,
  operationAgain,
  pasted,
  processesFor,
  processesInstead,
  withoutArtwork,
  withoutBurn,
  withoutOperation,
  withSettingsOf,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect } from 'react'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { undone } from '../../store/job-slice.ts'
import { selected, settingsTaken, severalSelected } from '../../store/view-slice.ts'
import { onCommand } from '../bar/commands.ts'
import { changedTo } from '../becomes/becoming.ts'
import { useGive } from '../becomes/use-give.ts'
import { newId } from '../new-id.ts'
import { offered } from '../offered.tsx'
import { selectedNodes, selectedOperation } from '../selection.ts'
import { useEdit } from '../use-edit.ts'
import { clipText, isClip, keepClip, keptClip, readClip } from './clipboard.ts'

const shortTag = (): string => newId().slice(0, 8)

/** The selection can be deleted, duplicated, copied, cut out and pasted, by commands and by the system's own keys. */
export function useArtworkActions(job: JobDocument): void {
  const dispatch = useDispatch()
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const { selection, also } = useSelector((state) => state.view)
  const nodes = selectedNodes(job, selection, also)
  const operation = selectedOperation(job, selection)
  const names = nodes.length === 1 ? `“${job.nodes[nodes[0]].name}”` : `${nodes.length} pieces of artwork`

  const takeAway = (what: string, change: (base: JobDocument) => JobDocument): void => {
    edit(`delete ${what}`, change)
    dispatch(selected(null))
    enqueueSnackbar(`Deleted: ${what}.`, {
      action: offered('Undo', () => dispatch(undone()), 'undo-delete'),
    })
  }
  const remove = (): void => {
    // What was pressed on the stage is what an operation burns; in the list of artwork it is the artwork itself.
    if (selection?.kind === 'operation') takeAway(names, (base) => withoutBurn(base, selection.id))
    else takeAway(names, (base) => withoutArtwork(base, nodes))
  }
  const duplicate = (): void => {
    const tag = shortTag()
    const document = jobOnScreen()
    if (!document) return
    const made = duplicated(document, nodes, tag)
    edit(`duplicate ${names}`, () => made.job)
    dispatch(severalSelected(made.nodes))
  }
  const copy = (): string => {
    const text = clipText(onlyArtwork(job, nodes))
    keepClip(text)
    return text
  }
  const copyBySystem = (): void => {
    void navigator.clipboard?.writeText(copy()).catch(() => {})
    enqueueSnackbar(`Copied: ${names}. Paste it in this job or in another.`)
  }
  const paste = (text: string): void => {
    const before = new Set(Object.keys(job.nodes))
    readClip(text).then(
      (copied) => {
        edit('paste artwork', (base) => pasted(base, copied, shortTag()))
        const now = jobOnScreen()
        if (now) dispatch(severalSelected(Object.keys(now.nodes).filter((id) => !before.has(id) && isRoot(now.nodes[id]))))
      },
      (cause: unknown) =>
        enqueueSnackbar(cause instanceof Error ? cause.message : 'That cannot be pasted.', { variant: 'error' }),
    )
  }

  const give = useGive()
  const gives = processesFor(job, nodes).map((process) => [`give-${process}`, () => give(nodes, process)] as const)
  const changes = operation
    ? processesInstead(job, operation).map((process) => {
        const { name, change } = changedTo(operation, process)
        return [`change-${process}`, () => edit(name, change)] as const
      })
    : []
  const again = (id: string): void => {
    const document = jobOnScreen()
    if (!document) return
    const made = operationAgain(document, id)
    edit('burn it once more', () => made.job)
    dispatch(selected({ kind: 'operation', id: made.operation }))
  }
  const carried = useSelector((state) => state.view.taken)
  const taken = carried !== null && job.operations[carried] ? carried : undefined

  useEffect(() =>
    onCommand({
      ...Object.fromEntries([...gives, ...changes]),
      ...(selection && { deselect: () => dispatch(selected(null)) }),
      ...(nodes.length > 0 && {
        delete: remove,
        duplicate,
        copy: copyBySystem,
        'cut-out': () => {
          copyBySystem()
          remove()
        },
      }),
      ...(nodes.length > 0 &&
        Object.keys(job.workpieces).length > 1 && {
          'on-each': () => edit(`${names} on each workpiece`, (base) => nodes.reduce((sum, id) => onEach(sum, id), base)),
        }),
      ...(nodes.length > 1 && {
        'group-artwork': () =>
          edit(`group ${names}`, (base) => nodes.slice(1).reduce((sum, id) => grouped(sum, nodes[0], id, shortTag()), base)),
      }),
      ...(keptClip() !== null && { paste: () => paste(keptClip()!) }),
      ...(operation && {
        'delete-operation': () => takeAway('the operation', (base) => withoutOperation(base, operation)),
        'operation-again': () => again(operation),
        'copy-settings': () => {
          dispatch(settingsTaken(operation))
          enqueueSnackbar('Its settings are taken along: give them to another operation.')
        },
        ...(taken !== undefined &&
          taken !== operation && {
            'paste-settings': () => edit('give settings', (base) => withSettingsOf(base, taken, [operation])),
          }),
      }),
      'select-all': () => dispatch(severalSelected(Object.keys(job.nodes).filter((id) => isRoot(job.nodes[id])))),
    }),
  )

  // The keys of the system: they work in every browser without being asked for.
  useEffect(() => {
    const isTyping = ({ target }: Event): boolean =>
      (target instanceof Element && target.closest('input, textarea, [contenteditable]') !== null) ||
      document.querySelector('[role=dialog]') !== null ||
      String(window.getSelection() ?? '') !== ''
    const onCopy = (event: ClipboardEvent): void => {
      if (nodes.length === 0 || isTyping(event)) return
      event.preventDefault()
      event.clipboardData?.setData('text/plain', copy())
      if (event.type === 'cut') remove()
      else enqueueSnackbar(`Copied: ${names}. Paste it in this job or in another.`)
    }
    const onPaste = (event: ClipboardEvent): void => {
      const text = event.clipboardData?.getData('text/plain') ?? ''
      if (!isClip(text) || isTyping(event)) return
      event.preventDefault()
      event.stopImmediatePropagation()
      paste(text)
    }
    window.addEventListener('copy', onCopy)
    window.addEventListener('cut', onCopy)
    window.addEventListener('paste', onPaste, true)
    return () => {
      window.removeEventListener('copy', onCopy)
      window.removeEventListener('cut', onCopy)
      window.removeEventListener('paste', onPaste, true)
    }
  })
}
