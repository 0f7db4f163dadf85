import type { MachineCamera } from '@neotaxis/contract'
import { addressOf } from '@neotaxis/contract/paths'
import {
  type BlankPiece,
  bedSize,
  blankPieces,
  faceSize,
  type JobDocument,
  mapped,
  outlineSize,
  type PieceSeen,
  pieceSeen,
  poseFound,
  poseMap,
  type SeenAt,
  type SeenBlank,
  sameShape,
  scanStops,
  type Workpiece,
} from '@neotaxis/core'
import { useSyncExternalStore } from 'react'
import { call } from '../../api/call.ts'
import { cameraOrders } from '../../api/orders.ts'
import { cameraWork, codeIn, endCameraWork } from './camera-work.ts'
import { nearPhoto } from './near-photo.ts'

/** A blank that was found, as a workpiece would have it. */
export interface FoundBlank {
  readonly seen: SeenBlank
  readonly piece: BlankPiece
  readonly like: number
}

/** Chooses blanks, moves the nodes of an edge, paints something to it or away. */
export type BlankHand = 'choose' | 'nodes' | 'add' | 'take'

/** The bed as a photo shows it. */
export interface BedPhoto {
  readonly machine: string
  readonly camera: MachineCamera
  readonly takenAt: number
  readonly jpeg: Blob
  readonly bed: { readonly widthMm: number; readonly heightMm: number }
  /** Pictures of the bed from above, by the height that is looked at, mm. */
  readonly pictures: ReadonlyMap<number, ImageBitmap>
  readonly blanks: readonly FoundBlank[]
  /** Which of the blanks are meant, by their number. */
  readonly chosen: readonly number[]
  /** What the hand does with them on the stage. */
  readonly hand: BlankHand
  /** What is painted just now, mm of the bed. */
  readonly stroke: { readonly line: readonly number[]; readonly halfMm: number } | undefined
  /** What was found, before each correction by hand. */
  readonly before: readonly (readonly FoundBlank[])[]
  /** What a code in it says. */
  readonly code: string | undefined
  /** The marks of the frame: where they were, and where this photo shows them. */
  readonly fixed: readonly SeenAt[]
  /** How the workpieces lay in the job when it was taken. */
  readonly laid: Readonly<Record<string, Workpiece['pose']>>
}

interface State {
  readonly photo: BedPhoto | undefined
  /** What is being done, as a word. */
  readonly doing: string
  readonly trouble: string
}

/** A finer scan has so many pixels a mm, and in all at most so many. */
const FINE_PX_PER_MM = 20
const MOST_PX = 24e6
let given = false

/** Nothing was corrected by hand. */
const UNTOUCHED = { hand: 'choose' as BlankHand, stroke: undefined, before: [] }

const NOTHING: State = { photo: undefined, doing: '', trouble: '' }
let state: State = NOTHING
const listeners = new Set<() => void>()

function set(change: Partial<State>): void {
  state = { ...state, ...change }
  for (const listener of listeners) listener()
}

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** What the stage shows of the bed's photo, where it shows one of this machine. */
export const useBedPhoto = (machine?: string): State => {
  const now = useSyncExternalStore(subscribe, () => state)
  return machine !== undefined && now.photo && now.photo.machine !== machine ? { ...now, photo: undefined } : now
}

/** What went wrong last, as a sentence. */
export const bedPhotoTrouble = (): string => state.trouble || 'The photo was not taken: try it again.'

export async function jpegOf(machine: string, widthPx?: number): Promise<Blob> {
  const response = await call(addressOf('takePhoto', { id: machine }), {
    method: 'POST',
    body: JSON.stringify(widthPx === undefined ? {} : { widthPx }),
  })
  return response.blob()
}

/** The camera at the head of a machine, as it is asked for. */
export const atHead = (machine: string): string => `${machine}@head`

const wrong = (cause: unknown): string => (cause instanceof Error ? cause.message : 'It cannot be done.')

/** Does something that takes a moment; what goes wrong is told. */
async function doing<T>(what: string, work: () => Promise<T>): Promise<T | undefined> {
  if (state.doing) return undefined
  set({ doing: what, trouble: '' })
  try {
    return await work()
  } catch (cause) {
    set({ trouble: wrong(cause) })
    return undefined
  } finally {
    set({ doing: '' })
  }
}

const poses = ({ workpieces }: JobDocument): BedPhoto['laid'] =>
  Object.fromEntries(Object.entries(workpieces).map(([id, { pose }]) => [id, pose]))

/** Takes a photo of the bed of a job's machine and shows it. @returns whether it is there */
export async function photographBed(job: JobDocument): Promise<boolean> {
  const { machine } = job
  const made = await doing('Taking a photo', async () => {
    if (machine.turns)
      throw new Error(
        'This piece turns in a rotary: the camera sees the top of it only. Place artwork on its face, or as it turns.',
      )
    const { camera } = await cameraOrders.told(machine.id)
    if (!camera) throw new Error('There is no camera over this machine: give its address under Machines.')
    if (!camera.calibration) throw new Error('The camera is not calibrated yet: do that once, under Machines.')
    const jpeg = await jpegOf(machine.id)
    const bed = bedSize(machine)
    const size = await cameraWork().take(jpeg)
    const own = camera.calibration.camera
    if (!sameShape(size, own))
      throw new Error('The photo has another shape than those the camera was calibrated with: calibrate it anew, under Machines.')
    const flat = await cameraWork().bed(own, bed, 0)
    const fixed = camera.calibration.fixed ? await cameraWork().marks(own, camera.calibration.fixed, 0) : []
    const about = { machine: machine.id, camera, takenAt: Date.now(), jpeg, bed, code: undefined, fixed, laid: poses(job) }
    return { ...about, pictures: new Map([[0, flat]]), blanks: [], chosen: [], ...UNTOUCHED }
  })
  if (!made) return false
  state.photo?.pictures.forEach((picture) => {
    picture.close()
  })
  set({ photo: made })
  // A code is looked for beside what is done next.
  void lookForCode(made)
  return true
}

async function lookForCode({ jpeg }: BedPhoto): Promise<void> {
  try {
    const code = await codeIn(jpeg)
    if (state.photo?.jpeg === jpeg && code) set({ photo: { ...state.photo, code } })
  } catch {
    // Without it, the shelf is looked through by hand.
  }
}

const asked = new Set<number>()

/** Sees to it that the bed is there as it is seen at a height, mm: what is that thick lies where it is shown. */
export function wantHeight(heightMm: number): void {
  const { photo } = state
  if (!photo || photo.pictures.has(heightMm) || asked.has(heightMm)) return
  asked.add(heightMm)
  void cameraWork()
    .bed(photo.camera.calibration!.camera, photo.bed, heightMm)
    .then((picture) => {
      if (state.photo?.jpeg === photo.jpeg)
        set({ photo: { ...state.photo, pictures: new Map([...state.photo.pictures, [heightMm, picture]]) } })
    })
    .catch((cause: unknown) => set({ trouble: wrong(cause) }))
    .finally(() => asked.delete(heightMm))
}

/** The empty bed to compare with, where it is known. */
async function emptyBed({ empty }: MachineCamera): Promise<{ readonly of: string; readonly jpeg: Blob } | undefined> {
  if (empty === null) return undefined
  return { of: empty, jpeg: await (await call(addressOf('asset', { sha256: empty }))).blob() }
}

/** Looks for what lies on the bed, so thick. */
export async function lookForBlanks(thicknessMm: number): Promise<void> {
  const { photo } = state
  if (!photo) return
  const found = await doing('Looking for what lies there', async () => {
    const bare = await emptyBed(photo.camera)
    const seen = await cameraWork().blanks(photo.camera.calibration!.camera, photo.bed, thicknessMm, bare)
    if (seen.length === 0)
      throw new Error(
        'Nothing was found on the bed. What looks like the bed is found once the empty bed is known; its edge can always be drawn by hand.',
      )
    const pieces = blankPieces(seen)
    return seen.map((each, i): FoundBlank => ({ seen: each, ...pieces[i] }))
  })
  if (found && state.photo?.jpeg === photo.jpeg)
    set({
      photo: { ...state.photo, ...UNTOUCHED, blanks: found, chosen: found.flatMap(({ seen }, i) => (seen.cutOff ? [] : [i])) },
    })
}

/** Where a workpiece is seen in the photo: by its marks where it has two, else by its edge. @returns a sentence where it is not */
export async function lookForPiece(piece: Workpiece): Promise<PieceSeen | string> {
  const { photo } = state
  if (!photo) return 'There is no photo yet: take one.'
  const found = await doing('Looking for the workpiece', async (): Promise<PieceSeen | string> => {
    const { camera } = photo.camera.calibration!
    const marks = Object.values(piece.marks)
    if (marks.length >= 2) {
      const map = poseMap(piece.pose, faceSize(piece))
      const known = marks.map(({ xMm, yMm }) => mapped(map, xMm, yMm))
      const seen = await cameraWork().marks(camera, known, piece.thicknessMm)
      const pairs = seen.flatMap(({ found: at }, i) => (at ? [{ known: [marks[i].xMm, marks[i].yMm] as const, found: at }] : []))
      if (pairs.length < 2)
        return `Only ${pairs.length} of its ${marks.length} marks is seen near where it is expected: move the workpiece in the job nearer to where it lies.`
      const made = poseFound(piece, pairs)
      return 'not' in made ? made.not : { pose: made.pose, offMm: Math.max(...made.registration.offMm) }
    }
    const bare = await emptyBed(photo.camera)
    const blanks = await cameraWork().blanks(camera, photo.bed, piece.thicknessMm, bare)
    return pieceSeen(piece, blanks) ?? `Nothing on the bed has the edge of “${piece.name}”: find it by its corners with the head.`
  })
  return found ?? state.trouble
}

/** A blank that was found as a picture at true scale, upright and its paper white: a file like any other. */
export async function scannedBlank({ piece }: FoundBlank, thicknessMm: number, name: string): Promise<File | undefined> {
  const { photo } = state
  if (!photo) return undefined
  return doing('Making a picture of it', async () => {
    // As fine as the photo is.
    const { camera } = photo.camera.calibration!
    const pxPerMm = camera.widthPx / photo.bed.widthMm
    const png = await cameraWork().scan(camera, { pose: piece.pose, size: outlineSize(piece.outline) }, thicknessMm, pxPerMm)
    return new File([png as Uint8Array<ArrayBuffer>], `${name}.png`, { type: 'image/png' })
  })
}

/** The same finer: the camera at the head goes over it, photo by photo. */
export async function scannedFiner({ piece }: FoundBlank, job: JobDocument, thicknessMm: number): Promise<File | undefined> {
  if (!state.photo) return undefined
  return doing('Looking from near', async () => {
    const { camera } = await cameraOrders.told(atHead(job.machine.id))
    if (!camera?.calibration) throw new Error('The camera at the head is not calibrated yet: do that once, under Machines.')
    const own = camera.calibration.camera
    const sheet = { pose: piece.pose, size: outlineSize(piece.outline) }
    const { widthMm, heightMm } = sheet.size
    const pxPerMm = Math.min(FINE_PX_PER_MM, Math.sqrt(MOST_PX / (widthMm * heightMm)))
    const stops = scanStops(sheet, own)
    given = false
    await cameraWork().beginSheet(sheet, pxPerMm)
    for (const [i, stop] of stops.entries()) {
      if (given) throw new Error('Given up: nothing was brought in.')
      set({ doing: `Photo ${i + 1} of ${stops.length}` })
      const { head } = await nearPhoto(job.machine, stop, job.machine.axes.z ? thicknessMm : undefined)
      await cameraWork().addToSheet(own, head)
    }
    const png = await cameraWork().endSheet(pxPerMm)
    return new File([png as Uint8Array<ArrayBuffer>], 'from the bed, fine.png', { type: 'image/png' })
  })
}

/** Gives up what is being worked out. */
export function giveUpCamera(): void {
  given = true
  endCameraWork()
  const { photo } = state
  set({ doing: '' })
  // The new worker has not seen the photo.
  if (photo) void cameraWork().take(photo.jpeg)
}

export const takeHand = (hand: BlankHand): void => {
  if (state.photo) set({ photo: { ...state.photo, hand, stroke: undefined } })
}

/** Shows a blank otherwise, while a hand is at it; what it is alike is told when it is let go. */
export function showBlank(i: number, seen: SeenBlank): void {
  const { photo } = state
  if (photo) set({ photo: { ...photo, blanks: photo.blanks.map((each, k) => (k === i ? { ...each, seen } : each)) } })
}

export const showStroke = (stroke: BedPhoto['stroke']): void => {
  if (state.photo) set({ photo: { ...state.photo, stroke } })
}

/** A blank as it was corrected by hand. @param from what was found before the hand came */
export function correctBlank(i: number, seen: SeenBlank, from: readonly FoundBlank[]): void {
  const { photo } = state
  if (!photo) return
  const all = photo.blanks.map((each, k) => (k === i ? seen : each.seen))
  const pieces = blankPieces(all)
  const blanks = all.map((each, k): FoundBlank => ({ seen: each, ...pieces[k] }))
  set({ photo: { ...photo, blanks, stroke: undefined, before: [...photo.before, from] } })
}

/** Takes the last correction back. */
export function uncorrect(): void {
  const { photo } = state
  const last = photo?.before.at(-1)
  if (photo && last) set({ photo: { ...photo, blanks: last, before: photo.before.slice(0, -1) } })
}

export const chooseBlanks = (chosen: readonly number[]): void => {
  if (state.photo) set({ photo: { ...state.photo, chosen } })
}

/** The blanks are workpieces now, or not wanted. @param job where they are workpieces: they lie as the photo shows them */
export const forgetBlanks = (job?: JobDocument): void => {
  if (state.photo) set({ photo: { ...state.photo, ...UNTOUCHED, blanks: [], chosen: [], ...(job && { laid: poses(job) }) } })
}

/** Takes the photo off the stage. */
export function putPhotoAway(): void {
  state.photo?.pictures.forEach((picture) => {
    picture.close()
  })
  set(NOTHING)
}
