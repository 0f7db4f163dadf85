import { Box } from '@mui/material'
import { type DrawingNode, type Drawn, drawnName, type JobDocument, redrawn } from '@neotaxis/core'
import { useEffect, useRef, useState } from 'react'
import { Words, Wrong } from '../../parts/words.tsx'
import { store } from '../../store/store.ts'
import { Heading } from '../details/Heading.tsx'
import { useEdit } from '../use-edit.ts'
import { DrawnFields } from './DrawnFields.tsx'
import { LatestOnly } from './latest-only.ts'
import { redraw } from './redraw.ts'

interface Props {
  readonly job: JobDocument
  readonly id: string
  readonly node: DrawingNode & { readonly drawn: Drawn }
}

/** A text or shape that was made here: its numbers stay, and all that comes from it follows them. */
export default function DrawnDetails({ job, id, node }: Props) {
  const edit = useEdit()
  const [error, setError] = useState<string>()
  const [notices, setNotices] = useState<readonly string[]>([])
  // Numbers that were typed and are not in the job yet: the next one is added to them, not to what the job still has.
  const [wanted, setWanted] = useState<Drawn>()
  // What was made of them is in the job; this screen may show it a moment later.
  const [made, setMade] = useState<Drawn>()
  const inJob = node.drawn
  useEffect(() => {
    if (made && JSON.stringify(made) === JSON.stringify(inJob)) setWanted((now) => (now === made ? undefined : now))
  }, [made, inJob])
  const draw = async (drawn: Drawn): Promise<void> => {
    try {
      // As it stands in the job now: this screen may be a moment behind.
      const now = store.getState().job.document?.nodes[id]
      const done = await redraw(now?.kind === 'drawing' && now.drawn ? now.drawn : node.drawn, drawn)
      if (!done) return
      setError(undefined)
      setNotices(done.notices)
      const name = drawn.kind === 'text' ? `write “${drawnName(drawn)}”` : `change ${drawnName(drawn)}`
      edit(name, (base) => redrawn(base, id, done.as))
      setMade(drawn)
    } catch (cause) {
      setError(cause instanceof Error ? cause.message : 'It could not be drawn.')
      setWanted((now) => (now === drawn ? undefined : now))
    }
  }
  // One at a time: of those that are typed meanwhile the newest holds all the others.
  const queue = useRef<LatestOnly<Drawn>>(undefined)
  queue.current ??= new LatestOnly(draw)
  const change = (drawn: Drawn): void => {
    setWanted(drawn)
    queue.current?.want(drawn)
  }
  return (
    <Box data-testid="drawn-details">
      <Heading>{node.drawn.kind === 'text' ? 'Written here' : `Drawn here: ${drawnName(node.drawn)}`}</Heading>
      <DrawnFields drawn={wanted ?? node.drawn} job={job} onChange={change} />
      {error && <Wrong role="alert">{error}</Wrong>}
      {notices.map((notice) => (
        <Words key={notice} size="small" tone="ask">
          {notice}
        </Words>
      ))}
    </Box>
  )
}
