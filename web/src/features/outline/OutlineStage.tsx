import { useTheme } from '@mui/material'
import {
  faceBox,
  isOutline,
  type JobDocument,
  mainPiece,
  materialOf,
  type OutlineStep,
  placeOf,
  poseBounds,
  sourceOf,
} from '@neotaxis/core'
import { useEffect, useRef, useState } from 'react'
import { Floating, Place } from '../../parts/Floating.tsx'
import type { Layer } from '../../stage/layer.ts'
import { facePath, faceSpace, standUpright, surfaceColour } from '../../stage/layers/face.ts'
import { sourceImage } from '../../stage/layers/source-pictures.ts'
import { useOutlinesLayer } from '../../stage/layers/use-outlines-layer.ts'
import { Stage } from '../../stage/Stage.tsx'
import { StageTools } from '../../stage/StageTools.tsx'
import { useStage } from '../../stage/use-stage.ts'
import { WorkState } from '../../stage/WorkState.tsx'
import type { OutlineView } from '../../workers/shared.ts'
import { evaluatedNow, isWorkedOut, lookAt, painted, useEvaluation } from '../../workers/use-evaluation.ts'
import { useZoneTool } from '../compose/use-zone-tool.tsx'
import { useBenchPicture } from '../picture/use-bench-picture.ts'
import { MOST_NODES, paintNodes } from './nodes.ts'
import type { OutlineTool } from './OutlineTools.tsx'
import { useBridgeTool } from './use-bridge-tool.ts'
import { useOutlineTool } from './use-outline-tool.tsx'

interface Props {
  readonly job: JobDocument
  readonly node: string
  readonly view: OutlineView
  readonly tool: OutlineTool | null
  /** How much of the picture under the outline shows, 0–1. */
  readonly fade: number
  readonly onStep: (name: string, step: OutlineStep) => void
  /** A bridge at a place, in shares of the artwork. */
  readonly onBridge: (x: number, y: number) => void
}

const ROOM = { x: 40, top: 40, bottom: 70 }
const AROUND = { x: 60, top: 50, bottom: 80 }

/** An outline over the picture that it comes from, with its nodes; what clean-up took away stays as a faint line. */
export function OutlineStage({ job, node, view: shown, tool, fade, onStep, onBridge }: Props) {
  const { palette } = useTheme()
  const source = sourceOf(job, node)
  const place = placeOf(job, source)
  const drawing = useEvaluation((state) => state.drawing)
  const settled = useEvaluation(() => isWorkedOut(job))
  const stage = useStage({ standing: faceSpace(job), home: faceBox(mainPiece(job)), room: ROOM })
  const [crowded, setCrowded] = useState(false)
  const root = job.nodes[source]
  const picture = useBenchPicture(job, node, source, undefined)
  const bounds = drawing?.bounds[node]
  const each = job.nodes[node]
  const parent = isOutline(each) && each.kind !== 'trace' && each.kind !== 'part' ? each.from : undefined
  useEffect(() => {
    lookAt(parent ? [parent, node] : [node])
  }, [parent, node])
  const trace = each.kind === 'clean' ? each.from : node
  const pictured = root.kind === 'source' || root.kind === 'mesh'

  const close = (): void => stage.show(bounds && Number.isFinite(bounds.x0) ? bounds : poseBounds(place, place), AROUND)
  // The artwork as large as it fits, once it is known.
  const looked = useRef(false)
  const isSized = stage.view !== undefined
  // biome-ignore lint/correctness/useExhaustiveDependencies: once
  useEffect(() => {
    if (looked.current || !bounds || !isSized) return
    looked.current = true
    close()
  }, [bounds, isSized])

  const outlines = useOutlinesLayer(stage, job, 'outlines', [
    ...(parent ? [{ node: parent, colour: inkOn(materialOf(job).look.surface), widthPx: 1.4, alpha: 0.75, broken: true }] : []),
    { node, colour: palette.shop.halo, widthPx: 3.6, alpha: 0.7 },
    { node, colour: palette.primary.main, widthPx: 1.7 },
  ])
  const ground: Layer = {
    name: 'picture under it',
    space: faceSpace(job),
    paint: (context, at) => {
      standUpright(context, at)
      const { x, y, scale } = at.upright.view
      context.fillStyle = surfaceColour(job)
      context.fill(facePath(job, at.upright.view), 'evenodd')
      // As it came it has its colours; in its frame it is grey.
      const plain = root.kind === 'source' && !root.framing.some(({ on }) => on)
      const under = (plain ? sourceImage(root.asset, stage.repaint) : undefined) ?? picture
      if (!under || fade === 0) return
      context.globalAlpha = fade
      context.drawImage(under, (place.xMm - x) * scale, (place.yMm - y) * scale, place.widthMm * scale, place.heightMm * scale)
    },
  }
  const nodes: Layer = {
    name: 'nodes',
    space: faceSpace(job),
    paint: (context, at) => {
      if (outlines.settled?.()) painted('outline', job)
      const wanted = tool?.kind === 'node' || tool?.kind === 'start'
      const colours = { ink: palette.primary.main, paper: palette.background.paper }
      const tooMany = wanted && !paintNodes(context, shown.paths, at, colours)
      if (tooMany !== crowded) setCrowded(tooMany)
    },
    settled: () => evaluatedNow().drawn === job,
  }
  const byHand = useOutlineTool({ job, node, paths: shown.paths, tool, onStep, onBridge })
  const zone = useZoneTool(job, pictured ? trace : undefined)
  const bridges = useBridgeTool(job, node, each.kind === 'bridged' ? drawing?.outlines[each.from] : undefined, stage.view?.scale)
  return (
    <Stage
      stage={stage}
      layers={[ground, outlines, nodes]}
      tools={[...(bridges ? [bridges] : []), ...(zone ? [zone] : []), byHand]}
      label="Outline over its picture"
      testId="outline-stage"
      settled={settled}
    >
      {crowded && (
        <Place as={Floating} at={{ left: 16, bottom: 12 }}>
          Come closer: more than {MOST_NODES} nodes are in view.
        </Place>
      )}
      <StageTools stage={stage} onCloseUp={close} plain />
      <WorkState />
    </Stage>
  )
}

/** What is seen on a surface, whatever the theme: a dark line on a light one, a light one on a dark one. */
const inkOn = ([r, g, b]: readonly [number, number, number]): string =>
  0.2126 * r + 0.7152 * g + 0.0722 * b > 110 ? '#1f1a15' : '#f4efe6'
