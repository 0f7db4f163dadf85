import type { Machine } from '../machine/machine.ts'
import { type Kernel, PLAIN_DOTS, type TreatmentStep } from '../picture/steps.ts'
import { JOB_VERSION } from './document.ts'

/** A machine profile as version 1 of the job had it: one spot, no lenses, no power curve, a head that is moved. */
interface FirstMachine
  extends Omit<Machine, 'kind' | 'powerCurve' | 'riseTimeS' | 'lenses' | 'lens' | 'focusTravelMm' | 'address'> {
  readonly spotMm: number
}

/** A machine profile of any version as it is now. What is none comes back as it is, for the schema to refuse. */
export function bringUpMachine(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || !('spotMm' in value)) return value
  const { spotMm, ...rest } = value as FirstMachine
  return {
    kind: 'moving-head',
    powerCurve: [],
    riseTimeS: 0,
    lenses: [{ id: 'l1', name: 'Lens', focalLengthMm: 50.8, spotMm, depthOfFocusMm: 2 }],
    lens: 'l1',
    focusTravelMm: 0,
    address: '',
    ...rest,
  }
}

/** A prepared picture as versions 1 and 2 had it: one set of tones, one kernel. */
interface FirstPicture {
  readonly kind: 'picture'
  readonly name: string
  readonly from: string
  readonly tone: {
    readonly black: number
    readonly white: number
    readonly gamma: number
    readonly brightness: number
    readonly contrast: number
    readonly invert: boolean
  }
  readonly kernel: Kernel
}

function bringUpNode(node: unknown): unknown {
  if (typeof node !== 'object' || node === null || !('kind' in node)) return node
  if (node.kind === 'source') return { framing: [], ...node }
  if (node.kind !== 'picture' || !('tone' in node)) return node
  const { kind, name, from, tone, kernel } = node as unknown as FirstPicture
  if (typeof tone !== 'object' || tone === null) return node
  const { black, white, gamma, brightness, contrast, invert } = tone
  const steps: Record<string, TreatmentStep> = {}
  if (black !== 0 || white !== 255 || gamma !== 1)
    steps.levels = { kind: 'levels', on: true, black, white, gamma, ink: [], paper: [] }
  if (brightness !== 0 || contrast !== 0) steps.contrast = { kind: 'contrast', on: true, brightness, contrast }
  if (invert) steps.invert = { kind: 'invert', on: true }
  return { kind, name, from, steps, order: Object.keys(steps), masks: {}, dots: { ...PLAIN_DOTS, kernel } }
}

function bringUpOperation(operation: unknown): unknown {
  if (typeof operation !== 'object' || operation === null || !('kind' in operation) || operation.kind !== 'picture')
    return operation
  return { minPower: 0, evenIn: 'power', passPowers: [], ...operation }
}

const each = (of: unknown, change: (value: unknown) => unknown): unknown =>
  typeof of === 'object' && of !== null ? Object.fromEntries(Object.entries(of).map(([id, value]) => [id, change(value)])) : of

/** A job document of an older version as it is now. @param value not checked yet: the schema comes after */
export function bringUp(value: { version?: unknown }): unknown {
  if (typeof value.version !== 'number' || value.version >= JOB_VERSION) return value
  const job = value as { version: number; machine?: unknown; nodes?: unknown; operations?: unknown }
  return {
    ...job,
    version: JOB_VERSION,
    machine: bringUpMachine(job.machine),
    nodes: each(job.nodes, bringUpNode),
    operations: each(job.operations, bringUpOperation),
  }
}
