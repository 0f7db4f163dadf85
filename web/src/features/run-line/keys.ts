/** The keys that are held while a block is pressed. */
export interface Keys {
  readonly shiftKey: boolean
  readonly ctrlKey: boolean
  readonly metaKey: boolean
}

/** None of them: this block and no other. */
export const ALONE: Keys = { shiftKey: false, ctrlKey: false, metaKey: false }
