import type { Path } from '../../geometry/path.ts'

/** Something that lies on the bed, as a photo shows it. */
export interface SeenBlank {
  /** Its edge, and those of its holes: smooth where it is smooth, with corners where it has corners; mm of the bed. */
  readonly edge: Path
  readonly holes: readonly Path[]
  readonly areaMm2: number
  /** It reaches beyond what the photo or the bed shows. */
  readonly cutOff: boolean
  /** Along so much of its edge it looks like what is beside it, 0–1. */
  readonly faint: number
}
