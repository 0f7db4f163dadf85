import { Box, Button, useTheme } from '@mui/material'
import { type Affine, composed, type JobDocument, mapped, type Placement, picturedRoot, placeOf, SAME } from '@neotaxis/core'
import { type ReactNode, useMemo } from 'react'
import { Place } from '../../parts/Floating.tsx'
import type { Layer, Showing } from '../../stage/layer.ts'
import { faceSpace } from '../../stage/layers/face.ts'
import { useForecastLayer } from '../../stage/layers/use-forecast-layer.ts'
import { Stage } from '../../stage/Stage.tsx'
import { StageTools } from '../../stage/StageTools.tsx'
import { useStage } from '../../stage/use-stage.ts'
import { WorkState } from '../../stage/WorkState.tsx'
import { EDGE, TYPE, WEIGHT } from '../../theme/tokens.ts'
import { isWorkedOut, useEvaluation } from '../../workers/use-evaluation.ts'
import { benchSpaces } from './bench-spaces.ts'
import { betweenShares, paintMask } from './split-layers.ts'
import { useBenchMask, useBenchPicture } from './use-bench-picture.ts'
import { useEdge } from './use-edge.tsx'
import { useFramingTool } from './use-framing-tool.tsx'
import { useLoupeLayer } from './use-loupe-layer.ts'
import { type MaskHand, useMaskTool } from './use-mask-tool.tsx'
import { useSamplesTool } from './use-samples-tool.tsx'

/** The step whose card is open, with what the hand does. */
export type OpenStep =
  | { readonly kind: 'framing'; readonly index: number; readonly keepRatio: boolean }
  | { readonly kind: 'step'; readonly id: string; readonly sampling: 'ink' | 'paper' | null; readonly mask: MaskHand | null }

interface Props {
  readonly job: JobDocument
  readonly node: string
  readonly operation: string | undefined
  /** The operation whose burn is shown on the left in place of the source. */
  readonly beside: { readonly operation: string; readonly name: string; readonly onWork: () => void } | undefined
  readonly open: OpenStep | undefined
  /** Seen from the other side. */
  readonly flipped: boolean
  readonly loupe: boolean
}

const NONE: readonly string[] = []
const ROOM = { x: 42, top: 54, bottom: 62 }
/** A picture that is enlarged more than this shows its pixels. */
const SMOOTH_TO = 3

/** Source and burn under a movable edge, and a loupe that shows every dot. */
export function BenchStage({ job, node, operation, beside, open, flipped, loupe }: Props) {
  const { palette } = useTheme()
  const root = picturedRoot(job, node)
  const each = job.nodes[node]
  const step = open?.kind === 'step' && each.kind === 'picture' ? each.steps[open.id] : undefined
  const framed = open?.kind === 'framing' ? root.framing[open.index] : undefined
  const framing = framed?.kind === 'crop' || framed?.kind === 'straighten' ? framed : undefined
  /** Framing steps that are done in what is shown; undefined: all, with the burn beside the source. */
  const upTo = framing && open?.kind === 'framing' ? open.index : undefined
  const both = upTo === undefined
  const source = useBenchPicture(job, node, root.id, upTo)
  const tint = useBenchMask(job, node, root.id, step?.mask)
  const settled = useEvaluation(() => isWorkedOut(job))
  const burned = useMemo(() => (operation ? [operation] : NONE), [operation])
  const otherId = beside?.operation
  const other = useMemo(() => (otherId ? [otherId] : NONE), [otherId])

  const done = both ? root.framing : root.framing.slice(0, upTo)
  const face = faceSpace(job)
  const ground = both ? face : SAME
  const own = placeOf(job, root.id)
  const spaces = benchSpaces(root, done, own, ground)
  const { frame } = spaces
  // While it is framed the picture lies for itself, a pixel a tenth.
  const place: Placement = both ? own : { ...own, xMm: 0, yMm: 0, widthMm: frame.widthPx / 10, heightMm: frame.heightPx / 10 }
  const lying = both ? spaces : benchSpaces(root, done, place, ground)
  const lies = { x0: place.xMm, y0: place.yMm, x1: place.xMm + place.widthMm, y1: place.yMm + place.heightMm }
  // Seen from behind the picture's own middle stays where it is.
  const middle = lies.x0 + lies.x1
  const standing = useMemo(
    (): Affine => (flipped ? composed([-1, 0, 0, 1, middle, 0], ground) : ground),
    [flipped, middle, ground],
  )
  const stage = useStage({ standing, home: lies, room: ROOM, key: `${upTo} ${flipped}` })

  const {
    edge,
    tool: edgeTool,
    layer: edgeLayer,
  } = useEdge(
    standing,
    both ? lies : undefined,
    beside ? 'Edge between both burns' : 'Edge between source and burn',
    palette.shop,
  )
  /** Lets a layer paint on the picture only, and there from one share of the stage's width to another. */
  const between = (from: number, to: number) => (context: CanvasRenderingContext2D, at: Showing) => {
    const [ax, ay] = mapped(at.map, lies.x0, lies.y0)
    const [bx, by] = mapped(at.map, lies.x1, lies.y1)
    const left = Math.max(Math.min(ax, bx), from * at.size.width)
    const right = Math.min(Math.max(ax, bx), to * at.size.width)
    context.beginPath()
    context.rect(left, ay, Math.max(0, right - left), by - ay)
    context.clip()
  }
  const split = both ? edge : 1
  const picture = (context: CanvasRenderingContext2D, at: Showing, image: ImageBitmap): void => {
    context.imageSmoothingEnabled = at.scale < SMOOTH_TO
    context.transform(...at.map)
    context.drawImage(image, 0, 0, frame.widthPx, frame.heightPx)
  }
  const burn = useForecastLayer(stage, job, { only: burned, part: lies, clip: between(split, 1), shown: () => both })
  const isOther = both && otherId !== undefined
  const otherBurn = useForecastLayer(stage, job, {
    name: 'the other way',
    only: other,
    part: lies,
    clip: between(0, split),
    shown: () => isOther,
    counts: false,
  })
  const sourceLayer: Layer = {
    name: 'source',
    space: lying.space,
    paint: (context, at) => {
      if (isOther) return
      betweenShares(context, at, [0, split], () => {
        context.save()
        context.transform(...at.map)
        context.fillStyle = '#ffffff'
        context.fillRect(0, 0, frame.widthPx, frame.heightPx)
        context.restore()
        if (source) picture(context, at, source)
      })
    },
    settled: () => source !== undefined,
  }
  const maskLayer: Layer = {
    name: 'mask',
    space: lying.space,
    paint: (context, at) => {
      if (tint) paintMask(context, at, split, () => picture(context, at, tint))
    },
  }
  const loupeLayer = useLoupeLayer(stage, job, { on: loupe && both, only: burned, operation })

  const framingTool = useFramingTool(
    lying,
    framing && open?.kind === 'framing' ? { node, index: open.index, step: framing } : undefined,
    open?.kind === 'framing' && open.keepRatio,
  )
  const hand = open?.kind === 'step' ? open.mask : null
  const mask = useMaskTool(lying, step?.mask && hand ? { node, mask: step.mask, hand } : undefined)
  const samples = useSamplesTool(
    lying,
    step?.kind === 'levels' && open?.kind === 'step' ? { node, id: open.id, step, sampling: open.sampling } : undefined,
  )
  const tools = [edgeTool, framingTool, samples, mask].flatMap((tool) => (tool ? [tool] : []))
  return (
    <Stage
      stage={stage}
      layers={[sourceLayer, otherBurn, burn, maskLayer, edgeLayer, loupeLayer]}
      tools={tools}
      label="Picture bench: the source, and what is burned of it"
      testId="bench-stage"
      settled={settled}
    >
      {both && (
        <>
          <SideLabel side="left">
            <Said>{beside ? `as ${beside.name}, after the burn` : 'source, framed'}</Said>
            {beside && (
              <Button
                size="small"
                onClick={beside.onWork}
                data-testid="other-way"
                sx={{ bgcolor: 'shop.raised', minHeight: 28, py: 0 }}
              >
                Run this instead
              </Button>
            )}
          </SideLabel>
          <SideLabel side="right">
            <Said>
              {beside ? `as ${beside.name === 'dots' ? 'relief' : 'dots'}, ` : ''}
              {flipped ? 'after the burn, from the front' : 'after the burn'}
            </Said>
          </SideLabel>
        </>
      )}
      <StageTools stage={stage} onCloseUp={stage.whole} plain />
      <WorkState />
    </Stage>
  )
}

function SideLabel({ side, children }: { readonly side: 'left' | 'right'; readonly children: ReactNode }) {
  return <Place at={{ top: 50, [side]: 12 }}>{children}</Place>
}

function Said({ children }: { readonly children: ReactNode }) {
  return (
    <Box
      sx={{
        px: 1.2,
        py: 0.3,
        fontSize: TYPE.small,
        fontWeight: WEIGHT.strong,
        bgcolor: 'shop.raised',
        border: 1,
        borderColor: 'divider',
        borderRadius: `${EDGE.small}px`,
        pointerEvents: 'none',
      }}
    >
      {children}
    </Box>
  )
}
