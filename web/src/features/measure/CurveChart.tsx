import { useTheme } from '@mui/material'
import { type FittedCurve, INPUT_WORDS, QUANTITY_WORDS, type TrialQuantity } from '@neotaxis/core'
import { Chart as ChartJs, LinearScale, LineElement, PointElement, Tooltip } from 'chart.js'
import { useMemo } from 'react'
import { Scatter } from 'react-chartjs-2'
import { isAnswering } from './CurveFacts.tsx'

ChartJs.register(LinearScale, PointElement, LineElement, Tooltip)

/** A point that was measured. */
export interface ChartPoint {
  readonly key: string
  readonly x: number
  readonly y: number
  readonly label: string
}

interface Props {
  readonly quantity: TrialQuantity
  readonly points: readonly ChartPoint[]
  readonly curve: FittedCurve | undefined
  readonly high: number
  readonly onPoint?: (key: string) => void
}

/** The curve is drawn through so many places. */
const PLACES = 80

/** What was measured, the curve through it, where it is straight, and where the material begins to answer. */
export function CurveChart({ quantity, points, curve, high, onPoint }: Props) {
  const { palette } = useTheme()
  const { name, unit, per } = QUANTITY_WORDS[quantity]
  const drawn = useMemo(() => {
    if (!curve) return { line: [], straight: [], onset: [] }
    const { from, to, at, straight, onset } = curve
    const point = (x: number) => ({ x, y: at(x) * per })
    const span = (a: number, b: number) => Array.from({ length: PLACES + 1 }, (_, i) => point(a + ((b - a) * i) / PLACES))
    return {
      line: span(from, to),
      straight: span(...straight),
      onset: isAnswering(curve)
        ? []
        : [
            { x: onset, y: 0 },
            { x: onset, y: at(to) * per },
          ],
    }
  }, [curve, per])
  const axis = (text: string) => ({
    type: 'linear' as const,
    beginAtZero: true,
    title: { display: true, text, color: palette.text.secondary },
    grid: { color: palette.divider },
    ticks: { color: palette.text.secondary, maxTicksLimit: 7 },
  })
  return (
    <div style={{ height: high, position: 'relative' }}>
      <Scatter
        aria-label={`Chart of ${name} by ${INPUT_WORDS[quantity]}`}
        data={{
          datasets: [
            {
              label: 'measured',
              data: points.map(({ x, y }) => ({ x, y: y * per })),
              backgroundColor: palette.text.primary,
              pointRadius: 3.5,
              pointHoverRadius: 7,
            },
            {
              label: 'curve',
              data: drawn.line,
              showLine: true,
              pointRadius: 0,
              pointHitRadius: 0,
              borderColor: palette.primary.main,
              borderWidth: 2,
            },
            {
              label: 'straight',
              data: drawn.straight,
              showLine: true,
              pointRadius: 0,
              pointHitRadius: 0,
              borderColor: `${palette.primary.main}44`,
              borderWidth: 11,
            },
            {
              label: 'begins',
              data: drawn.onset,
              showLine: true,
              pointRadius: 0,
              pointHitRadius: 0,
              borderColor: palette.shop.ask,
              borderDash: [5, 4],
              borderWidth: 1.5,
            },
          ],
        }}
        options={{
          animation: false,
          maintainAspectRatio: false,
          scales: { x: axis(INPUT_WORDS[quantity]), y: axis(`${name}, ${unit}`) },
          onClick: (_event, elements) => {
            const hit = elements.find(({ datasetIndex }) => datasetIndex === 0)
            if (hit) onPoint?.(points[hit.index].key)
          },
          plugins: {
            legend: { display: false },
            tooltip: {
              filter: ({ datasetIndex }) => datasetIndex === 0,
              callbacks: {
                label: ({ dataIndex }) =>
                  `${points[dataIndex].label}: ${Number((points[dataIndex].y * per).toPrecision(3))} ${unit}`,
              },
            },
          },
        }}
      />
    </div>
  )
}
