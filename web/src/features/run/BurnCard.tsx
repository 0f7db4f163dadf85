import { Box, styled, Typography } from '@mui/material'
import type { RunFull } from '@neotaxis/contract'
import { type JobDocument, jobForRun } from '@neotaxis/core'
import { useCallback, useEffect, useRef } from 'react'
import { useAnswer } from '../../api/use-answer.ts'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { compareWithBurn } from '../../workers/engine.ts'

export function Picture({
  rgba,
  width,
  height,
  label,
}: {
  readonly rgba: Uint8ClampedArray
  readonly width: number
  readonly height: number
  readonly label: string
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    canvas.current?.getContext('2d')?.putImageData(new ImageData(rgba as Uint8ClampedArray<ArrayBuffer>, width, height), 0, 0)
  }, [rgba, width, height])
  return (
    <Framed>
      <Burnt ref={canvas} width={width} height={height} role="img" aria-label={label} />
      <Quiet as="figcaption" top="hair">
        {label}
      </Quiet>
    </Framed>
  )
}

const Framed = styled('figure')({ margin: 0, flex: 1, minWidth: 0 })
const Burnt = styled('canvas')(({ theme: { palette } }) => ({
  width: '100%',
  display: 'block',
  backgroundColor: palette.shop.bed,
}))

/** Fewer dots than this as forecast, or cuts that lie so little on theirs, are not as they should be. */
const POOR = { dots: 0.9, cut: 0.6, tone: 0.08 } as const

/** Why a burn is not as it was forecast, most likely, and what to do; undefined where it is. */
export function whyOff({
  dots,
  cutOverlap,
  toneBias,
}: Readonly<Record<'dots' | 'cutOverlap' | 'toneBias', number | null>>): string | undefined {
  const isPoor = (dots !== null && dots < POOR.dots) || (toneBias !== null && Math.abs(toneBias) > POOR.tone)
  if (toneBias !== null && toneBias < -POOR.tone)
    return 'It came out lighter all over: weaker, or out of focus. Check the focus and the lens, then try a card of trials on scrap of this piece: its curve sets the power right.'
  if (toneBias !== null && toneBias > POOR.tone)
    return 'It came out darker all over: this piece takes the beam better than the one that was measured. Try a card of trials on scrap of it, or set less power.'
  if (isPoor)
    return 'Its tone is right, but not dot for dot: the piece lay elsewhere, or rows run to and fro do not meet. Look whether it moved; burn rows one way only, or with a longer run-up, and compare again.'
  if (cutOverlap !== null && cutOverlap < POOR.cut)
    return 'Cuts lie beside their forecast, or are not through: look at the piece before it is lifted, and run them again where they are not.'
  return undefined
}

const percent = (share: number): string => `${(100 * share).toFixed(1)} %`

/** What was burned beside what was forecast, with the difference and its measure. */
export function BurnCard({ run, document }: { readonly run: RunFull; readonly document?: JobDocument }) {
  const { id, burn, scope, parentId, document: ran } = run
  const compare = useCallback(async () => {
    if (burn === null) return undefined
    // A run that makes another one good adds to what that one burned.
    const job = document ?? jobForRun(ran, parentId || scope.fromSeconds ? {} : scope)
    return compareWithBurn(job, id, burn)
  }, [id, ran, scope, parentId, burn, document])
  const { value: found, error } = useAnswer(burn === null ? undefined : compare)
  if (burn === null) return null
  if (error) return <Typography color="error">{error}</Typography>
  if (!found) return <Words tone="quiet">Comparing with the forecast …</Words>
  const facts = [
    ...(found.cutOverlap === null ? [] : [`cuts agree by ${percent(found.cutOverlap)}`]),
    ...(found.dots === null ? [] : [`${percent(found.dots)} of the dots are as forecast`]),
    ...(found.tooFineMm === null ? [] : [`dots too fine to be counted, seen at ${found.tooFineMm.toFixed(2)} mm`]),
    ...(found.toneBias === null || found.toneOff === null
      ? []
      : [
          `tone ${Math.abs(found.toneBias) < 0.005 ? 'as forecast' : `${percent(Math.abs(found.toneBias))} ${found.toneBias > 0 ? 'darker' : 'lighter'}`}`,
        ]),
  ]
  const why = whyOff(found)
  return (
    <Box
      component="section"
      aria-label="Forecast and burn"
      data-testid="burn-card"
      data-cut={found.cutOverlap ?? ''}
      data-dots={found.dots ?? ''}
    >
      <Title variant="h3" bottom="tight">
        Forecast and burn
      </Title>
      <Row align="stretch">
        <Picture rgba={found.seen} width={found.widthPx} height={found.heightPx} label="burned, seen from above" />
        <Picture rgba={found.difference} width={found.widthPx} height={found.heightPx} label="difference: red more, blue less" />
      </Row>
      <Words weight="firm" top="tight">
        {facts.join(' · ')}
      </Words>
      {why && (
        <Words tone="ask" top="tight" data-testid="why-off">
          {why}
        </Words>
      )}
    </Box>
  )
}
