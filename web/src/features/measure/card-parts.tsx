import { ButtonBase, styled } from '@mui/material'
import { isOfPage } from '../../parts/laid.ts'
import { EDGE, SPACE, TYPE, WEIGHT } from '../../theme/tokens.ts'

/** A card with its values over and beside its cells. */
export const Grid = styled('div', { shouldForwardProp: isOfPage('columns') })<{ readonly columns: number }>(({ columns }) => ({
  display: 'grid',
  gridTemplateColumns: `fit-content(150px) repeat(${columns}, minmax(54px, 92px))`,
  gap: SPACE.tight,
  alignItems: 'center',
  justifyContent: 'start',
}))

/** What stands over the columns and beside the rows. */
export const Head = styled('div')({
  textAlign: 'center',
  fontSize: TYPE.small,
  fontWeight: WEIGHT.strong,
})
export const Corner = styled('div')({ display: 'grid', whiteSpace: 'nowrap' })

/** A cell: as dark as it came out. */
export const Cell = styled('div', { shouldForwardProp: isOfPage('shown', 'out') })<{
  readonly shown: boolean
  readonly out: boolean
}>(({ theme: { palette }, shown, out }) => ({
  display: 'grid',
  alignContent: 'space-between',
  justifyItems: 'stretch',
  aspectRatio: '1',
  padding: SPACE.hair,
  borderRadius: EDGE.sharp,
  outline: shown ? `3px solid ${palette.primary.main}` : `1px solid ${palette.divider}`,
  opacity: out ? 0.45 : 1,
}))

/** Marks a cell as the best. */
export const Best = styled(ButtonBase, { shouldForwardProp: isOfPage('isBest') })<{ readonly isBest: boolean }>(
  ({ theme: { palette }, isBest }) => ({
    justifySelf: 'end',
    minWidth: 24,
    minHeight: 24,
    borderRadius: EDGE.pill,
    color: isBest ? palette.primary.contrastText : palette.text.primary,
    backgroundColor: isBest ? palette.primary.main : `${palette.background.paper}99`,
    '@media (pointer: coarse)': { minWidth: 32, minHeight: 32 },
  }),
)

/** Where a reading is typed. */
export const Reading = styled('input', { shouldForwardProp: isOfPage('wrong') })<{ readonly wrong: boolean }>(
  ({ theme: { palette }, wrong }) => ({
    width: '100%',
    minWidth: 0,
    height: 26,
    padding: `0 ${SPACE.tight}px`,
    font: 'inherit',
    fontSize: TYPE.small,
    fontWeight: WEIGHT.strong,
    textAlign: 'right',
    color: palette.text.primary,
    backgroundColor: palette.background.paper,
    border: `1px solid ${wrong ? palette.error.main : palette.divider}`,
    borderRadius: EDGE.sharp,
  }),
)

/** The card, and what came out beside it; under it where the card is long. */
export const Sides = styled('div', { shouldForwardProp: isOfPage('long') })<{ readonly long: boolean }>(({ long }) => ({
  display: 'grid',
  gridTemplateColumns: long ? 'minmax(0, 1fr)' : 'repeat(auto-fit, minmax(420px, 1fr))',
  gap: SPACE.open,
  alignItems: 'start',
}))

/** The curve and the best cell: under each other, beside each other under a long card. */
export const Outcome = styled('div', { shouldForwardProp: isOfPage('long') })<{ readonly long: boolean }>(({ long }) => ({
  display: 'grid',
  gridTemplateColumns: long ? 'repeat(auto-fit, minmax(340px, 1fr))' : 'minmax(0, 1fr)',
  gap: SPACE.wide,
  alignItems: 'start',
}))
