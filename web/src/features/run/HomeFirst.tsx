import { Words } from '../../parts/words.tsx'

/** Why no place can be taken with the head now. */
export const HomeFirst = () => (
  <Words size="small" tone="quiet">
    The head must be at rest and know where it is: home it first.
  </Words>
)
