import type { GuideOperation } from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { LineDose } from '../cut/cut.tsx'
import type { ProcessFieldsProps, ProcessPage } from '../process-page.ts'
import { PROCESS_WORDS } from '../process-words.ts'
import { score } from '../score/score.tsx'

function Fields({ operation, set }: ProcessFieldsProps) {
  return (
    <SwitchRow
      label="Draw it as a faint line"
      on={(operation as GuideOperation).drawn}
      onSwitch={(drawn) => set(drawn ? 'draw the guide' : 'only show the guide', { drawn })}
    />
  )
}

export const guide: ProcessPage = {
  ...score,
  ...PROCESS_WORDS.guide,
  texture: 'repeating-linear-gradient(90deg, rgb(0 0 0 / 30%) 0 5px, transparent 5px 10px)',
  textureSize: '100% 4px',
  Fields,
  Dose: (props) => ((props.operation as GuideOperation).drawn ? <LineDose {...props} /> : null),
}
