import { Box } from '@mui/material'
import { formatLength, type JobDocument, RANGES, thinnestMm } from '@neotaxis/core'
import { BareList } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { Words } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { selected } from '../../store/view-slice.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'
import { Heading } from './Heading.tsx'

const FATES = { lost: 'falls, and should not', part: 'wanted', waste: 'waste' } as const
/** More kinds than these are not listed one by one. */
const MOST = 8

/** What comes off the sheet when the job is done, and what counts as thin. */
export function LooseList({ job }: { readonly job: JobDocument }) {
  const edit = useEdit()
  const dispatch = useDispatch()
  const unit = useSelector((state) => state.view.lengthUnit)
  const loose = useEvaluation((state) => state.measure?.loose)
  if (!loose || loose.length === 0) return null
  return (
    <>
      <Heading>What comes off</Heading>
      <BareList gap="none" data-testid="loose">
        {loose.slice(0, MOST).map(({ fate, count, widthMm, heightMm, areaMm2, operation }) => (
          <Row as="li" align="baseline" key={`${fate} ${operation} ${widthMm} ${heightMm} ${areaMm2}`}>
            <Box
              component="button"
              onClick={() => dispatch(selected({ kind: 'operation', id: operation }))}
              sx={{
                all: 'unset',
                cursor: 'pointer',
                flex: 1,
                minHeight: 28,
                '@media (pointer: coarse)': { minHeight: 44 },
                '&:focus-visible': { outline: '2px solid' },
              }}
            >
              {count} × {formatLength(widthMm, unit)} by {formatLength(heightMm, unit)}
            </Box>
            <Words as="span" tone={fate === 'lost' ? 'ask' : 'quiet'}>
              {FATES[fate]}
            </Words>
          </Row>
        ))}
        {loose.length > MOST && (
          <Words as="li" tone="quiet">
            and {loose.slice(MOST).reduce((sum, { count }) => sum + count, 0)} smaller ones
          </Words>
        )}
      </BareList>
      <LengthField
        label="Thin is under"
        value={thinnestMm(job)}
        range={RANGES.thinMm}
        digits={2}
        hint="What stays and is thinner than this anywhere is told as a finding."
        onCommit={(thinMm) => edit(`thin is under ${formatLength(thinMm, unit)}`, (base) => ({ ...base, thinMm }))}
      />
    </>
  )
}
