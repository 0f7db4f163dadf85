import { useTheme } from '@mui/material'
import { type Material, topLayer } from '@neotaxis/core'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'

const WIDE = 400
const ROW = 26
const LEFT = 92

interface Band {
  readonly name: string
  readonly from: number
  readonly to: number | undefined
  readonly tone: 'marks' | 'lifts' | 'harms'
}

/** What light does to a material's face, over its dose: each window a bar on one scale of ratios. */
export function DoseLadder({ material }: { readonly material: Material }) {
  const { palette } = useTheme()
  const { markDose, liftDose, harmsBelow, name } = topLayer(material)
  const below = material.layers[1]?.name ?? 'what is below'
  const bands: Band[] = [
    { name: liftDose ? 'discolours' : 'marks', ...markDose, tone: 'marks' },
    ...(liftDose ? [{ name: `${name} lifts`, ...liftDose, tone: 'lifts' as const }] : []),
    ...(material.warpDose === undefined
      ? []
      : [{ name: 'warps', from: material.warpDose, to: undefined, tone: 'harms' as const }]),
    ...(harmsBelow === undefined ? [] : [{ name: `harms ${below}`, from: harmsBelow, to: undefined, tone: 'harms' as const }]),
  ]
  const ends = bands.flatMap(({ from, to }) => [from, to ?? from * 1.6])
  const [low, high] = [Math.min(...ends) / 1.7, Math.max(...ends) * 1.25]
  const at = (dose: number): number => LEFT + ((WIDE - LEFT - 8) * Math.log(dose / low)) / Math.log(high / low)
  const colours = { marks: palette.shop.ask, lifts: palette.primary.main, harms: palette.error.main }
  const ticks = [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100].filter((v) => v > low && v < high)
  const tall = ROW * bands.length + 24
  const told = bands
    .map((band) => `${band.name} from ${band.from}${band.to === undefined ? '' : ` to ${band.to}`} J/mm²`)
    .join(', ')
  return (
    <svg viewBox={`0 0 ${WIDE} ${tall}`} width="100%" role="img" aria-label={`On the face: ${told}`}>
      {ticks.map((v) => (
        <g key={v}>
          <line x1={at(v)} x2={at(v)} y1={0} y2={tall - 20} stroke={palette.divider} />
          <text x={at(v)} y={tall - 6} textAnchor="middle" fontSize={TYPE.tiny} fill={palette.text.secondary}>
            {v}
          </text>
        </g>
      ))}
      <text x={0} y={tall - 6} fontSize={TYPE.tiny} fill={palette.text.secondary}>
        J/mm²
      </text>
      {bands.map(({ name: band, from, to, tone }, i) => (
        <g key={band} transform={`translate(0 ${i * ROW})`}>
          <text x={0} y={17} fontSize={TYPE.small} fontWeight={WEIGHT.firm} fill={palette.text.primary}>
            {band}
          </text>
          <rect x={at(from)} y={5} width={at(to ?? high) - at(from)} height={16} rx={3} fill={colours[tone]} opacity={0.8} />
          {to === undefined && (
            <text x={WIDE - 14} y={17} textAnchor="end" fontSize={TYPE.tiny} fill={palette.error.contrastText}>
              and above
            </text>
          )}
        </g>
      ))}
    </svg>
  )
}
