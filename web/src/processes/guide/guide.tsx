import { Box, Switch } from '@mui/material'
import type { GuideOperation } from '@neotaxis/core'
import { LineDose } from '../cut/cut.tsx'
import type { ProcessFieldsProps, ProcessPage } from '../process-page.ts'
import { score } from '../score/score.tsx'

function Fields({ operation, set }: ProcessFieldsProps) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', minHeight: 36 }}>
      <Box component="label" htmlFor="guide-drawn" sx={{ flex: 1 }}>
        Draw it as a faint line
      </Box>
      <Switch
        size="small"
        id="guide-drawn"
        checked={(operation as GuideOperation).drawn}
        onChange={(_, drawn) => set(drawn ? 'draw the guide' : 'only show the guide', { drawn })}
      />
    </Box>
  )
}

export const guide: ProcessPage = {
  ...score,
  name: 'Guide',
  texture: 'repeating-linear-gradient(90deg, rgb(0 0 0 / 30%) 0 5px, transparent 5px 10px)',
  textureSize: '100% 4px',
  Fields,
  Dose: (props) => ((props.operation as GuideOperation).drawn ? <LineDose {...props} /> : null),
}
