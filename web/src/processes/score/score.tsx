import { LineDose } from '../cut/cut.tsx'
import { FollowFields } from '../FollowFields.tsx'
import { ASKED_BY_TONE, type ProcessPage } from '../process-page.ts'
import { PROCESS_WORDS } from '../process-words.ts'

export const score: ProcessPage = {
  ...PROCESS_WORDS.score,
  texture: 'linear-gradient(to top, transparent 2px, rgb(0 0 0 / 34%) 2px 4px, transparent 4px)',
  textureSize: '100% 100%',
  ...ASKED_BY_TONE,
  Fields: FollowFields,
  Dose: LineDose,
}
