import { useTheme } from '@mui/material'
import { type Material, type Rgb, toneOf, topLayer } from '@neotaxis/core'
import { TYPE } from '../../theme/tokens.ts'

const rgb = ([r, g, b]: Rgb): string => `rgb(${r} ${g} ${b})`
const between = (a: Rgb, b: Rgb, share: number): string =>
  rgb(a.map((v, i) => Math.round(v + (b[i] - v) * share)) as unknown as Rgb)
const STEPS = 9
const [WIDE, HIGH] = [168, 96]
/** A section is drawn so high for what is thinnest and thickest. */
const least = 4

/** A piece of a material as it is: its face with a ramp burned on it, and under it the section with its layers. */
export function MaterialSample({ material }: { readonly material: Material }) {
  const { palette } = useTheme()
  const { look, layers, forbidden } = material
  const { markDose, liftDose } = topLayer(material)
  const most = liftDose?.to ?? markDose.to
  const tones = Array.from({ length: STEPS }, (_, i) => toneOf(material, (most * (i + 0.5)) / STEPS))
  const thick = layers.map(({ thicknessMm }) => Math.max(least, 30 * Math.min(1, Math.sqrt(thicknessMm / material.thicknessMm))))
  const tall = thick.reduce((sum, v) => sum + v, 0)
  const tops = thick.map((_, i) => 62 + (30 * thick.slice(0, i).reduce((sum, v) => sum + v, 0)) / tall)
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} width="100%" height="100%" aria-hidden="true">
      <rect x={0} y={0} width={WIDE} height={60} fill={rgb(look.surface)} />
      {look.kind === 'wood' &&
        [9, 22, 37, 51].map((y) => (
          <path key={y} d={`M0 ${y} q42 ${y % 4 ? 5 : -5} 84 0 t84 0`} stroke={rgb(look.grain)} strokeWidth={2.5} fill="none" />
        ))}
      {forbidden
        ? null
        : tones.map((tone, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: steps are known by their place
            <rect key={`step ${i}`} x={12 + i * 16} y={20} width={16} height={20} fill={between(look.surface, look.burn, tone)} />
          ))}
      {forbidden && (
        <>
          <rect x={WIDE / 2 - 30} y={19} width={60} height={24} rx={4} fill={palette.shop.panel} />
          <text x={WIDE / 2} y={36} textAnchor="middle" fontSize={TYPE.name} fontWeight={700} fill={palette.error.main}>
            never
          </text>
        </>
      )}
      {layers.map((layer, i) => (
        <rect
          // biome-ignore lint/suspicious/noArrayIndexKey: layers are known by their order
          key={`${layer.name} ${i}`}
          x={0}
          y={tops[i]}
          width={WIDE}
          height={(30 * thick[i]) / tall}
          fill={
            i === 0 && layers.length > 1
              ? rgb(look.surface)
              : i % 2
                ? between(look.grain, look.edge, 0.3)
                : between(look.surface, look.edge, 0.15)
          }
          stroke={palette.divider}
          strokeWidth={0.5}
        />
      ))}
    </svg>
  )
}
