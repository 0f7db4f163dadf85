import { Box, useTheme } from '@mui/material'
import type { MonthUse } from '@neotaxis/contract'
import { BarElement, CategoryScale, Chart as ChartJs, Legend, LinearScale, Tooltip } from 'chart.js'
import { useMemo } from 'react'
import { Bar } from 'react-chartjs-2'
import { Card } from '../../parts/Card.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet } from '../../parts/words.tsx'
import { runColour } from '../../theme/run-ramp.ts'
import { TYPE } from '../../theme/tokens.ts'
import { tellArea, tellMoney } from '../field/told.ts'
import { monthsBack } from './months.ts'

ChartJs.register(CategoryScale, LinearScale, BarElement, Tooltip, Legend)

/** So many months are shown, and so many materials by their name; the others stand together. */
const MONTHS = 12
const NAMED = 5

interface Props {
  readonly months: readonly MonthUse[]
  readonly currency: string
  /** Now, as in 2026-11. */
  readonly until: string
}

/** What was used month by month, by material. */
export function MonthChart({ months, currency, until }: Props) {
  const { palette } = useTheme()
  const shown = useMemo(() => monthsBack(until, MONTHS), [until])
  const named = useMemo(() => {
    const area = new Map<string, number>()
    for (const { material, areaMm2 } of months) area.set(material, (area.get(material) ?? 0) + areaMm2)
    return [...area]
      .sort((a, b) => b[1] - a[1])
      .slice(0, NAMED)
      .map(([name]) => name)
  }, [months])
  const groups = [...named, ...(months.some(({ material }) => !named.includes(material)) ? ['others'] : [])]
  const of = (month: string, group: string): readonly MonthUse[] =>
    months.filter((use) => use.month === month && (group === 'others' ? !named.includes(use.material) : use.material === group))
  const sum = (uses: readonly MonthUse[], key: 'areaMm2' | 'cents'): number => uses.reduce((all, use) => all + use[key], 0)
  const year = months.filter(({ month }) => shown.includes(month))
  return (
    <Card gap="none" as="section" aria-label="Used by month" pad="wide">
      <Title variant="h2">Used by month</Title>
      <Quiet bottom="snug">
        {year.length === 0
          ? 'Nothing yet: a run on a piece of stock is counted when it is done.'
          : `In twelve months ${tellArea(sum(year, 'areaMm2'))}, worth ${tellMoney(sum(year, 'cents'), currency)}`}
      </Quiet>
      {year.length > 0 && (
        <Box sx={{ height: 210 }}>
          <Bar
            aria-label="Chart of what was used by month"
            data={{
              labels: shown.map(monthName),
              datasets: groups.map((group, i) => ({
                label: group,
                data: shown.map((month) => sum(of(month, group), 'areaMm2') / 1e6),
                backgroundColor: runColour(i, groups.length).fill,
              })),
            }}
            options={{
              animation: false,
              maintainAspectRatio: false,
              scales: {
                x: { stacked: true, grid: { display: false }, ticks: { color: palette.text.secondary } },
                y: {
                  stacked: true,
                  title: { display: true, text: 'm²', color: palette.text.secondary },
                  grid: { color: palette.divider },
                  ticks: { color: palette.text.secondary },
                },
              },
              plugins: {
                legend: {
                  display: groups.length > 1,
                  labels: { color: palette.text.primary, boxWidth: 12, font: { size: TYPE.tiny } },
                },
                tooltip: {
                  callbacks: {
                    label: ({ datasetIndex, dataIndex }) => {
                      const uses = of(shown[dataIndex], groups[datasetIndex])
                      return `${groups[datasetIndex]}: ${tellArea(sum(uses, 'areaMm2'))}, ${tellMoney(sum(uses, 'cents'), currency)}`
                    },
                  },
                },
              },
            }}
          />
        </Box>
      )}
    </Card>
  )
}

const monthName = (month: string): string =>
  new Intl.DateTimeFormat(undefined, { month: 'short' }).format(new Date(`${month}-15T12:00:00Z`))
