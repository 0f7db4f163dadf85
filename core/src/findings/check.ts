import type { JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { acrossGrain } from './across-grain.ts'
import { beyondMachine } from './beyond-machine.ts'
import { burnedTwice } from './burned-twice.ts'
import { cutFirst } from './cut-first.ts'
import { cutThroughEngraving } from './cut-through-engraving.ts'
import { departed } from './departed.ts'
import { differ } from './differ.ts'
import { fallsOut } from './falls-out.ts'
import type { Finding, Found, Severity } from './finding.ts'
import { forbiddenMaterial } from './forbidden.ts'
import { harmed } from './harmed.ts'
import { heat } from './heat.ts'
import { jumpsAround } from './jumps-around.ts'
import { onKeepOut } from './keep-out.ts'
import { keptSettings } from './kept-settings.ts'
import { kerfMeasured } from './kerf-measured.ts'
import { licences } from './licence.ts'
import { lowResolution } from './low-resolution.ts'
import { nearEdge } from './near-edge.ts'
import { neverReached } from './never-reached.ts'
import { notTurned } from './not-turned.ts'
import { nothingToBurn } from './nothing-to-burn.ts'
import { oldCurve } from './old-curve.ts'
import { onRotary } from './on-rotary.ts'
import { otherThickness } from './other-thickness.ts'
import { outOfFocus } from './out-of-focus.ts'
import { outlineTrouble } from './outline-trouble.ts'
import { outsideBed } from './outside-bed.ts'
import { outsideWorkpiece } from './outside-workpiece.ts'
import { overDose } from './over-dose.ts'
import { overSafePower } from './over-safe-power.ts'
import { piecesOverlap } from './pieces-overlap.ts'
import { preparedDots } from './prepared-dots.ts'
import { programProblems } from './program-problems.ts'
import { pulses } from './pulses.ts'
import { thinParts } from './thin-parts.ts'
import { tooDense } from './too-dense.ts'
import { tooFast } from './too-fast.ts'
import { tooWeak } from './too-weak.ts'
import { underBed } from './under-bed.ts'
import { unprepared } from './unprepared.ts'
import { unproven } from './unproven.ts'

/** Every check there is. */
const CHECKS: readonly ((job: JobDocument, supply: Supply) => Found[])[] = [
  forbiddenMaterial,
  outsideBed,
  onRotary,
  outOfFocus,
  underBed,
  jumpsAround,
  beyondMachine,
  pulses,
  piecesOverlap,
  notTurned,
  outsideWorkpiece,
  nearEdge,
  onKeepOut,
  cutFirst,
  fallsOut,
  outlineTrouble,
  thinParts,
  acrossGrain,
  otherThickness,
  cutThroughEngraving,
  burnedTwice,
  nothingToBurn,
  lowResolution,
  preparedDots,
  tooFast,
  tooWeak,
  harmed,
  overDose,
  tooDense,
  overSafePower,
  neverReached,
  heat,
  keptSettings,
  kerfMeasured,
  unproven,
  departed,
  oldCurve,
  differ,
  unprepared,
  programProblems,
  licences,
]

const WEIGHT: Record<Severity, number> = { stop: 0, ask: 1, note: 2 }

/** All findings of a job, the gravest first. What was marked as meant stays so while it says the same. */
export function checkFindings(job: JobDocument, supply: Supply): Finding[] {
  return CHECKS.flatMap((check) => check(job, supply))
    .map((found) => ({ ...found, meant: found.severity !== 'stop' && job.meant[found.id] === found.message }))
    .sort((a, b) => WEIGHT[a.severity] - WEIGHT[b.severity])
}
