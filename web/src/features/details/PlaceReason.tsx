import { styled } from '@mui/material'
import type { JobDocument } from '@neotaxis/core'
import { Words } from '../../parts/words.tsx'
import { useEvaluation } from '../../workers/use-evaluation.ts'

/** Why an operation stands where it does in the order, and what speaks against it. */
export function PlaceReason({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const place = useEvaluation(({ measure, measured }) => (measured === job ? measure?.places[id] : undefined))
  if (!place) return null
  return (
    <Words tone="quiet" size="plain" bottom="snug" data-testid="place-reason">
      {place.reasons.length > 0 && `Here because: ${place.reasons.join('; ')}. `}
      {place.against.length > 0 && <Against>It should stand {place.against.join('; ')}.</Against>}
    </Words>
  )
}

const Against = styled('span')(({ theme: { palette } }) => ({ color: palette.error.main }))
