import { Box } from '@mui/material'
import { type DrawingNode, type Drawn, drawnName, type JobDocument, redrawn } from '@neotaxis/core'
import { useRef, useState } from 'react'
import { api } from '../../api/api.ts'
import { drawnFile } from '../../workers/engine.ts'
import { Heading } from '../details/Heading.tsx'
import { useEdit } from '../use-edit.ts'
import { DrawnFields } from './DrawnFields.tsx'

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
  // What was asked for last holds, in whatever order the answers come.
  const turn = useRef(0)
  const change = async (drawn: Drawn): Promise<void> => {
    const mine = ++turn.current
    try {
      const made = await drawnFile(drawn)
      const { asset, drawing } = await api.bringIn(new Blob([made.svg]))
      if (mine !== turn.current || !drawing) return
      setError(undefined)
      setNotices(made.notices)
      const name = drawn.kind === 'text' ? `write “${drawnName(drawn)}”` : `change ${drawnName(drawn)}`
      edit(name, (base) =>
        redrawn(base, id, { drawn, asset, widthMm: drawing.widthMm, heightMm: drawing.heightMm, looks: made.looks }),
      )
    } catch (cause) {
      if (mine === turn.current) setError(cause instanceof Error ? cause.message : 'It could not be drawn.')
    }
  }
  return (
    <Box data-testid="drawn-details">
      <Heading>{node.drawn.kind === 'text' ? 'Written here' : `Drawn here: ${drawnName(node.drawn)}`}</Heading>
      <DrawnFields drawn={node.drawn} job={job} onChange={(drawn) => void change(drawn)} />
      {error && (
        <Box role="alert" sx={{ color: 'error.main', fontSize: 13 }}>
          {error}
        </Box>
      )}
      {notices.map((notice) => (
        <Box key={notice} sx={{ color: 'shop.ask', fontSize: 13 }}>
          {notice}
        </Box>
      ))}
    </Box>
  )
}
