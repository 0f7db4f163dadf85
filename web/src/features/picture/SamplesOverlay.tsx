import { useTheme } from '@mui/material'
import { type LevelsStep, type TonePatch, withStep } from '@neotaxis/core'
import { useRef } from 'react'
import { useChange, useEdit } from '../use-edit.ts'
import type { BenchMap } from './bench-map.ts'
import { hold, pointIn } from './pointer.ts'

interface Props {
  readonly map: BenchMap
  readonly node: string
  readonly id: string
  readonly step: LevelsStep
  /** What the next click samples. */
  readonly tool: 'ink' | 'paper' | null
}

/** Patches of the picture whose tone was sampled: ink dashed, paper plain. A click samples, a drag moves, Delete removes. */
export function SamplesOverlay({ map, node, id, step, tool }: Props) {
  const { palette } = useTheme()
  const edit = useEdit()
  const { show, finish } = useChange()
  const held = useRef(false)
  // A patch is as large on the picture as about ten pixels of the screen.
  const perSource = (() => {
    const [ax, ay] = map.screenToSource(0, 0)
    const [bx, by] = map.screenToSource(10, 0)
    return Math.hypot(bx - ax, by - ay) / 10
  })()
  const put = (kind: 'ink' | 'paper', patches: readonly TonePatch[], name: string): void =>
    edit(name, (job) => withStep(job, node, id, { [kind]: patches }))
  return (
    <>
      {tool && (
        <rect
          data-testid="sample-here"
          width="100%"
          height="100%"
          fill="transparent"
          style={{ cursor: 'crosshair' }}
          onPointerDown={(event) => {
            hold(event)
            const [x, y] = map.screenToSource(...pointIn(event))
            const patch = {
              x: Math.round(x * 10) / 10,
              y: Math.round(y * 10) / 10,
              radius: Math.max(1, Math.round(100 * perSource) / 10),
            }
            put(tool, [...step[tool], patch], `sample ${tool}`)
          }}
        />
      )}
      {(['ink', 'paper'] as const).flatMap((kind) =>
        step[kind].map((patch, k) => {
          const [x, y] = map.sourceToScreen(patch.x, patch.y)
          const r = Math.max(7, patch.radius / perSource)
          return (
            // biome-ignore lint/a11y/useSemanticElements: a mark on the stage
            <g
              role="button"
              // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
              key={`${kind} ${k}`}
              tabIndex={0}
              aria-label={`Sample of ${kind}: Delete removes it`}
              data-testid={`patch-${kind}`}
              style={{ cursor: 'move' }}
              onPointerDown={(event) => {
                hold(event)
                held.current = true
              }}
              onPointerMove={(event) => {
                if (!held.current) return
                event.stopPropagation()
                const [sx, sy] = map.screenToSource(...pointIn(event))
                show((job) =>
                  withStep(job, node, id, { [kind]: step[kind].map((p, i) => (i === k ? { ...p, x: sx, y: sy } : p)) }),
                )
              }}
              onPointerUp={() => {
                if (held.current) finish(`move a sample of ${kind}`)
                held.current = false
              }}
              onKeyDown={(event) => {
                if (event.key === 'Delete' || event.key === 'Backspace')
                  put(
                    kind,
                    step[kind].filter((_, i) => i !== k),
                    `remove a sample of ${kind}`,
                  )
              }}
            >
              <circle cx={x} cy={y} r={r + 1.5} fill="none" stroke={palette.text.primary} strokeWidth={4} />
              <circle
                cx={x}
                cy={y}
                r={r + 1.5}
                fill="transparent"
                stroke={palette.shop.raised}
                strokeWidth={2}
                strokeDasharray={kind === 'ink' ? '4 3' : undefined}
              />
              <text
                x={x + r + 7}
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
    </>
  )
}
