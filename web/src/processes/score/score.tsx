import { LineDose } from '../cut/cut.tsx'
import { alittleMore, NOTHING, type ProcessPage } from '../process-page.ts'

export const score: ProcessPage = {
  name: 'Score',
  texture: 'linear-gradient(to top, transparent 2px, rgb(0 0 0 / 34%) 2px 4px, transparent 4px)',
  textureSize: '100% 100%',
  question: 'as expected?',
  answers: [
    ['yes', 'as expected'],
    ['light', 'too light'],
    ['dark', 'too dark'],
  ],
  wellDone: 'as expected',
  again: alittleMore,
  hasTone: true,
  Fields: NOTHING,
  Dose: LineDose,
}
