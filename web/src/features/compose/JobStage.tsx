import { useTheme } from '@mui/material'
import {
  type Bounds,
  burnOrder,
  faceBox,
  groupedWith,
  type JobDocument,
  mainPiece,
  placeOf,
  SAME,
  sourceOf,
  turnedTo,
  turnOfPlace,
  waiting,
} from '@neotaxis/core'
import { useEffect, useMemo } from 'react'
import type { Layer } from '../../stage/layer.ts'
import { archLayer } from '../../stage/layers/arch-layer.ts'
import { artworkLayer } from '../../stage/layers/artwork-layer.ts'
import { bedBox, boxThrough, faceSpace } from '../../stage/layers/face.ts'
import { heightsLayer } from '../../stage/layers/heights-layer.ts'
import { keepOutLayer } from '../../stage/layers/keep-out-layer.ts'
import { useForecastLayer } from '../../stage/layers/use-forecast-layer.ts'
import { useMomentLayer } from '../../stage/layers/use-moment-layer.ts'
import { useGhostLayer, useOtherPieces } from '../../stage/layers/use-other-pieces.ts'
import { useOutlinesLayer } from '../../stage/layers/use-outlines-layer.ts'
import { waitingLayer } from '../../stage/layers/waiting-layer.ts'
import { workpieceLayer } from '../../stage/layers/workpiece-layer.ts'
import { Stage } from '../../stage/Stage.tsx'
import { StageTools } from '../../stage/StageTools.tsx'
import type { Tool } from '../../stage/tool.ts'
import { useStage } from '../../stage/use-stage.ts'
import { WorkState } from '../../stage/WorkState.tsx'
import { useSelector } from '../../store/hooks.ts'
import { runColour } from '../../theme/run-ramp.ts'
import { isWorkedOut, lookAt, painted, useEvaluation } from '../../workers/use-evaluation.ts'
import { onCommand } from '../bar/commands.ts'
import { useBedPhoto } from '../camera/bed-photo.ts'
import { blankTool } from '../camera/blank-tool.ts'
import { blanksLayer, photoLayer } from '../camera/photo-layers.ts'
import { useEdgeDraw } from '../draw/use-edge-draw.ts'
import { useRetype } from '../draw/use-retype.tsx'
import { useStageDraw } from '../draw/use-stage-draw.tsx'
import { useCircleTool } from '../placing/use-circle-tool.tsx'
import { useLevelTool } from '../placing/use-level-tool.tsx'
import { usePlacing } from '../placing/use-placing.ts'
import { roundLayer } from '../round/round-layer.ts'
import { selectedNode, selectedNodes } from '../selection.ts'
import { useCutOff } from '../stock/use-cut-off.ts'
import { useEdit } from '../use-edit.ts'
import { useSecondSide } from '../use-second-side.ts'
import { drawnHere, isHere } from './drawn-here.ts'
import { Pins } from './Pins.tsx'
import { usePieceTool } from './use-piece-tool.tsx'
import { useRunZone } from './use-run-zone.tsx'
import { useSelectTool } from './use-select-tool.tsx'
import { useZoneTool } from './use-zone-tool.tsx'

interface Props {
  readonly job: JobDocument
  /** Only looked at: nothing is selected or moved. */
  readonly passive?: boolean
  /** What is run of the job, where that is not all of it as it stands. */
  readonly trackJob?: JobDocument
  /** Operations that were burned on this piece before. */
  readonly burnedBefore?: readonly string[]
  /** Told of a double click: mm of the face. */
  readonly onPlace?: (x: number, y: number) => void
  /** What a run is limited to, mm of the face. */
  readonly zone?: Bounds | undefined
  /** Told of a box that is drawn; absent: none is drawn now. */
  readonly onZone?: ((zone: Bounds) => void) | undefined
}

const NONE: readonly string[] = []

/** Room around the workpiece for what stands over it, CSS px. */
const ROOMY = { x: 70, top: 44, bottom: 118 }
/** Each of several is held by a grip over its rear edge. */
const TRAY = { ...ROOMY, top: 76 }
/** What a photo shows beside where it lies. */
const VEIL = 'rgb(60 60 60 / 0.72)'
const UNDER_PHOTO = { x: 24, top: 104, bottom: 60 }
const QUIET = { x: 24, top: 52, bottom: 24 }

/** The workpiece after the burn, at a moment of the run, or with its artwork; where it is not only looked at, with what is selected. */
export function JobStage({ job, passive = false, trackJob = job, burnedBefore = NONE, onPlace, zone: runZone, onZone }: Props) {
  const { palette } = useTheme()
  const allDrawn = useEvaluation((state) => state.drawing)
  const drawn = useEvaluation((state) => state.drawn)
  const drawing = useMemo(() => allDrawn && drawnHere(job, drawn, allDrawn), [job, drawn, allDrawn])
  const measure = useEvaluation((state) => state.measure)
  const settled = useEvaluation(() => isWorkedOut(job))
  const { selection, also, shows } = useSelector((state) => state.view)
  const edit = useEdit()
  const piece = mainPiece(job)
  // Several workpieces are seen as they lie on the bed, one alone as it is held.
  const isTray = Object.keys(job.workpieces).length > 1
  const { photo } = useBedPhoto(job.machine.id)
  // With its photo, the whole bed is looked at.
  const isBed = isTray || photo !== undefined
  const stage = useStage({
    standing: isBed ? SAME : faceSpace(job),
    home: photo ? { x0: 0, y0: 0, x1: photo.bed.widthMm, y1: photo.bed.heightMm } : isTray ? bedBox(job) : faceBox(piece),
    room: passive ? QUIET : photo ? UNDER_PHOTO : isTray ? TRAY : ROOMY,
    // A second side lies where the first one lay, and is as large: it is another space all the same.
    key: isBed ? 'bed' : 'face',
  })

  const node = passive ? undefined : selectedNode(job, selection)
  const nodes = passive ? NONE : selectedNodes(job, selection, also)
  // While artwork is dragged, its box goes along before the outlines are there.
  const boxOf = (id: string): Bounds | undefined => {
    const bounds = drawing?.bounds[id]
    if (!bounds || !Number.isFinite(bounds.x0)) return undefined
    const source = sourceOf(job, id)
    const now = placeOf(job, source)
    const then = drawn?.nodes[id] && drawn.nodes[source] && placeOf(drawn, source)
    if (!then || now.widthMm !== then.widthMm || now.deg !== then.deg) return bounds
    const [dx, dy] = [now.xMm - then.xMm, now.yMm - then.yMm]
    return { x0: bounds.x0 + dx, x1: bounds.x1 + dx, y0: bounds.y0 + dy, y1: bounds.y1 + dy }
  }
  const box = node === undefined ? undefined : boxOf(node)
  const boxes = nodes.flatMap((id) => boxOf(id) ?? [])
  // What is grouped is put somewhere as one, whatever of it is selected.
  const burned = Object.values(job.operations).flatMap(({ of }) => of)
  useCutOff(job)
  usePlacing(
    job,
    nodes.flatMap((id) => {
      const roots = groupedWith(job, id)
      const group = roots.length > 0 ? burned.filter((each) => [sourceOf(job, id), ...roots].includes(sourceOf(job, each))) : []
      return [id, ...group].flatMap((each) => {
        const its = boxOf(each)
        return its ? [{ node: id, box: its }] : []
      })
    }),
  )
  const level = useLevelTool(job, node)
  const turnOver = useSecondSide(job)
  useEffect(() => onCommand(mainPiece(job).back === undefined ? { 'second-side': () => turnOver('left-right') } : {}))
  useEffect(() => {
    lookAt(nodes)
  }, [nodes])
  useEffect(() =>
    onCommand(
      node
        ? {
            'turn-quarter': () =>
              edit('turn a quarter', (base) => nodes.reduce((sum, id) => turnedTo(sum, id, turnOfPlace(sum, id) + 90), base)),
          }
        : {},
    ),
  )

  const forecasts = shows === 'forecast'
  const moment = useMomentLayer(stage, job, trackJob, burnedBefore)
  const atMoment = (): boolean => forecasts && moment.at() !== undefined
  const burn = useForecastLayer(stage, job, { shown: () => forecasts && !atMoment() })
  const order = burnOrder(job)
  const inOrder = forecasts
    ? []
    : order.flatMap((id, i) =>
        isHere(job, job.operations[id].of[0])
          ? [{ node: job.operations[id].of[0], colour: runColour(i, order.length).fill, widthPx: 2 }]
          : [],
      )
  const later = useMemo(() => waiting(job), [job])
  const laterLines = forecasts
    ? later.lines
        .filter((each) => isHere(job, each))
        .map((each) => ({ node: each, colour: palette.text.secondary, widthPx: 1, alpha: 0.7 }))
    : []
  const run = useOutlinesLayer(stage, job, 'run order', [...laterLines, ...inOrder])
  const around = nodes.flatMap((each) => [
    { node: each, colour: palette.shop.halo, widthPx: 4, alpha: 0.55 },
    { node: each, colour: palette.primary.main, widthPx: 1.6 },
  ])
  const place = node && nodes.length === 1 ? placeOf(job, node) : undefined
  const chosen = useOutlinesLayer(stage, job, 'selection', around, place && { x: place.xMm, y: place.yMm })
  const others = useOtherPieces(stage, job, palette.shop.bed, () => forecasts)
  const ghost = useGhostLayer(stage, job, () => forecasts)
  const layers: Layer[] = [
    ...others,
    workpieceLayer(job, { bed: palette.shop.bed, bare: burn.isEmpty }),
    burn,
    ...ghost,
    ...(forecasts
      ? [
          moment,
          waitingLayer(
            job,
            later.roots.filter((root) => isHere(job, root)),
            stage.repaint,
          ),
        ]
      : [artworkLayer(job, true, stage.repaint)]),
    ...(photo ? [photoLayer(job, photo, VEIL), blanksLayer(photo, { line: palette.primary.main, halo: palette.shop.halo })] : []),
    keepOutLayer(job, palette.shop.ask),
    archLayer(job, { line: palette.shop.ask, veil: 'rgb(90 90 90 / 0.45)' }),
    heightsLayer(job, { line: palette.shop.ask, ink: palette.text.primary, halo: palette.shop.halo }),
    roundLayer(job, { line: palette.shop.ask, ink: palette.text.primary, halo: palette.shop.halo }),
    run,
    chosen,
    {
      name: 'pins',
      space: faceSpace(job),
      paint: () => {
        if (run.settled?.() && chosen.settled?.()) painted('outline', job)
        stage.frame.current!.dataset.moment = atMoment() ? moment.at()!.toFixed(6) : ''
      },
      over: (at) => measure && !passive && <Pins job={job} findings={measure.findings} at={at} />,
    },
  ]

  const select = useSelectTool({ job, drawing, node, box, nodes, boxes })
  const zone = useZoneTool(job, node)
  const pieces = usePieceTool(job)
  const circle = useCircleTool(job, nodes.length === 1 ? node : undefined)
  const draws = useStageDraw(job, drawing)
  const draw = useEdgeDraw(job) ?? draws
  const retype = useRetype(job, drawing)
  const runZoneTool = useRunZone(job, runZone, onZone)
  const going: Tool = {
    name: 'place',
    space: faceSpace(job),
    twice: ({ x, y }) => {
      onPlace?.(x, y)
      return onPlace !== undefined
    },
  }
  return (
    <Stage
      stage={stage}
      layers={layers}
      tools={
        passive
          ? [runZoneTool, going]
          : [
              ...(draw ? [draw] : level ? [level] : zone ? [zone] : []),
              ...(circle ? [circle] : []),
              ...(photo && photo.blanks.length > 0 ? [blankTool(photo)] : []),
              ...(pieces ? [pieces] : []),
              retype,
              select,
              going,
            ]
      }
      label={
        passive
          ? 'Workpiece as it is burned'
          : 'Workpiece after the burn. Arrow keys move the selected artwork, Page Up and Page Down turn it.'
      }
      testId="stage"
      settled={settled}
    >
      <StageTools
        stage={stage}
        isRound={!passive && piece.surface.kind !== 'flat'}
        onCloseUp={() => box && stage.show(isBed ? boxThrough(faceSpace(job), box) : box)}
      />
      <WorkState />
    </Stage>
  )
}
