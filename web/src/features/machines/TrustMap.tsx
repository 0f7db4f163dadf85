import { styled } from '@mui/material'
import { type Calibration, TRUSTED_MM, trustMap } from '@neotaxis/core'
import { Column } from '../../parts/Column.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { lengthIn } from '../field/measures.ts'

interface Props {
  readonly calibration: Calibration
  readonly bed: { readonly widthMm: number; readonly heightMm: number }
}

const WIDE = 440

/** The bed, cell by cell: how far off a camera tells its places, where that is most, and where nothing is known. */
export function TrustMap({ calibration, bed }: Props) {
  const as = lengthIn(
    useSelector((state) => state.view.lengthUnit),
    // A good one is off by thousandths.
    calibration.worst.mm < 0.1 ? 3 : 2,
  )
  const { cells } = trustMap(calibration, bed)
  const most = Math.max(0.05, ...cells.map(({ mm }) => mm ?? 0))
  const { worst } = calibration
  const untold = cells.filter(({ mm }) => mm === null).length
  return (
    <Column gap="tight">
      <Bed
        viewBox={`0 0 ${bed.widthMm} ${bed.heightMm}`}
        role="img"
        aria-label={`How far off places of the bed are told: ${as.show(worst.mm)} ${as.unit} at worst, at ${worst.x.toFixed(0)}, ${worst.y.toFixed(0)}`}
        data-testid="trust-map"
      >
        <defs>
          <pattern id="untold" width="12" height="12" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" y2="12" className="hatch" />
          </pattern>
        </defs>
        {cells.map(({ x0, y0, x1, y1, mm }) => (
          <g key={`${x0} ${y0}`}>
            <rect
              x={x0}
              y={y0}
              width={x1 - x0}
              height={y1 - y0}
              className={mm === null ? 'untold' : mm > TRUSTED_MM ? 'poor' : 'good'}
              fillOpacity={mm === null ? 1 : 0.12 + (0.75 * mm) / most}
            />
            {mm !== null && (
              <text x={(x0 + x1) / 2} y={(y0 + y1) / 2} fontSize={(x1 - x0) * 0.28} className="number">
                {as.show(mm).replace(/^0/, '')}
              </text>
            )}
          </g>
        ))}
        <circle cx={worst.x} cy={worst.y} r={bed.widthMm / 60} className="worst" />
      </Bed>
      <Quiet>
        The most that marks are off in each part of the bed, {as.unit}; the ring is the worst.{' '}
        {untold > 0 && 'Hatched: no mark was seen there, and nothing is promised.'}
      </Quiet>
    </Column>
  )
}

const Bed = styled('svg')(({ theme: { palette } }) => ({
  width: WIDE,
  maxWidth: '100%',
  border: `1px solid ${palette.divider}`,
  '& .good': { fill: palette.primary.main, stroke: palette.divider },
  '& .poor': { fill: palette.error.main, stroke: palette.divider },
  '& .untold': { fill: 'url(#untold)', stroke: palette.divider },
  '& .hatch': { stroke: palette.text.secondary, strokeWidth: 2 },
  '& .number': { fill: palette.text.primary, textAnchor: 'middle', dominantBaseline: 'central' },
  '& .worst': { fill: 'none', stroke: palette.text.primary, strokeWidth: 3 },
}))
