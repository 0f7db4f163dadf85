import { SPACE, type Space } from '../theme/tokens.ts'

/** How a part lies among the others. */
export interface Laid {
  readonly gap?: Space
  /** Distance to what is over it, and under it. */
  readonly top?: Space
  readonly bottom?: Space
  /** Takes the room that is left. */
  readonly grow?: boolean
}

const LAID: readonly string[] = ['gap', 'top', 'bottom', 'grow']

/** Whether a prop goes on to the page's own element. @param own props of the part itself */
export const isOfPage =
  (...own: readonly string[]) =>
  (prop: string): boolean =>
    !LAID.includes(prop) && !own.includes(prop) && prop !== 'as'

export const laid = ({ top, bottom, grow }: Laid) => ({
  ...(top && { marginTop: SPACE[top] }),
  ...(bottom && { marginBottom: SPACE[bottom] }),
  ...(grow && { flex: 1, minWidth: 0 }),
})
