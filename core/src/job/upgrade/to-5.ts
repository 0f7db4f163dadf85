import { type Machine, wattsAt } from '../../machine/machine.ts'
import { lineDose, type Material } from '../../material/material.ts'
import { bringUpMachine } from './machine-axes.ts'
import { bringUpMaterial } from './material-layers.ts'
import { each, isRecord, type Stored } from './stored.ts'

/** The one workpiece of a job of version 4. */
const PIECE = 'piece'

/** The workpiece of version 4: a rectangle whose corner lies on the bed. */
function workpieceOf({ workpiece, onBed, material }: Stored): unknown {
  if (!isRecord(workpiece) || !isRecord(onBed) || !isRecord(material)) return undefined
  const { widthMm, heightMm, thicknessMm, ...unknown } = workpiece
  return {
    ...unknown,
    name: 'workpiece',
    material: material.id,
    outline: { kind: 'rect', widthMm, heightMm },
    surface: { kind: 'flat' },
    thicknessMm,
    keepOuts: {},
    marks: {},
    pose: onBed,
  }
}

/** Whether a node of version 4 gives lines to be followed: what was scored was a cut of such a node. */
function givesLines(nodes: unknown, id: unknown): boolean {
  const node = isRecord(nodes) && typeof id === 'string' ? nodes[id] : undefined
  if (!isRecord(node)) return false
  if (node.kind === 'trace') return node.mode === 'centreline'
  if (node.kind === 'part') return node.as === 'lines'
  if (node.kind === 'offset') return (typeof node.steps === 'number' && node.steps > 1) || node.both === true
  return node.kind === 'clean' && node.from !== id && givesLines(nodes, node.from)
}

/** Whether a cut's dose goes through the material; what cannot be told does. */
function cutsThrough({ machine, material }: Stored, { power, speedMmS, passes }: Stored): boolean {
  try {
    const dose = lineDose(wattsAt(machine as unknown as Machine, power as number), speedMmS as number) * (passes as number)
    return !(dose < (material as unknown as Material).cutDose.from)
  } catch {
    return true
  }
}

/** Which process an operation of version 4 was: a cut along lines that does not go through was a score, grey as depth a relief. */
function processOf(job: Stored, operation: Stored): unknown {
  const { kind, node } = operation
  if (kind === 'cut') return givesLines(job.nodes, node) && !cutsThrough(job, operation) ? 'score' : 'cut'
  if (kind !== 'picture') return kind
  const burned = isRecord(job.nodes) && typeof node === 'string' ? job.nodes[node] : undefined
  const isGrey = isRecord(burned) && isRecord(burned.dots) && burned.dots.kernel === 'none'
  return isGrey && (operation.evenIn === 'depth' || (typeof operation.minPower === 'number' && operation.minPower > 0))
    ? 'relief'
    : 'picture'
}

/** The steps of a job of version 4: its run order, with the pauses that hung on operations. */
function stepsOf({ operations, runOrder }: Stored): { readonly steps: unknown; readonly order: unknown } {
  if (!Array.isArray(runOrder) || !isRecord(operations)) return { steps: {}, order: runOrder }
  const steps: Record<string, unknown> = {}
  const order: string[] = []
  for (const id of runOrder as unknown[]) {
    const operation = typeof id === 'string' ? operations[id] : undefined
    const pause = isRecord(operation) ? operation.pauseBefore : undefined
    if (isRecord(pause)) {
      const key = freeKey(steps, operations)
      steps[key] = pause.newSetUp === true ? { kind: 'set-up', name: pause.text } : { kind: 'pause', text: pause.text }
      order.push(key)
    }
    steps[String(id)] = { kind: 'burn', operation: id }
    order.push(id as string)
  }
  return { steps, order }
}

function freeKey(steps: Stored, operations: Stored): string {
  for (let i = 1; ; i++) if (!(`pause${i}` in steps) && !(`pause${i}` in operations)) return `pause${i}`
}

/**
 * Version 5: workpieces with an outline and a pose, placements of roots on them, operations over any number of pieces, and
 * steps in an order.
 */
export function to5(job: Stored): Stored {
  const { workpiece: _w, onBed: _b, material, runOrder: _r, placements, operations, ...rest } = job
  return {
    ...rest,
    version: 5,
    machine: bringUpMachine(job.machine),
    workpieces: { [PIECE]: workpieceOf(job) },
    materials: isRecord(material) ? { [String(material.id)]: bringUpMaterial(material) } : material,
    placements: each(placements, (place, id) => (isRecord(place) ? { of: id, on: PIECE, ...place } : place)),
    operations: each(operations, (operation) => {
      if (!isRecord(operation)) return operation
      const { kind: _k, node, pauseBefore: _p, kerfMm, keeps, ...settings } = operation
      const process = processOf(job, operation)
      return {
        process,
        of: [node],
        ...settings,
        ...(process === 'score'
          ? {}
          : { ...(kerfMm === undefined ? {} : { kerfMm }), ...(keeps === undefined ? {} : { keeps }) }),
      }
    }),
    ...stepsOf(job),
  }
}
