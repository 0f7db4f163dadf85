import type { ProcessName } from '@neotaxis/core'

/** What a process is called. */
export interface ProcessWords {
  /** What it is called, in a word. */
  readonly name: string
  /** What somebody does with it: “cut”. */
  readonly does: string
  /** What artwork can be by it: “This can be: cut, scored, a picture”. */
  readonly made: string
  /** What else the trade calls it. */
  readonly words: string
}

/** The words of every process, for whoever needs nothing else of it. */
export const PROCESS_WORDS: Readonly<Record<ProcessName, ProcessWords>> = {
  cut: { name: 'Cut', does: 'cut', made: 'cut', words: 'contour through cut out vector' },
  score: { name: 'Score', does: 'score', made: 'scored', words: 'line mark fold vector' },
  area: { name: 'Fill', does: 'fill', made: 'filled', words: 'area hatch engrave vector' },
  picture: { name: 'Picture', does: 'engrave', made: 'a picture', words: 'engrave raster dots photo' },
  relief: { name: 'Relief', does: 'carve', made: 'a relief', words: 'carve 3d depth height' },
  guide: { name: 'Guide', does: 'guide', made: 'only a guide', words: 'help position not burned' },
  program: { name: 'Program', does: 'run', made: 'as written', words: 'gcode' },
}
