import { LineDose } from '../cut/cut.tsx'
import { ASKED_BY_TONE, NOTHING, type ProcessPage } from '../process-page.ts'

export const score: ProcessPage = {
  name: 'Score',
  texture: 'linear-gradient(to top, transparent 2px, rgb(0 0 0 / 34%) 2px 4px, transparent 4px)',
  textureSize: '100% 100%',
  ...ASKED_BY_TONE,
  Fields: NOTHING,
  Dose: LineDose,
}
