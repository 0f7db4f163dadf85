/** What happens between moves. */
export type PathEvent =
  /** It stands, with the beam as it is. */
  | { readonly kind: 'dwell'; readonly seconds: number }
  /** Air is switched; it goes on meanwhile. */
  | { readonly kind: 'air'; readonly on: boolean }
  /** It comes to rest, because the lens is moved next. */
  | { readonly kind: 'focus'; readonly zMm: number }
  /** It waits dark, out of the way, until somebody has done what is asked. */
  | { readonly kind: 'pause'; readonly text: string }
  /** The same in the midst of an operation, until somebody has set the lens to another focus. */
  | { readonly kind: 'refocus'; readonly text: string }
  /** The same, because the piece or the machine is prepared anew. */
  | { readonly kind: 'set-up'; readonly name: string }

/** Whether the machine comes to rest for it, and how long it stands of its own, s; undefined: it goes on. */
export function standsFor(event: PathEvent): number | undefined {
  if (event.kind === 'air') return undefined
  return event.kind === 'dwell' ? event.seconds : 0
}
