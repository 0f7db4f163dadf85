import type { Identity } from './identity.ts'

/** What an order needs: to look, to compose jobs, to run one machine or the machine of one run, to keep the shop. */
export type Need =
  | { readonly kind: 'look' | 'compose' | 'keep' }
  | { readonly kind: 'run'; readonly machine: string }
  | { readonly kind: 'run-of'; readonly run: string }

const LOOK: Need = { kind: 'look' }
const COMPOSE: Need = { kind: 'compose' }
const KEEP: Need = { kind: 'keep' }

/** Whoever is signed in may do these at a machine: what ends something, never what begins it. */
const ENDING = ['stop', 'hold', 'jog-end']

/** A path as the routes read it: they do not mind capitals, a slash at the end, or how letters are encoded. */
function partsOf(path: string): { readonly what: string; readonly id: string; readonly order: string | undefined } {
  const [what = '', id = '', order] = path.split('/').flatMap((part) => (part === '' ? [] : [decoded(part)]))
  return { what: what.toLowerCase(), id, order: order?.toLowerCase() }
}

function decoded(part: string): string {
  try {
    return decodeURIComponent(part)
  } catch {
    return part
  }
}

/** What a request needs. @param path below `/api` */
export function needOf(method: string, path: string): Need {
  const { what, id, order } = partsOf(path)
  if (method === 'GET' || method === 'HEAD') return what === 'people' ? KEEP : LOOK
  switch (what) {
    case 'machines':
      if (order === undefined) return KEEP
      return ENDING.includes(order) ? LOOK : { kind: 'run', machine: id }
    case 'runs':
      if (order === undefined) return COMPOSE
      return ENDING.includes(order) ? LOOK : { kind: 'run-of', run: id }
    case 'materials':
    case 'recipes':
    case 'import-rules':
    case 'rates':
    case 'people':
      return KEEP
    case 'session':
      return LOOK
    default:
      return COMPOSE
  }
}

/** Why somebody may not; undefined where they may. @param machineOf the machine that a run is on */
export function refusalOf(
  { composes, keeps, machines }: Identity,
  need: Need,
  machineOf: (run: string) => string | undefined,
): string | undefined {
  switch (need.kind) {
    case 'look':
      return undefined
    case 'compose':
      return composes || machines === 'all' || machines.size > 0
        ? undefined
        : 'You may look here, but not change anything: ask whoever keeps the shop.'
    case 'keep':
      return keeps ? undefined : 'Only who keeps the shop may change this.'
    case 'run':
    case 'run-of': {
      const machine = need.kind === 'run' ? need.machine : machineOf(need.run)
      // A run that is on no machine is refused by itself, with a better reason.
      if (machine === undefined || machines === 'all' || machines.has(machine)) return undefined
      return 'You are not certified for this machine, or not any more: ask whoever keeps the shop. Stop is open to you.'
    }
  }
}
