import { alittleMore, NOTHING, type ProcessPage } from '../process-page.ts'
import { PROCESS_WORDS } from '../process-words.ts'

export const program: ProcessPage = {
  ...PROCESS_WORDS.program,
  asWritten: 'Run as it is written: power is a share of what the program says.',
  texture: 'repeating-linear-gradient(135deg, rgb(255 255 255 / 14%) 0 2px, transparent 2px 9px)',
  textureSize: '100% 100%',
  question: 'as expected?',
  answers: [
    ['yes', 'as expected'],
    ['light', 'too little'],
    ['dark', 'too much'],
  ],
  wellDone: 'as expected',
  again: alittleMore,
  hasTone: false,
  Fields: NOTHING,
  Dose: NOTHING,
}
