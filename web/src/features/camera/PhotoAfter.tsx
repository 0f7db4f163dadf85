import { Box, Link, Typography } from '@mui/material'
import type { RunFull } from '@neotaxis/contract'
import { addressOf } from '@neotaxis/contract/paths'
import {
  type BedView,
  type Bounds,
  burnOrder,
  coverage,
  faceSize,
  type JobDocument,
  jobForRun,
  mainPiece,
  mappedRings,
  materialOf,
  offset,
  operationMaterial,
  outlineOfFace,
  poseBounds,
  poseMap,
  readingsOf,
  tellBurned,
} from '@neotaxis/core'
import { useCallback } from 'react'
import { call } from '../../api/call.ts'
import { useAnswer } from '../../api/use-answer.ts'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Words } from '../../parts/words.tsx'
import { pageOf } from '../../processes/table.ts'
import { useSelector } from '../../store/hooks.ts'
import { darkOnBed } from '../../workers/engine.ts'
import { lengthIn } from '../field/measures.ts'
import { Picture } from '../run/BurnCard.tsx'
import { cameraWork } from './camera-work.ts'

/** The burn is compared in cells of this size at least, and so many at most. */
const CELL_MM = 0.25
const MOST_CELLS = 500_000

/** What a photo after a run is compared with: the bed under its workpieces. */
function around(job: JobDocument): Bounds {
  const boxes = Object.values(job.workpieces).map((piece) => poseBounds(piece.pose, faceSize(piece)))
  return {
    x0: Math.min(...boxes.map(({ x0 }) => x0)),
    y0: Math.min(...boxes.map(({ y0 }) => y0)),
    x1: Math.max(...boxes.map(({ x1 }) => x1)),
    y1: Math.max(...boxes.map(({ y1 }) => y1)),
  }
}

/** So far inside of their edge workpieces are compared with their forecast, mm. */
const INSIDE_MM = 2

/** Where material lies in a view of the bed, but for its edge. */
function withinPieces(job: JobDocument, { x, y, pxPerMm, widthPx, heightPx }: BedView): Uint8Array {
  const rings = Object.values(job.workpieces).flatMap((piece) =>
    offset(mappedRings(poseMap(piece.pose, faceSize(piece)), outlineOfFace(piece.outline)), -INSIDE_MM).map((ring) =>
      ring.map((v, i) => (v - (i % 2 === 0 ? x : y)) * pxPerMm),
    ),
  )
  return Uint8Array.from(coverage(rings, widthPx, heightPx), (share) => (share > 0.5 ? 1 : 0))
}

/** The forecast on the bare material, as the photo would show it. */
function forecastPicture(job: JobDocument, dark: Uint8Array): Uint8ClampedArray {
  const [r, g, b] = materialOf(job).look.surface
  const rgba = new Uint8ClampedArray(4 * dark.length)
  for (let i = 0; i < dark.length; i++) {
    const left = 1 - 0.85 * (dark[i] / 255)
    rgba.set([r * left, g * left, b * left, 255], 4 * i)
  }
  return rgba
}

/** The bed after a run beside its forecast, at the same scale, and how far from it the burn lies. */
export function PhotoAfter({
  run,
  onTone,
}: {
  readonly run: RunFull
  readonly onTone: (operation: string, tone: number) => void
}) {
  const as = lengthIn(
    useSelector((state) => state.view.lengthUnit),
    2,
  )
  const { id, photographed, document, scope, parentId } = run
  const compare = useCallback(async () => {
    if (!photographed) return undefined
    const job = jobForRun(document, parentId || scope.fromSeconds ? {} : scope)
    const { x0, y0, x1, y1 } = around(job)
    const cellMm = Math.max(CELL_MM, Math.sqrt(((x1 - x0) * (y1 - y0)) / MOST_CELLS))
    const [columns, rows] = [Math.ceil((x1 - x0) / cellMm), Math.ceil((y1 - y0) / cellMm)]
    const dark = await darkOnBed(job, { x: x0, y: y0, columns, rows, cellMm })
    const jpeg = await (await call(addressOf('runPhoto', { id }))).blob()
    const view = { x: x0, y: y0, pxPerMm: 1 / cellMm, widthPx: columns, heightPx: rows }
    const { camera } = photographed.calibration
    const read = burnOrder(job).flatMap((operation) => {
      const { contrast } = readingsOf(operationMaterial(job, job.operations[operation]), 'tone', job.machine.id)?.conditions ?? {}
      return pageOf(job.operations[operation]).hasTone ? [{ operation, contrast }] : []
    })
    const known = read.filter((each): each is { operation: string; contrast: number } => each.contrast !== undefined)
    const asked = await Promise.all(
      known.map(async ({ operation, contrast }) => ({
        contrast,
        own: await darkOnBed(jobForRun(job, { only: [operation] }), { x: x0, y: y0, columns, rows, cellMm }),
      })),
    )
    const { rgba, error, tones } = await cameraWork().burnIn(
      jpeg,
      camera,
      view,
      mainPiece(job).thicknessMm,
      dark,
      withinPieces(job, view),
      asked,
    )
    const seen = known.flatMap(({ operation }, i) => (tones[i] ? [{ operation, ...tones[i] }] : []))
    const forecast = forecastPicture(job, dark)
    return { rgba, error, columns, rows, forecast, job, seen, untold: read.length > known.length }
  }, [id, photographed, document, scope, parentId])
  const { value: found, error } = useAnswer(photographed ? compare : undefined)
  if (!photographed) return null
  if (error) return <Typography color="error">{error}</Typography>
  if (!found) return <Words tone="quiet">Looking at the photo after the run …</Words>
  const off = found.error && Math.hypot(found.error.dxMm, found.error.dyMm)
  return (
    <Box component="section" aria-label="Photo after the run" data-testid="photo-after" data-off={off ?? ''}>
      <Title variant="h3" bottom="tight">
        As the camera saw it
      </Title>
      <Row align="stretch">
        <Picture rgba={found.forecast} width={found.columns} height={found.rows} label="forecast" />
        <Picture rgba={found.rgba} width={found.columns} height={found.rows} label="photo after the run, at the same scale" />
      </Row>
      <Words weight="firm" top="tight">
        {found.error && off !== undefined
          ? `The burn lies ${as.show(off)} ${as.unit} from where it was forecast: ${as.show(Math.abs(found.error.dxMm))} ${as.unit} ${found.error.dxMm < 0 ? 'left' : 'right'}, ${as.show(Math.abs(found.error.dyMm))} ${as.unit} ${found.error.dyMm < 0 ? 'to the rear' : 'to the front'}.`
          : 'The burn cannot be told from the material in this photo: how far it lies from its forecast is not known.'}
      </Words>
      {found.seen.map(({ operation, seen, forecast }) => (
        <Row key={operation} gap="snug" top="tight">
          <Words data-testid={`seen-tone-${operation}`}>
            “{tellBurned(found.job, found.job.operations[operation])}” came out {Math.round(100 * seen)} % dark; forecast{' '}
            {Math.round(100 * forecast)} %.
          </Words>
          {run.looks[operation]?.tone === undefined && (
            <Link
              component="button"
              onClick={() => onTone(operation, Number(seen.toFixed(3)))}
              data-testid={`write-tone-${operation}`}
            >
              Write it down
            </Link>
          )}
        </Row>
      ))}
      {found.untold && (
        <Words size="small" tone="quiet" top="tight">
          How dark it came out is told by photos once a card of trials of this material was read from one, and its tone curve
          kept.
        </Words>
      )}
    </Box>
  )
}
