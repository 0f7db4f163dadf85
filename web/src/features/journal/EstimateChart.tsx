import { Box, Typography, useTheme } from '@mui/material'
import type { RunBrief } from '@neotaxis/contract'
import { formatDuration } from '@neotaxis/core/units/duration'
import { Chart as ChartJs, LinearScale, LineElement, LogarithmicScale, PointElement, Tooltip } from 'chart.js'
import { useMemo } from 'react'
import { Scatter } from 'react-chartjs-2'
import { Card } from '../../parts/Card.tsx'
import { Quiet } from '../../parts/words.tsx'

ChartJs.register(LinearScale, LogarithmicScale, PointElement, LineElement, Tooltip)

/** Times that a clock would be asked for, s. */
const ROUND_S = [1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1200, 1800, 3600, 7200, 18_000, 36_000, 86_400]
const MOST_TICKS = 6

/** Round times in a range: no more than there is room for. */
export function roundTimes(low: number, high: number): number[] {
  const all = ROUND_S.filter((time) => time >= low && time <= high)
  const step = Math.ceil(all.length / MOST_TICKS)
  return all.filter((_, i) => i % Math.max(1, step) === 0)
}

/** Estimate against real time, a point for each run to its end; on the line they are the same. */
export function EstimateChart({ runs, onRun }: { readonly runs: readonly RunBrief[]; readonly onRun: (id: string) => void }) {
  const { palette } = useTheme()
  const done = useMemo(
    () => runs.filter((run) => ['done', 'carried'].includes(run.phase) && run.seconds > 0 && run.estimateSeconds > 0),
    [runs],
  )
  if (done.length === 0) return null
  const all = done.flatMap((run) => [run.seconds, run.estimateSeconds])
  const low = Math.min(...all) * 0.8
  const high = Math.max(...all) * 1.25
  const offs = done.map((run) => run.seconds / run.estimateSeconds - 1).sort((a, b) => a - b)
  const middle = offs[Math.floor(offs.length / 2)] * 100
  const axis = (title: string) => ({
    type: 'logarithmic' as const,
    min: low,
    max: high,
    title: { display: true, text: title, color: palette.text.secondary },
    grid: { color: palette.divider },
    afterBuildTicks: (built: { ticks: { value: number }[] }) => {
      built.ticks = roundTimes(low, high).map((value) => ({ value }))
    },
    ticks: {
      color: palette.text.secondary,
      autoSkip: false,
      callback: (value: string | number) => formatDuration(Number(value)),
    },
  })
  return (
    <Card gap="none" as="section" aria-label="Estimate against real time">
      <Typography variant="h2">Estimate against real time</Typography>
      <Quiet bottom="snug">
        {done.length} run{done.length > 1 ? 's' : ''}: {done.length > 1 ? 'the middle one' : 'it'} took{' '}
        {Math.abs(middle).toFixed(1)} % {middle >= 0 ? 'longer' : 'less'} than estimated
      </Quiet>
      <Box sx={{ height: 230 }}>
        <Scatter
          aria-label="Chart of estimate against real time"
          data={{
            datasets: [
              {
                label: 'runs',
                data: done.map((run) => ({ x: run.estimateSeconds, y: run.seconds })),
                backgroundColor: palette.primary.main,
                pointRadius: 5,
                pointHoverRadius: 8,
              },
              {
                label: 'the same',
                data: [
                  { x: low, y: low },
                  { x: high, y: high },
                ],
                showLine: true,
                pointRadius: 0,
                borderColor: palette.text.secondary,
                borderDash: [4, 4],
                borderWidth: 1.5,
              },
            ],
          }}
          options={{
            animation: false,
            maintainAspectRatio: false,
            scales: { x: axis('estimate'), y: axis('real') },
            onClick: (_event, elements) => {
              const point = elements.find(({ datasetIndex }) => datasetIndex === 0)
              if (point) onRun(done[point.index].id)
            },
            plugins: {
              legend: { display: false },
              tooltip: {
                callbacks: {
                  label: ({ dataIndex, datasetIndex }) =>
                    datasetIndex === 0
                      ? `${done[dataIndex].name}: ${formatDuration(done[dataIndex].seconds)} of ${formatDuration(done[dataIndex].estimateSeconds)}`
                      : '',
                },
              },
            },
          }}
        />
      </Box>
    </Card>
  )
}
