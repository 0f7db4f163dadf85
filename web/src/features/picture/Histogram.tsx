import { Box, Slider, useTheme } from '@mui/material'
import { BarController, BarElement, CategoryScale, Chart as ChartJs, LinearScale } from 'chart.js'
import { memo, useMemo } from 'react'
import { Bar } from 'react-chartjs-2'
import { EDGE, TYPE } from '../../theme/tokens.ts'

ChartJs.register(BarController, BarElement, CategoryScale, LinearScale)

interface Props {
  readonly counts: Uint32Array | undefined
  readonly black: number
  readonly white: number
  readonly onChange: (black: number, white: number) => void
  readonly onDone: () => void
  readonly fixed: boolean
}

const BINS = 64

/** Tones that come in, with the ends that become black and white under them, and what each end loses. */
export const Histogram = memo(function Histogram({ counts, black, white, onChange, onDone, fixed }: Props) {
  const { palette } = useTheme()
  const { bars, all } = useMemo(() => {
    const sums = new Array<number>(BINS).fill(0)
    let total = 0
    counts?.forEach((n, v) => {
      sums[v >> 2] += n
      total += n
    })
    const inner = [...sums.slice(1, -1)].sort((a, b) => a - b)
    // Paper and ink alone would flatten the rest: the highest bars are cut.
    const top = Math.max(1, inner[Math.floor(inner.length * 0.95)] * 1.6)
    return { bars: sums.map((n) => Math.min(n, top)), all: Math.max(1, total) }
  }, [counts])
  const lost = (fits: (v: number) => boolean): string => {
    let n = 0
    counts?.forEach((count, v) => {
      if (fits(v)) n += count
    })
    return `${((100 * n) / all).toFixed(1)} %`
  }
  return (
    <Box>
      <Box sx={{ height: 74, bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: `${EDGE.small}px` }}>
        <Bar
          aria-label="Histogram: how much of the picture has each tone"
          data={{
            labels: bars.map((_, i) => i * 4),
            datasets: [
              {
                data: bars,
                backgroundColor: bars.map((_, i) =>
                  i * 4 < black - 3 || i * 4 > white ? palette.divider : palette.text.secondary,
                ),
                barPercentage: 1,
                categoryPercentage: 1,
              },
            ],
          }}
          options={{
            animation: false,
            responsive: true,
            maintainAspectRatio: false,
            events: [],
            plugins: { legend: { display: false }, tooltip: { enabled: false } },
            scales: { x: { display: false }, y: { display: false, beginAtZero: true } },
          }}
        />
      </Box>
      <Slider
        size="small"
        disabled={fixed}
        value={[black, white]}
        min={0}
        max={255}
        disableSwap
        getAriaLabel={(i) => (i === 0 ? 'Black at' : 'White at')}
        onChange={(_, value) => {
          const [b, w] = value as number[]
          if (w - b >= 1) onChange(b, w)
        }}
        onChangeCommitted={onDone}
        sx={{ display: 'block', width: 'calc(100% - 14px)', mx: 'auto', py: 1 }}
      />
      <Box sx={{ display: 'flex', justifyContent: 'space-between', fontSize: TYPE.tiny, color: 'text.secondary' }}>
        <span>{lost((v) => v < black)} lost in dark</span>
        <span>{lost((v) => v > white)} in light</span>
      </Box>
    </Box>
  )
})
