import { Button } from '@mui/material'
import type { JobDocument } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { Link, useParams } from 'react-router'
import { EmptyPlace } from '../../parts/Card.tsx'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Words } from '../../parts/words.tsx'
import { useEdit } from '../use-edit.ts'

/** One thing that artwork can become by a press. */
export interface BeginsAs {
  readonly label: string
  readonly testId: string
  readonly make: (job: JobDocument) => JobDocument
}

interface Props {
  readonly title: string
  /** What there would be here, and how it begins. */
  readonly words: string
  /** What can be begun, by the artwork that it begins from. */
  readonly from: readonly { readonly name: string; readonly ways: readonly BeginsAs[] }[]
  readonly job: JobDocument
}

/** A bench with nothing on it: what can be laid there by one press. */
export function EmptyBench({ title, words, from, job }: Props) {
  const { id = '' } = useParams()
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const take = ({ label, make }: BeginsAs): void => {
    try {
      const made = make(job)
      edit(label.toLowerCase(), () => made)
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'That cannot be.', { variant: 'error' })
    }
  }
  return (
    <div style={{ gridColumn: '1 / -1', gridRow: '2 / -1', minHeight: 0, padding: 24 }} data-testid="empty-bench">
      <EmptyPlace>
        <Title variant="h1" bottom="snug">
          {title}
        </Title>
        <Words tone="quiet">{words}</Words>
        {from.map(({ name, ways }) => (
          <Row key={name} wraps pack="center">
            <Words weight="strong">{name}</Words>
            {ways.map((way) => (
              <Button key={way.testId} variant="outlined" onClick={() => take(way)} data-testid={way.testId}>
                {way.label}
              </Button>
            ))}
          </Row>
        ))}
        {from.length === 0 && (
          <Button component={Link} to={`/jobs/${id}/compose`}>
            To the artwork
          </Button>
        )}
      </EmptyPlace>
    </div>
  )
}
