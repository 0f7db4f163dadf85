import { Link as Anchor, Box, Button } from '@mui/material'
import { type JobDocument, OWN_WORK, sourceOf, withNode } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { Link } from 'react-router'
import { libraryOrders } from '../../api/orders.ts'
import { Words } from '../../parts/words.tsx'
import { Heading } from '../details/Heading.tsx'
import { useEdit } from '../use-edit.ts'
import { licenceWords } from './ArtworkGrid.tsx'

/** Where a family of artwork came from; what is not in the library yet can be kept there. */
export function ProvenanceDetails({ job, node }: { readonly job: JobDocument; readonly node: string }) {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const root = sourceOf(job, node)
  const source = job.nodes[root]
  if (source.kind !== 'source' && source.kind !== 'mesh' && source.kind !== 'drawing') return null
  const { provenance } = source
  const keep = async (): Promise<void> => {
    try {
      const drawn = source.kind === 'drawing' ? source.drawn : undefined
      const name = source.name.replace(/\.\w{1,5}$/, '')
      const kept = await libraryOrders.keep({
        asset: source.asset,
        ...(drawn ? { drawn } : {}),
        name,
        tags: [],
        origin: `the job “${job.name}”`,
        licence: OWN_WORK,
      })
      const { id, origin, licence } = kept
      edit(`keep ${name} in the library`, (base) => withNode(base, root, { provenance: { library: id, origin, licence } }))
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be kept.', { variant: 'error' })
    }
  }
  return (
    <>
      <Heading>Where it came from</Heading>
      {provenance ? (
        <Words size="plain" tone="quiet" data-testid="provenance">
          {provenance.origin && <Box>{provenance.origin}</Box>}
          <Box>{licenceWords(provenance)}</Box>
          <Anchor component={Link} to={`/library?artwork=${provenance.library}`}>
            In the library
          </Anchor>
        </Words>
      ) : (
        <Button
          fullWidth
          variant="outlined"
          color="secondary"
          onClick={() => void keep()}
          data-testid="keep-artwork"
          sx={{ mt: 0.8 }}
        >
          Keep it in the library
        </Button>
      )}
    </>
  )
}
