import { ButtonBase, styled, type Theme } from '@mui/material'
import { EDGE, SPACE, TYPE, WEIGHT } from '../theme/tokens.ts'
import { isOfPage } from './laid.ts'

/** Between two blocks, px. */
export const BLOCK_GAP = 5

interface BlockProps {
  /** By its place in time, and on it. */
  readonly fill: string
  readonly ink: string
  /** By its process. */
  readonly texture: string
  readonly textureSize?: string
  /** It takes part. */
  readonly runs?: boolean
  readonly chosen?: boolean
  /** It is being dragged. */
  readonly held?: boolean
  /** What it says is older than the job. */
  readonly stale?: boolean
}

const OWN: readonly string[] = ['fill', 'ink', 'texture', 'textureSize', 'runs', 'chosen', 'held', 'stale']

const block = ({
  theme: { palette, shadows },
  fill,
  ink,
  texture,
  textureSize,
  runs = true,
  chosen,
  held,
  stale,
}: BlockProps & { readonly theme: Theme }) =>
  ({
    flex: 'none',
    display: 'block',
    position: 'relative',
    padding: `${SPACE.snug}px ${SPACE.snug + SPACE.hair}px`,
    // Clipped, not hidden: what it says stays in sight where time is looked at closely.
    overflow: 'clip',
    textAlign: 'left',
    whiteSpace: 'nowrap',
    fontSize: TYPE.small,
    borderRadius: EDGE.card,
    border: runs ? 'none' : `2px dashed ${palette.divider}`,
    backgroundColor: runs ? fill : 'transparent',
    backgroundImage: runs ? texture : 'none',
    backgroundSize: textureSize,
    color: runs ? ink : palette.text.secondary,
    outline: chosen ? `3px solid ${palette.primary.main}` : undefined,
    outlineOffset: chosen ? 1 : undefined,
    opacity: stale ? 0.82 : 1,
    boxShadow: held ? shadows[6] : 'none',
    zIndex: held ? 2 : 0,
    touchAction: 'none',
  }) as const

const shouldForwardProp = isOfPage(...OWN)

/** An operation as long as it takes. */
export const BlockBox = styled('div', { shouldForwardProp })<BlockProps>(block)
/** One that is pressed to take part or not. */
export const BlockButton = styled(ButtonBase, { shouldForwardProp })<BlockProps>(block)

/** Its number and name, and how long it takes. */
export const BlockHead = styled('span')({
  display: 'flex',
  justifyContent: 'space-between',
  gap: SPACE.snug,
  fontSize: TYPE.body,
  fontWeight: WEIGHT.strong,
  '& > :first-of-type': { position: 'sticky', left: SPACE.snug },
})

/** Its settings in short. */
export const BlockFoot = styled('span')({
  display: 'block',
  overflow: 'clip',
  textOverflow: 'ellipsis',
  position: 'sticky',
  left: SPACE.snug,
})

/** The blocks of a job beside each other, under the ticks of time. */
export const BlockTrack = styled('div')({ display: 'flex', gap: BLOCK_GAP, height: 62, marginTop: 26 })

/** The time of it all, at the end of the line. */
export const TotalTime = styled('div', { shouldForwardProp: isOfPage('stale') })<{ readonly stale?: boolean }>(
  ({ theme: { palette }, stale }) => ({
    fontSize: TYPE.large,
    fontWeight: WEIGHT.heavy,
    lineHeight: 1.1,
    color: stale ? palette.text.secondary : palette.text.primary,
  }),
)
export const AtEnd = styled('div')({ minWidth: 100, textAlign: 'right', alignSelf: 'center' })
