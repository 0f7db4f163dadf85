import { picture } from '../picture/picture.tsx'
import type { ProcessPage } from '../process-page.ts'
import { PROCESS_WORDS } from '../process-words.ts'

export const relief: ProcessPage = {
  ...picture,
  ...PROCESS_WORDS.relief,
  texture: 'linear-gradient(160deg, rgb(255 255 255 / 22%), transparent 45%, rgb(0 0 0 / 26%))',
  textureSize: '14px 10px',
}
