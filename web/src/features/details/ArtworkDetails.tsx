import { Box, Button, Tooltip } from '@mui/material'
import { activeSteps, isRoot, isUndecided, type JobDocument, type PictureNode } from '@neotaxis/core'
import { Fragment, lazy, Suspense } from 'react'
import { Link, useParams } from 'react-router'
import { BareList } from '../../parts/Column.tsx'
import { Words } from '../../parts/words.tsx'
import { dotsWords, STEP_NAMES, stepWords } from '../picture/step-words.ts'
import { Heading } from './Heading.tsx'
import { OffsetDetails } from './OffsetDetails.tsx'
import { TraceDetails } from './TraceDetails.tsx'
import { UndecidedDetails } from './UndecidedDetails.tsx'

const DrawnDetails = lazy(() => import('../draw/DrawnDetails.tsx'))

/** What a piece of artwork was made with, and what that was made from, up to its source: all can be changed. */
export function ArtworkDetails({ job, node: first }: { readonly job: JobDocument; readonly node: string }) {
  const chain: string[] = []
  for (let id: string | undefined = first; id; ) {
    chain.push(id)
    const node: JobDocument['nodes'][string] = job.nodes[id]
    id = isRoot(node) ? undefined : node.from
  }
  return chain.map((id) => {
    const node = job.nodes[id]
    const undecided = isUndecided(job, id) && <UndecidedDetails key={`undecided ${id}`} job={job} id={id} />
    if (node.kind === 'offset') return <OffsetDetails key={id} id={id} node={node} />
    if (node.kind === 'trace')
      return (
        <Fragment key={id}>
          <TraceDetails job={job} id={id} node={node} />
          <ToOutlineBench id={id} />
        </Fragment>
      )
    if (node.kind === 'clean' || node.kind === 'combine' || node.kind === 'part' || node.kind === 'bridged')
      return <ToOutlineBench key={id} id={id} />
    if (node.kind === 'drawing' && node.drawn) {
      const { drawn } = node
      return (
        <Fragment key={id}>
          {undecided}
          <Suspense fallback={null}>
            <DrawnDetails job={job} id={id} node={{ ...node, drawn }} />
          </Suspense>
        </Fragment>
      )
    }
    if (node.kind === 'clip') return null
    if ((node.kind === 'source' || node.kind === 'drawing') && node.cameIn)
      return (
        <Fragment key={id}>
          {undecided}
          <Heading>How “{node.name}” came in</Heading>
          {node.cameIn.map((told) => (
            <Words key={told} size="small" tone="quiet" bottom="tight" data-testid="came-in">
              {told}
            </Words>
          ))}
        </Fragment>
      )
    if (node.kind === 'picture') return <PictureDetails key={id} id={id} node={node} />
    return undecided
  })
}

/** What is done to the picture, in words; the bench is where it is changed. */
function PictureDetails({ id, node }: { readonly id: string; readonly node: PictureNode }) {
  const { id: job = '' } = useParams()
  return (
    <>
      <Heading>Treatment of “{node.name}”</Heading>
      <BareList gap="none">
        {activeSteps(node).map((step, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the order is what they are
          <Box component="li" key={i} sx={{ py: 0.4 }}>
            <b>{STEP_NAMES[step.kind]}</b>{' '}
            <Words as="span" tone="quiet">
              {stepWords(step)}
            </Words>
          </Box>
        ))}
        <Box component="li" sx={{ py: 0.4 }}>
          <b>Dots</b>{' '}
          <Words as="span" tone="quiet">
            {dotsWords(node.dots)}
          </Words>
        </Box>
      </BareList>
      <Tooltip title="Crop, tones, dots, masks: on the picture bench  (B)">
        <Button
          component={Link}
          to={`/jobs/${job}/picture/${id}`}
          fullWidth
          variant="outlined"
          color="secondary"
          data-testid="open-bench"
          sx={{ mt: 0.8 }}
        >
          Treat this picture
        </Button>
      </Tooltip>
    </>
  )
}

function ToOutlineBench({ id }: { readonly id: string }) {
  const { id: job = '' } = useParams()
  return (
    <Tooltip title="Clean up, change nodes, combine: over the picture, on the outline bench  (O)">
      <Button
        component={Link}
        to={`/jobs/${job}/outline/${id}`}
        fullWidth
        variant="outlined"
        color="secondary"
        data-testid="open-outline"
        sx={{ mt: 0.8 }}
      >
        Work on this outline
      </Button>
    </Tooltip>
  )
}
