import { useTheme } from '@mui/material'
import { type LevelsStep, mapped, type TonePatch, withStep } from '@neotaxis/core'
import type { Showing } from '../../stage/layer.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import type { Grip, Tool } from '../../stage/tool.ts'
import { useChange, useEdit } from '../use-edit.ts'
import type { BenchSpaces } from './bench-spaces.ts'
import { tenths } from './mask-sketch.ts'

const KINDS = ['ink', 'paper'] as const
/** A patch is as large on the picture as so many px of the screen. */
const PATCH_PX = 10

interface Open {
  readonly node: string
  readonly id: string
  readonly step: LevelsStep
  /** What the next press samples. */
  readonly sampling: 'ink' | 'paper' | null
}

/** Patches of the picture whose tone was sampled. A press samples, a drag moves, Delete removes. Its space is the frame, in px. */
export function useSamplesTool(spaces: BenchSpaces, open: Open | undefined): Tool | undefined {
  const edit = useEdit()
  const { show, finish, giveUp } = useChange()
  if (!open) return undefined
  const { node, id, step, sampling } = open
  const put = (kind: 'ink' | 'paper', patches: readonly TonePatch[], name: string): void =>
    edit(name, (job) => withStep(job, node, id, { [kind]: patches }))
  const grips = KINDS.flatMap((kind) =>
    step[kind].map(
      (patch, k): Grip => ({
        id: `${kind} ${k}`,
        at: spaces.fromSource(patch.x, patch.y),
        look: 'unseen',
        cursor: 'move',
        label: `Sample of ${kind}: Delete removes it`,
        testId: `patch-${kind}`,
        hold: () => ({
          slack: 0,
          move: (spot) => {
            const [x, y] = spaces.toSource(spot.x, spot.y).map(tenths)
            show((job) => withStep(job, node, id, { [kind]: step[kind].map((p, i) => (i === k ? { ...p, x, y } : p)) }))
          },
          end: (_, moved) => moved && finish(`move a sample of ${kind}`),
          cancel: giveUp,
        }),
        remove: () =>
          put(
            kind,
            step[kind].filter((_, i) => i !== k),
            `remove a sample of ${kind}`,
          ),
      }),
    ),
  )
  return {
    name: 'samples',
    space: spaces.space,
    grips,
    ...(sampling && {
      cursor: 'crosshair',
      press: (spot) => {
        const [x, y] = spaces.toSource(spot.x, spot.y)
        const [bx, by] = spaces.toSource(spot.x + PATCH_PX / spot.scale, spot.y)
        const radius = Math.max(1, tenths(Math.hypot(bx - x, by - y)))
        put(sampling, [...step[sampling], { x: tenths(x), y: tenths(y), radius }], `sample ${sampling}`)
        return {}
      },
    }),
    over: (at) => <Patches spaces={spaces} step={step} at={at} />,
  }
}

/** Ink dashed, paper plain, each with its word. */
function Patches({ spaces, step, at }: { readonly spaces: BenchSpaces; readonly step: LevelsStep; readonly at: Showing }) {
  const { palette } = useTheme()
  return (
    <Overlay>
      {KINDS.flatMap((kind) =>
        step[kind].map((patch, k) => {
          const [x, y] = mapped(at.map, ...spaces.fromSource(patch.x, patch.y))
          const [bx, by] = mapped(at.map, ...spaces.fromSource(patch.x + patch.radius, patch.y))
          const r = Math.max(7, Math.hypot(bx - x, by - y)) + 1.5
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
            <g key={`${kind} ${k}`}>
              <circle cx={x} cy={y} r={r} fill="none" stroke={palette.text.primary} strokeWidth={4} />
              <circle
                cx={x}
                cy={y}
                r={r}
                fill="transparent"
                stroke={palette.shop.raised}
                strokeWidth={2}
                strokeDasharray={kind === 'ink' ? '4 3' : undefined}
              />
              <text
                x={x + r + 6}
                y={y + 4}
                fontSize={12}
                fontWeight={700}
                fill={palette.text.primary}
                stroke={palette.shop.halo}
                strokeWidth={3}
                paintOrder="stroke"
              >
                {kind}
              </text>
            </g>
          )
        }),
      )}
    </Overlay>
  )
}
