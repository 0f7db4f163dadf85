import AddIcon from '@mui/icons-material/Add'
import RemoveIcon from '@mui/icons-material/Remove'
import { Box, IconButton, Typography } from '@mui/material'
import type { RunReport } from '@neotaxis/contract'
import { runOrders } from '../../api/orders.ts'
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
      <Typography variant="h3" sx={{ mb: 0.5 }}>
        Nudge while it runs
      </Typography>
      {rows.map(({ name, share, hint, change }) => (
        <Box key={name} sx={{ display: 'flex', alignItems: 'center', borderBottom: 1, borderColor: 'divider', py: 0.6 }}>
          <Box sx={{ flex: 1 }}>
            {name}
            <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>{hint}</Box>
          </Box>
          <IconButton
            aria-label={`Less ${name.toLowerCase()}`}
            onClick={() => change(-10)}
            sx={{ width: 44, height: 44, color: 'text.primary' }}
          >
            <RemoveIcon />
          </IconButton>
          <Box sx={{ fontWeight: 750, fontSize: 19, width: 66, textAlign: 'center' }} data-testid={`share-${name.toLowerCase()}`}>
            {share} %
          </Box>
          <IconButton
            aria-label={`More ${name.toLowerCase()}`}
            onClick={() => change(10)}
            sx={{ width: 44, height: 44, color: 'text.primary' }}
          >
            <AddIcon />
          </IconButton>
        </Box>
      ))}
    </Box>
  )
}
