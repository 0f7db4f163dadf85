import { Button } from '@mui/material'
import type { AssetFacts } from '@neotaxis/contract'
import { type JobDocument, withArtwork, withoutArtwork } from '@neotaxis/core'
import { lazy, Suspense, useState } from 'react'
import { bringIn } from '../../api/orders.ts'
import { Words } from '../../parts/words.tsx'
import { useDispatch } from '../../store/hooks.ts'
import { selected } from '../../store/view-slice.ts'
import { newId } from '../new-id.ts'
import { useDoing } from '../run/use-doing.ts'
import { useEdit } from '../use-edit.ts'

const ProposalChooser = lazy(() => import('../proposals/ProposalChooser.tsx'))

/** Artwork that was brought in, of which nothing is made yet: what becomes of it is decided here. */
export function UndecidedDetails({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const doing = useDoing()
  const dispatch = useDispatch()
  const [facts, setFacts] = useState<AssetFacts>()
  const node = job.nodes[id]
  const place = job.placements[id] ?? Object.values(job.placements).find(({ of }) => of === id)
  if (node.kind === 'program' || !('asset' in node) || !place) return null
  const ask = (): void =>
    void doing(async () => {
      const kept = await fetch(`/api/assets/${node.asset}`)
      if (!kept.ok) throw new Error(`“${node.name}” cannot be read from the server now.`)
      setFacts(await bringIn(await kept.blob()))
    })
  return (
    <>
      <Words tone="quiet" top="snug" bottom="snug">
        Nothing is made of it yet: it is not burned.
      </Words>
      <Button fullWidth variant="contained" onClick={ask} data-testid="decide-now">
        What becomes of it?
      </Button>
      {facts && (
        <Suspense fallback={null}>
          <ProposalChooser
            name={node.name}
            facts={{ ...facts, asset: node.asset }}
            drawn={node.kind === 'drawing' ? node.drawn : undefined}
            provenance={node.provenance}
            into={withoutArtwork(job, [id])}
            at={{ xMm: place.xMm, yMm: place.yMm }}
            widthMm={place.widthMm}
            later={false}
            onClose={() => setFacts(undefined)}
            onChosen={(made) => {
              const tag = newId().slice(0, 8)
              edit(`decide what becomes of ${node.name}`, (base) => {
                const { source } = made.placements
                const turned = { ...made, placements: { source: place.deg ? { ...source, deg: place.deg } : source } }
                const next = withArtwork(withoutArtwork(base, [id]), turned, tag)
                const { [id]: group, ...mates } = base.groups ?? {}
                // What moved with it goes on moving with it.
                return group ? { ...next, groups: { ...mates, ...next.groups, [`source-${tag}`]: group } } : next
              })
              dispatch(selected({ kind: 'node', id: `source-${tag}` }))
              setFacts(undefined)
            }}
          />
        </Suspense>
      )}
    </>
  )
}
