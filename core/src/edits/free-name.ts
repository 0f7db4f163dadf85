/** A name that is not taken yet: the one wanted, or with the first number that is free. */
export function freeName(taken: Readonly<Record<string, unknown>>, name: string): string {
  let free = name
  for (let i = 2; free in taken; i++) free = `${name}${i}`
  return free
}
