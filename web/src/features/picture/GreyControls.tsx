import { Button } from '@mui/material'
import { type GreyWeights, type JobDocument, LUMA, pictureNode, withNode } from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { ValueSlider } from '../details/ValueSlider.tsx'
import { useEdit } from '../use-edit.ts'

const PRESETS: readonly (readonly [string, GreyWeights])[] = [
  ['as seen', LUMA],
  ['red', { r: 1, g: 0, b: 0 }],
  ['green', { r: 0, g: 1, b: 0 }],
  ['blue', { r: 0, g: 0, b: 1 }],
]

const shares = ({ r, g, b }: GreyWeights): string => {
  const sum = r + g + b
  return `${Math.round((100 * r) / sum)} · ${Math.round((100 * g) / sum)} · ${Math.round((100 * b) / sum)} %`
}

export const greyWords = (grey: GreyWeights | undefined): string => `red, green, blue ${shares(grey ?? LUMA)}`

/** How much of each colour makes the grey: one colour can hide a stain, or part two colours of one lightness. */
export function GreyControls({ job, node }: { readonly job: JobDocument; readonly node: string }) {
  const edit = useEdit()
  const grey = pictureNode(job, node).grey ?? LUMA
  return (
    <>
      <Row align="stretch" gap="tight" top="snug" bottom="snug">
        {PRESETS.map(([name, weights]) => (
          <Button
            key={name}
            size="small"
            variant="outlined"
            color="secondary"
            sx={{ flex: 1, minWidth: 0, px: 0.5 }}
            onClick={() => edit(`grey from ${name}`, (base) => withNode(base, node, { grey: weights }))}
          >
            {name}
          </Button>
        ))}
      </Row>
      {(['r', 'g', 'b'] as const).map((channel) => (
        <Row key={channel}>
          <Quiet width={40}>{{ r: 'Red', g: 'Green', b: 'Blue' }[channel]}</Quiet>
          <Words grow>
            <ValueSlider
              label={{ r: 'Red', g: 'Green', b: 'Blue' }[channel]}
              value={grey[channel]}
              min={0}
              max={1}
              step={0.01}
              text={(v) => v.toFixed(2)}
              change={(v) => (base) => {
                const next = { ...(pictureNode(base, node).grey ?? LUMA), [channel]: v }
                return next.r + next.g + next.b > 0 ? withNode(base, node, { grey: next }) : base
              }}
              name={() => 'weights of grey'}
            />
          </Words>
        </Row>
      ))}
    </>
  )
}
