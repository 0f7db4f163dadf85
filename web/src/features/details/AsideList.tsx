import { Link } from '@mui/material'
import { asideOperations, type JobDocument, tellBurned, usedAgain, withoutOperation } from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { Words } from '../../parts/words.tsx'
import { pageOf } from '../../processes/table.ts'
import { useDispatch } from '../../store/hooks.ts'
import { selected } from '../../store/view-slice.ts'
import { useEdit } from '../use-edit.ts'
import { Heading } from './Heading.tsx'

/** Operations that are kept with their settings and not burned: each can be used again, or deleted. */
export function AsideList({ job }: { readonly job: JobDocument }) {
  const edit = useEdit()
  const dispatch = useDispatch()
  const aside = asideOperations(job)
  if (aside.length === 0) return null
  return (
    <>
      <Heading>Put aside</Heading>
      {aside.map((id) => (
        <Row key={id} align="baseline" data-testid={`aside-${id}`}>
          <Words grow cut>
            {pageOf(job.operations[id]).name} of {tellBurned(job, job.operations[id])}
          </Words>
          <Link
            component="button"
            onClick={() => {
              edit('use an operation again', (base) => usedAgain(base, id))
              dispatch(selected({ kind: 'operation', id }))
            }}
          >
            Use again
          </Link>
          <Link
            component="button"
            color="text.secondary"
            onClick={() => edit('delete an operation', (base) => withoutOperation(base, id))}
          >
            Delete
          </Link>
        </Row>
      ))}
    </>
  )
}
