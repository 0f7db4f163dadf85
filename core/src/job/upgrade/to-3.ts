import { type Kernel, PLAIN_DOTS, type TreatmentStep } from '../../picture/steps.ts'
import { each, type Stored } from './stored.ts'

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

/** Version 3: pictures are framed, and treated step by step; grey is burned as power. */
export const to3 = (job: Stored): Stored => ({
  ...job,
  version: 3,
  nodes: each(job.nodes, bringUpNode),
  operations: each(job.operations, bringUpOperation),
})
