/** Which outline each new one was made from on this page: undone, it leads back there. */
const madeFrom = new Map<string, string>()

export const rememberMade = (id: string, from: string): void => void madeFrom.set(id, from)

/** The outline itself where it is there, else what it was made from. */
export function thereOrBefore(id: string, isThere: (id: string) => boolean): string {
  let at = id
  for (let before = madeFrom.get(at); !isThere(at) && before !== undefined; before = madeFrom.get(at)) at = before
  return at
}
