import { fociOf } from '../curved/foci.ts'
import { focusMm, followsFace } from '../curved/in-focus.ts'
import type { Finding } from '../findings/finding.ts'
import { burnOrder, type JobDocument, mainPiece, materialOf } from '../job/document/document.ts'
import { outlineSize, type Workpiece } from '../job/document/workpiece.ts'
import { fittedLens, type Machine } from '../machine/machine.ts'
import { levellingDeg } from '../rotary/cone.ts'
import { settingWords } from '../rotary/plugged.ts'
import { coneOf } from '../rotary/round-face.ts'
import { type Pose, poseBounds } from '../space/pose.ts'
import { outlineArea } from '../stock/stock-piece.ts'

/** One thing to see to before the beam goes on. */
export interface PreflightItem {
  readonly id: string
  readonly title: string
  readonly detail: string
  /** Routine is ticked together; the focus must have been set or said, and what the check asks is answered one by one. */
  readonly kind: 'routine' | 'focus' | 'asked'
  /** Something the machine can do for it. */
  readonly action?: 'focus' | 'frame'
  /** A place of the main face that the head can be sent to for it, mm. */
  readonly place?: readonly [number, number]
}

const mm = (value: number): string => String(Number(value.toFixed(1)))

/** Where a workpiece lies, in words. */
export const poseWords = ({ xMm, yMm, deg }: Pose): string =>
  deg
    ? `turned ${mm(Math.abs(deg))}° ${deg > 0 ? 'clockwise' : 'anticlockwise'}, its box ${mm(xMm)} mm from the left, ${mm(yMm)} mm from the rear before it is turned`
    : `corner ${mm(xMm)} mm from the left, ${mm(yMm)} mm from the rear`

/** What the source's pulses are set to, for each operation that says so. */
function pulsesOf(job: JobDocument): string[] {
  if (!job.machine.pulses) return []
  const said = burnOrder(job).flatMap((id, i) => {
    const { pulseHz, pulseNs } = job.operations[id]
    const words = [
      ...(pulseHz === undefined ? [] : [`${mm(pulseHz / 1000)} kHz`]),
      ...(pulseNs === undefined ? [] : [`${mm(pulseNs)} ns`]),
    ].join(', ')
    return words === '' ? [] : [{ words, place: i + 1 }]
  })
  return [...new Set(said.map(({ words }) => words))].map((words) => {
    const places = said.filter((each) => each.words === words).map(({ place }) => place)
    return `Pulses of ${words} for ${places.join(', ')}`
  })
}

/** What lies in the machine, in words. */
function laidWords(job: JobDocument): string {
  const pieces = Object.values(job.workpieces).filter(({ back }) => back === undefined)
  const material = materialOf(job)
  const { thicknessMm } = mainPiece(job)
  if (pieces.length === 1) return `${material.name} ${mm(thicknessMm)} mm lies flat in its place`
  const names = [...new Set(pieces.map((piece) => job.materials[piece.material].name))]
  return `${pieces.length} workpieces of ${names.join(' and ')} lie flat, each in its place`
}

/** Lighter than this, the air of the assist moves a piece, g; about, by a density that most sheets have. */
const LIGHT_G = 40
const GRAMS_PER_MM3 = 0.0008

/** What keeps light pieces from being blown away. */
function holdDown(job: JobDocument): string[] {
  const { machine } = job
  const isBlown = machine.hasAir && burnOrder(job).some((id) => job.operations[id].air)
  const light = Object.values(job.workpieces).filter(
    ({ outline, thicknessMm }) => outlineArea(outline) * thicknessMm * GRAMS_PER_MM3 < LIGHT_G,
  )
  if (!isBlown || light.length === 0) return []
  const some = light.length === Object.keys(job.workpieces).length ? 'it is light' : `${light.length} of them are light`
  return [`${some}: hold it down with pins, weights or a jig, the air assist moves it`]
}

/** Where the focus lies, where that is not simply on the piece. */
function focusTold(job: JobDocument): string {
  const piece = mainPiece(job)
  if (followsFace(job, piece)) return ': the lens follows its face from there'
  const under = piece.thicknessMm - focusMm(job)
  const deeper = fociOf(job, piece).slice(1)
  const waits =
    deeper.length > 0 ? `; farther out ${deeper.map(({ underMm }) => mm(underMm)).join(', ')} mm, the program waits for that` : ''
  return under > 0 ? `, ${mm(under)} mm under its crown${waits}` : ''
}

/** The list before a start, made from this job: its workpiece, its material, its machine, its operations. */
export function preflight(job: JobDocument, findings: readonly Finding[]): PreflightItem[] {
  const { machine } = job
  const workpiece = mainPiece(job)
  const material = materialOf(job)
  const lens = fittedLens(machine)
  const air = burnOrder(job).some((id) => job.operations[id].air)
  const prepared = [...new Set(burnOrder(job).flatMap((id) => job.operations[id].prepared ?? []))]
  const items: PreflightItem[] = [
    {
      id: 'workpiece',
      title: laidWords(job),
      detail: [poseWords(workpiece.pose), ...holdDown(job)].join(' · '),
      kind: 'routine',
      action: 'frame',
    },
    ...safetyItems(job),
    ...(material.warnings ?? []).map((warning, i) => ({
      id: `warning-${i}`,
      title: `${material.name}: ${warning}`,
      detail: 'what this material is known for',
      kind: 'routine' as const,
    })),
    ...(prepared.length > 0
      ? [
          {
            id: 'prepared',
            title: `The piece is prepared: ${prepared[0]}`,
            detail:
              prepared.length > 1 ? `for what burns first; later ${prepared.slice(1).join(', then ')}` : 'for what it burns',
            kind: 'routine' as const,
          },
        ]
      : []),
    {
      id: 'focus',
      title: `In focus on ${mm(workpiece.thicknessMm)} mm${focusTold(job)}`,
      detail: `${lens.name} lens, ±${mm(lens.depthOfFocusMm)} mm${machine.axes.z ? '' : ': set it with the gauge'}`,
      kind: 'focus',
      ...(machine.axes.z && { action: 'focus' as const }),
    },
    ...pulsesOf(job).map((words, i) => ({
      id: `pulses-${i}`,
      title: words,
      detail: 'the program cannot set it: at the source',
      kind: 'routine' as const,
    })),
    {
      id: 'exhaust',
      title: machine.hasAir && air ? 'Exhaust and air assist are on' : 'The exhaust is on',
      detail: machine.hasAir && air ? 'the program switches the air' : 'no air assist in this job',
      kind: 'routine',
    },
    ...rotaryItems(machine, workpiece),
    { id: 'cover', title: 'Masking and cover are off', detail: 'where it burns', kind: 'routine' },
    {
      id: 'people',
      title: 'Eyewear on, extinguisher in reach',
      detail: 'and someone stays until it is cold',
      kind: 'routine',
    },
  ]
  const asked = findings
    .filter(({ severity, meant }) => severity === 'ask' && !meant)
    .map((finding) => ({
      id: `finding-${finding.id}`,
      title: finding.message,
      detail: 'asked by the check of this job: answer it by itself',
      kind: 'asked' as const,
    }))
  return [...items, ...asked]
}

/** What is to be known of the smoke and the fire of what is burned, and what it must not be taken for. */
function safetyItems(job: JobDocument): PreflightItem[] {
  const burned = [...new Set(Object.values(job.workpieces).map(({ material }) => material))]
  return burned.flatMap((id): PreflightItem[] => {
    const { name, fumes, fire, lookAlikes = [] } = job.materials[id]
    const routine = (kind: string, title: string, detail: string): PreflightItem => ({
      id: `${kind}-${id}`,
      title,
      detail,
      kind: 'routine',
    })
    return [
      ...lookAlikes.map((other, i) =>
        routine(
          `look-alike-${i}`,
          `It is ${name.toLowerCase()}, not ${other.name.toLowerCase()}`,
          `${other.toldBy}${other.forbidden ? ` · ${other.name} must never be lasered` : ''}`,
        ),
      ),
      ...(fumes ? [routine('fumes', `Smoke of ${name.toLowerCase()}: ${fumes}`, 'the exhaust takes it away')] : []),
      ...(fire ? [routine('fire', `Fire: ${fire}`, `how ${name.toLowerCase()} burns`)] : []),
    ]
  })
}

/** What is to be seen to where something turns; and that nothing does where the piece is flat. */
function rotaryItems({ turns }: Machine, { surface, outline, keepOuts, marks }: Workpiece): PreflightItem[] {
  if (!turns) return [{ id: 'rotary', title: 'No rotary is plugged in', detail: 'this job burns a flat piece', kind: 'routine' }]
  const { device, diameterMm } = turns
  const tilt =
    surface.kind === 'cone'
      ? `, its axis tilted ${mm(levellingDeg(coneOf(surface, outlineSize(outline).widthMm)))}° so that its upper side is level`
      : ''
  const ends =
    surface.kind === 'flat'
      ? ''
      : [surface.lip && `its lip at the ${surface.lip}`, surface.held && `held at the ${surface.held}`].filter(Boolean).join(', ')
  const [mark] = Object.values(marks)
  const [free] = Object.values(keepOuts)
  const box = free && poseBounds(free.pose, outlineSize(free.outline))
  const middle = box && ([(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2] as const)
  const at = mark ? ([mark.xMm, mark.yMm] as const) : middle
  const by = 'with the head there, turn the piece by hand until it is under the beam'
  const start = at
    ? {
        what: mark ? 'The mark on the piece' : `“${free.name}”`,
        place: at,
        detail: `${mm(at[0])} mm from the left, ${mm(at[1])} mm around from the seam; ${by}${ends && `; ${ends}`}`,
      }
    : ends
      ? { what: 'The piece', place: undefined, detail: ends }
      : undefined
  return [
    { id: 'rotary', title: `${device.name} is plugged in`, detail: settingWords(turns), kind: 'routine' },
    {
      id: 'rotary-turns',
      title: `Ø ${mm(diameterMm)} mm lies level in it and turns freely${tilt}`,
      detail: 'once around by hand: nothing touches, nothing slips, nothing hangs down',
      kind: 'routine',
    },
    ...(start
      ? [
          {
            id: 'rotary-start',
            title: `${start.what} is where its face says`,
            detail: start.detail,
            kind: 'routine' as const,
            ...(start.place && { place: start.place }),
          },
        ]
      : []),
  ]
}
