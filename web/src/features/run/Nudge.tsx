import AddIcon from '@mui/icons-material/Add'
import RemoveIcon from '@mui/icons-material/Remove'
import { Box, IconButton } from '@mui/material'
import type { RunReport } from '@neotaxis/contract'
import { runOrders } from '../../api/orders.ts'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'
import { useDoing } from './use-doing.ts'

/** Speed and power while it runs, in steps of a tenth. The beam follows the speed, so the dose changes with power alone. */
export function Nudge({ runId, report }: { readonly runId: string; readonly report: RunReport }) {
  const doing = useDoing()
  const set = (speed: number, power: number): void => {
    const bound = (share: number): number => Math.min(2, Math.max(0.1, Math.round(share) / 100))
    void doing(() => runOrders.adjust(runId, { speed: bound(speed), power: bound(power) }))
  }
  const { speedShare, powerShare } = report
  const rows = [
    { name: 'Speed', share: speedShare, hint: 'the dose stays', change: (by: number) => set(speedShare + by, powerShare) },
    { name: 'Power', share: powerShare, hint: 'changes the dose', change: (by: number) => set(speedShare, powerShare + by) },
  ]
  return (
    <Box component="section" aria-label="Nudge while it runs">
      <Title variant="h3" bottom="tight">
        Nudge while it runs
      </Title>
      {rows.map(({ name, share, hint, change }) => (
        <Box key={name} sx={{ display: 'flex', alignItems: 'center', borderBottom: 1, borderColor: 'divider', py: 0.6 }}>
          <Words grow>
            {name}
            <Quiet>{hint}</Quiet>
          </Words>
          <IconButton aria-label={`Less ${name.toLowerCase()}`} onClick={() => change(-10)} size="large">
            <RemoveIcon />
          </IconButton>
          <Box
            sx={{ fontWeight: WEIGHT.strong, fontSize: TYPE.title, width: 66, textAlign: 'center' }}
            data-testid={`share-${name.toLowerCase()}`}
          >
            {share} %
          </Box>
          <IconButton aria-label={`More ${name.toLowerCase()}`} onClick={() => change(10)} size="large">
            <AddIcon />
          </IconButton>
        </Box>
      ))}
    </Box>
  )
}
