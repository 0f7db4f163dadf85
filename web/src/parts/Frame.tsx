import { styled } from '@mui/material'
import { SPACE } from '../theme/tokens.ts'
import { isOfPage } from './laid.ts'

/** Under this width a page has no room for panels beside the stage (a screen of 1280 px at 200 %), CSS px. */
export const NARROW_PX = 900

const OWN = ['rows', 'columns', 'areas', 'narrow']

interface FrameProps {
  /** As CSS says them. */
  readonly rows: string
  readonly columns: string
  readonly areas: string
  /** Where there is no room beside the stage: everything under each other, and the page scrolls. */
  readonly narrow?: { readonly rows: string; readonly areas: string }
}

/** A screen of a job: fills the window, each part in its area. */
export const Frame = styled('main', { shouldForwardProp: isOfPage(...OWN) })<FrameProps>(({ rows, columns, areas, narrow }) => ({
  display: 'grid',
  height: 'calc(100vh - var(--guide-high, 0px))',
  gridTemplateRows: rows,
  gridTemplateColumns: columns,
  gridTemplateAreas: areas,
  ...(narrow && {
    [`@media (max-width: ${NARROW_PX - 1}px)`]: {
      gridTemplateRows: narrow.rows,
      gridTemplateColumns: 'minmax(0, 1fr)',
      gridTemplateAreas: narrow.areas,
      overflowY: 'auto',
      // What stays at the foot of the window hides nothing.
      paddingBottom: 104,
    },
  }),
}))

/** A part of a screen, in its area. */
export const Area = styled('div', { shouldForwardProp: isOfPage('name') })<{ readonly name: string }>(({ name }) => ({
  gridArea: name,
  position: 'relative',
  minWidth: 0,
  minHeight: 0,
}))

/** A part of a screen that is a column of its own: it scrolls by itself, unless the whole screen does. */
export const AreaColumn = styled(Area, { shouldForwardProp: isOfPage('name') })({
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr)',
  alignContent: 'start',
  gap: SPACE.wide,
  padding: SPACE.wide,
  overflowY: 'auto',
  [`@media (max-width: ${NARROW_PX - 1}px)`]: { overflowY: 'visible' },
})
