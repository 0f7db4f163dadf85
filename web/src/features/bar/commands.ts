import type { ProcessName, Side } from '@neotaxis/core'
import { PROCESS_WORDS } from '../../processes/process-words.ts'
import { momentNow } from '../rehearsal/moment.ts'

/** Everything that can be done from the keyboard or the command search, by name. */
export interface Command {
  readonly id: string
  readonly title: string
  /** What else the trade calls it: found by these words too. */
  readonly words?: string
  /** Shown to people: “Ctrl Z”. */
  readonly keys?: string
  /** Whether a key press means this command. */
  readonly match?: (event: KeyboardEvent) => boolean
}

const plain = (key: string) => (event: KeyboardEvent) =>
  event.key.toLowerCase() === key && !event.ctrlKey && !event.metaKey && !event.altKey
const shifted = (key: string) => (event: KeyboardEvent) => event.shiftKey && plain(key)(event)
const chord =
  (key: string, shift = false) =>
  (event: KeyboardEvent) =>
    event.key.toLowerCase() === key && (event.ctrlKey || event.metaKey) && event.shiftKey === shift && !event.altKey

/** Processes that artwork can be given by a key, in the order of their keys. */
export const GIVEN_BY_KEY: readonly ProcessName[] = ['cut', 'score', 'area', 'picture', 'relief', 'guide']

/** To make something of the selected artwork; with the run line in focus, to change the block. */
const processCommands = (): Command[] =>
  GIVEN_BY_KEY.flatMap((process, i) => {
    const { does, name, words } = PROCESS_WORDS[process]
    const key = String(i + 1)
    const isKey = plain(key)
    return [
      {
        id: `change-${process}`,
        title: `Change the operation: ${name.toLowerCase()}`,
        words: `${words} process convert instead`,
        keys: `${key} on a block`,
        match: (event: KeyboardEvent) => isKey(event) && inRunLine(event),
      },
      {
        id: `give-${process}`,
        title: `${does.charAt(0).toUpperCase()}${does.slice(1)} the selected artwork`,
        words: `${name} ${words} process add operation`,
        keys: key,
        match: (event: KeyboardEvent) => isKey(event) && !inRunLine(event),
      },
    ]
  })

const inRunLine = (event: KeyboardEvent): boolean =>
  event.target instanceof Element && event.target.closest('[data-run-line]') !== null

/** Where artwork is put on its workpiece, or several by each other: across and down, each way or left as it is. */
export const PLACES = [
  { id: 'top-left', where: 'into the rear left corner', across: 'left', down: 'top' },
  { id: 'top', where: 'to the rear edge', down: 'top' },
  { id: 'top-right', where: 'into the rear right corner', across: 'right', down: 'top' },
  { id: 'left', where: 'to the left edge', across: 'left' },
  { id: 'centre', where: 'into the middle', across: 'centre', down: 'middle' },
  { id: 'right', where: 'to the right edge', across: 'right' },
  { id: 'bottom-left', where: 'into the front left corner', across: 'left', down: 'bottom' },
  { id: 'bottom', where: 'to the front edge', down: 'bottom' },
  { id: 'bottom-right', where: 'into the front right corner', across: 'right', down: 'bottom' },
  { id: 'across', where: 'midway between left and right', across: 'centre' },
  { id: 'down', where: 'midway between rear and front', down: 'middle' },
] as const satisfies readonly { readonly id: string; readonly where: string; readonly across?: Side; readonly down?: Side }[]

export const COMMANDS: readonly Command[] = [
  ...processCommands(),
  { id: 'operation-again', title: 'Burn the operation once more, right after itself', words: 'duplicate copy pass cleaning' },
  { id: 'copy-settings', title: 'Take the settings of the operation along', words: 'copy style format' },
  { id: 'paste-settings', title: 'Give the operation the settings that were taken along', words: 'paste style format same' },
  { id: 'undo', title: 'Undo', words: 'back', keys: 'Ctrl Z', match: chord('z') },
  { id: 'redo', title: 'Redo', keys: 'Ctrl Shift Z', match: (event) => chord('z', true)(event) || chord('y')(event) },
  {
    id: 'delete-operation',
    title: 'Delete the operation, keep its artwork',
    match: (event) => (event.key === 'Delete' || event.key === 'Backspace') && inRunLine(event),
  },
  {
    id: 'delete',
    title: 'Delete: take the selection away',
    words: 'remove erase',
    keys: 'Del',
    match: (event) => (event.key === 'Delete' || event.key === 'Backspace') && !event.ctrlKey && !event.metaKey,
  },
  { id: 'duplicate', title: 'Duplicate the selection', words: 'clone copy again', keys: 'Ctrl D', match: chord('d') },
  {
    id: 'group-artwork',
    title: 'Group: the selected artwork moves and grows as one',
    words: 'together join',
    keys: 'Ctrl G',
    match: chord('g'),
  },
  { id: 'copy', title: 'Copy the selection, for this job or another', words: 'clipboard', keys: 'Ctrl C' },
  { id: 'cut-out', title: 'Cut the selection out, to paste it elsewhere', words: 'clipboard', keys: 'Ctrl X' },
  { id: 'paste', title: 'Paste what was copied', words: 'clipboard insert', keys: 'Ctrl V' },
  { id: 'select-all', title: 'Select all artwork', words: 'everything', keys: 'Ctrl A', match: chord('a') },
  {
    id: 'put-aside',
    title: 'Switch the operation off, or on again: it keeps its place and settings',
    words: 'disable enable skip aside',
    keys: 'X on a block',
    match: (event) => plain('x')(event) && inRunLine(event),
  },
  {
    id: 'only-operation',
    title: 'Show only this operation on the stage, or all again',
    words: 'solo isolate',
    keys: 'S on a block',
    match: (event) => plain('s')(event) && inRunLine(event),
  },
  {
    id: 'hide-operation',
    title: 'Hide the operation on the stage, or show it again',
    words: 'visible eye',
    keys: 'H on a block',
    match: (event) => plain('h')(event) && inRunLine(event),
  },
  { id: 'show-operations', title: 'Show all operations on the stage', words: 'hidden visible' },
  { id: 'good-order', title: 'Put the operations in a good order', words: 'sort sequence automatic optimise optimize' },
  { id: 'add-pause', title: 'Add a pause before the block', words: 'wait stop step' },
  { id: 'add-by-hand', title: 'Add work by hand before the block', words: 'clean mask manual step' },
  { id: 'add-elsewhere', title: 'Add a cut by another tool before the block', words: 'router mill saw elsewhere step' },
  { id: 'add-set-up', title: 'Add a set-up before the block', words: 'turn over flip fixture step' },
  {
    id: 'group-steps',
    title: 'Make a group of the selected blocks',
    keys: 'Ctrl Alt G',
    match: (event) => event.key.toLowerCase() === 'g' && event.ctrlKey && event.altKey,
  },
  { id: 'ungroup-steps', title: 'Take the group of blocks apart' },
  { id: 'fold-group', title: 'Fold or unfold the group of blocks' },
  { id: 'bring-in', title: 'Import: bring artwork in from a file', words: 'import open add load' },
  { id: 'draw', title: 'Draw a shape, or write a text', words: 'shape rectangle circle text write letters' },
  {
    id: 'draw-here-text',
    title: 'Write a text on the workpiece',
    words: 'text letters type label',
    keys: 'I',
    match: (event) => plain('i')(event) && !inRunLine(event),
  },
  { id: 'draw-here-rectangle', title: 'Draw a rectangle on the workpiece', words: 'shape box square' },
  { id: 'draw-here-ellipse', title: 'Draw a circle or an ellipse on the workpiece', words: 'shape round' },
  { id: 'draw-here-polygon', title: 'Draw a polygon on the workpiece', words: 'shape' },
  { id: 'draw-here-star', title: 'Draw a star on the workpiece', words: 'shape' },
  { id: 'draw-here-line', title: 'Draw a straight line on the workpiece', words: 'shape' },
  { id: 'draw-here-path', title: 'Draw a line by hand on the workpiece', words: 'pen path curve' },
  { id: 'draw-edge', title: 'Draw the edge of the workpiece, corner by corner', words: 'outline shape pen blank' },
  { id: 'draw-here-code', title: 'Draw a code for cameras on the workpiece', words: 'qr barcode' },
  { id: 'from-library', title: 'Bring artwork of the library in', words: 'artwork assets' },
  {
    id: 'save-program',
    title: 'Save the program (G-code)',
    words: 'export gcode',
    keys: 'Ctrl Shift G',
    match: chord('g', true),
  },
  { id: 'save-job', title: 'Save the job as a file', words: 'export download file', keys: 'Ctrl S', match: chord('s') },
  { id: 'search', title: 'Find a command', keys: 'Ctrl K', match: chord('k') },
  { id: 'shortcuts', title: 'Help for this screen, and its keys', words: 'shortcuts guide how', keys: '?' },
  {
    id: 'bed-photo-find',
    title: 'Photograph the bed, and find what lies there',
    words: 'camera blanks detect outline edge',
    keys: 'Shift V',
    match: shifted('v'),
  },
  {
    id: 'bed-photo',
    title: 'Photograph the bed, and show it under the job',
    words: 'camera picture capture snapshot',
    keys: 'V',
    match: plain('v'),
  },
  { id: 'bed-photo-away', title: 'Take the photo of the bed off the stage', words: 'camera hide' },
  { id: 'find-blanks', title: 'Find what lies on the bed', words: 'camera blanks detect outline edge' },
  {
    id: 'make-jig',
    title: 'Make a jig that holds the workpiece, and cut it first',
    words: 'fixture template holder card',
    keys: 'Shift J',
    match: shifted('j'),
  },
  {
    id: 'turn-around',
    title: 'The workpiece turns in a rotary: say how thick it is',
    words: 'round cup cylinder rollers chuck',
    keys: 'Shift R',
    match: shifted('r'),
  },
  {
    id: 'add-hand-last',
    title: 'Add work by hand after everything else',
    words: 'fill sand wash oil finish manual step',
    keys: 'Shift B',
    match: shifted('b'),
  },
  { id: 'view-turning', title: 'Show it as it turns', words: '3D around cup rotary', keys: 'Shift W', match: shifted('w') },
  { id: 'view-whole', title: 'Show the whole workpiece', words: 'fit zoom all', keys: 'W', match: plain('w') },
  { id: 'view-close', title: 'Show the selection close up', words: 'zoom', keys: 'C', match: plain('c') },
  { id: 'view-real', title: 'Show it at real size', words: '1:1 actual', keys: 'R', match: plain('r') },
  { id: 'view-artwork', title: 'Turn between artwork and burn', keys: 'A', match: plain('a') },
  { id: 'view-in', title: 'Closer', words: 'zoom', keys: '+', match: (event) => event.key === '+' || event.key === '=' },
  { id: 'view-out', title: 'Farther', words: 'zoom', keys: '−', match: (event) => event.key === '-' },
  ...PLACES.map(({ id, where }) => ({
    id: `put-${id}`,
    title: `Put the selection ${where}`,
    words: 'align line up position place margin',
    ...(id === 'centre' && { keys: 'M', match: plain('m') }),
  })),
  {
    id: 'gaps-across',
    title: 'Even gaps between the selected artwork, from left to right',
    words: 'distribute spread spacing align',
  },
  {
    id: 'gaps-down',
    title: 'Even gaps between the selected artwork, from top to bottom',
    words: 'distribute spread spacing align',
  },
  {
    id: 'fill-sheet',
    title: 'Fill the workpiece with the selected artwork, as often as it goes',
    words: 'nest copies repeat many array',
  },
  {
    id: 'fill-sheet-straight',
    title: 'Fill the workpiece with the selected artwork, turned by halves only: the grain is kept',
    words: 'nest copies repeat many array grain',
  },
  { id: 'lay-out', title: 'Lay the selected artwork out on the workpiece, close together', words: 'nest arrange sheet pack' },
  {
    id: 'lay-out-straight',
    title: 'Lay the selected artwork out on the workpiece, turned by halves only: the grain is kept',
    words: 'nest arrange sheet pack grain',
  },
  {
    id: 'as-large',
    title: 'As large as the workpiece takes it, at the best angle',
    words: 'fit scale maximise maximize fill blank',
  },
  {
    id: 'as-large-straight',
    title: 'As large as the workpiece takes it, turned as it is',
    words: 'fit scale maximise maximize fill blank',
  },
  {
    id: 'make-level',
    title: 'Make a line of the artwork level: by two points',
    words: 'rotate straighten horizontal align',
    keys: 'H',
    match: (event) => plain('h')(event) && !inRunLine(event),
  },
  {
    id: 'on-each',
    title: 'Lay the selected artwork once on each workpiece; a list gives each its next entry',
    words: 'repeat distribute series names tray blanks',
  },
  {
    id: 'cut-off',
    title: 'Cut the rest of the sheet off, by a straight line after everything else',
    words: 'stock save offcut strip straighten remainder',
  },
  { id: 'turn-quarter', title: 'Turn the selection a quarter, clockwise', words: 'rotate 90', keys: 'Q', match: plain('q') },
  { id: 'measure-screen', title: 'Measure this screen with a ruler' },
  {
    id: 'earlier',
    title: 'Run the selected operation earlier',
    words: 'order sequence',
    keys: 'Alt ←',
    match: (event) => event.altKey && event.key === 'ArrowLeft' && inRunLine(event),
  },
  {
    id: 'later',
    title: 'Run the selected operation later',
    words: 'order sequence',
    keys: 'Alt →',
    match: (event) => event.altKey && event.key === 'ArrowRight' && inRunLine(event),
  },
  {
    id: 'play',
    title: 'Rehearse the job, or stand still',
    words: 'simulate preview rehearsal',
    keys: 'Space',
    match: (event) => event.key === ' ' && !isButton(event),
  },
  { id: 'step-on', title: 'One move on', keys: '.', match: plain('.') },
  { id: 'step-back', title: 'One move back', keys: ',', match: plain(',') },
  {
    id: 'after-burn',
    title: 'Show the workpiece after the burn',
    keys: 'Esc',
    match: (event) => event.key === 'Escape' && momentNow().seconds !== null,
  },
  { id: 'travel', title: 'Show all travel of the head', words: 'rapid moves path', keys: 'T', match: plain('t') },
  { id: 'compose', title: 'Compose the job' },
  {
    id: 'picture',
    title: 'Treat a picture on its bench',
    words: 'dither halftone engrave crop levels treat',
    keys: 'B',
    match: plain('b'),
  },
  {
    id: 'outline',
    title: 'Work on an outline on its bench',
    words: 'trace vector nodes bridge clean',
    keys: 'O',
    match: plain('o'),
  },
  { id: 'loupe', title: 'Loupe over every dot', words: 'magnify zoom dots', keys: 'L', match: plain('l') },
  { id: 'flip', title: 'See the piece from its other side', words: 'mirror glass behind', keys: 'F', match: plain('f') },
  {
    id: 'leave-tool',
    title: 'Put the tool away',
    match: (event) =>
      event.key === 'Escape' && !!document.querySelector('[data-testid=bench-stage], [data-testid=outline-stage]'),
  },
  { id: 'fold-artwork', title: 'Fold or unfold the artwork', words: 'hide show panel shelf', keys: '[', match: plain('[') },
  { id: 'fold-steps', title: 'Fold or unfold the steps of the bench', words: 'hide show panel stack' },
  { id: 'fold-details', title: 'Fold or unfold the details', words: 'hide show panel', keys: ']', match: plain(']') },
  { id: 'deselect', title: 'Select nothing', words: 'escape none', match: (event) => event.key === 'Escape' },
  { id: 'run', title: 'To the machine: run the job', words: 'start burn laser machine go send', keys: 'G', match: plain('g') },
  { id: 'library', title: 'Open the library', words: 'clip art assets' },
  { id: 'journal', title: 'Open the journal', words: 'history log runs' },
  { id: 'machines', title: 'Open the machines', words: 'profile settings device' },
  {
    id: 'second-side',
    title: 'Give the workpiece a second side, turned over like a page',
    words: 'back reverse underside flip both faces',
    keys: 'Shift U',
    match: shifted('u'),
  },
  { id: 'units', title: 'Millimetres or inches', words: 'inch millimetre', keys: 'U', match: plain('u') },
  { id: 'speed-units', title: 'Next unit of speed' },
  { id: 'theme', title: 'Light or dark', words: 'dark light contrast' },
  { id: 'workpiece', title: 'Change the workpiece', words: 'material stock size blank', keys: 'P', match: plain('p') },
  { id: 'machine', title: 'Change the machine', words: 'laser device' },
  { id: 'board', title: 'Back to the job board', keys: 'J', match: plain('j') },
]

/** Space presses what has the focus. */
const isButton = (event: KeyboardEvent): boolean =>
  event.target instanceof Element &&
  event.target.matches('button, a, [role=button], [role=listitem], summary, input[type=checkbox]')

type Handlers = Readonly<Record<string, () => void>>

const registered = new Set<Handlers>()
const offered = new Set<readonly Command[]>()

/**
 * Says what commands do, as long as a part of the page is there. @param own commands that only this part has
 * @returns the way to take it back
 */
export function onCommand(handlers: Handlers, own: readonly Command[] = []): () => void {
  registered.add(handlers)
  offered.add(own)
  return () => {
    registered.delete(handlers)
    offered.delete(own)
  }
}

/** Commands that can be found by some words, each by its title or by what the trade calls it. */
export function foundCommands(text: string): readonly Command[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  return [...COMMANDS, ...[...offered].flat()].filter(({ id, title, words: more = '' }) => {
    const all = `${title} ${more}`.toLowerCase()
    return canRun(id) && words.every((word) => all.includes(word))
  })
}

export function runCommand(id: string): void {
  for (const handlers of [...registered]) handlers[id]?.()
}

/** Whether a command can be done on this page. */
export const canRun = (id: string): boolean => [...registered].some((handlers) => id in handlers)

/** Runs the command that a key stands for, unless somebody is typing. */
export function runKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement | null
  const typing = target?.matches?.('input:not([type=checkbox], [type=range]), textarea, [contenteditable]') ?? false
  const command = COMMANDS.find(({ match }) => match?.(event))
  if (!command || !canRun(command.id)) return
  if (typing && !(event.ctrlKey || event.metaKey)) return
  // Undo inside a field belongs to the text, unless nothing is typed there.
  if (typing && target?.dataset.typed !== 'no' && (command.id === 'undo' || command.id === 'redo')) return
  event.preventDefault()
  runCommand(command.id)
}
