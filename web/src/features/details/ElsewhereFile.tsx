import { Button } from '@mui/material'
import type { JobDocument } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { Row } from '../../parts/Row.tsx'
import { elsewhereFile } from '../../workers/engine.ts'
import { download, fileName } from '../bar/save-files.ts'

/** What another tool cuts, as a file for it. */
export function ElsewhereFile({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const { enqueueSnackbar } = useSnackbar()
  const save = (kind: 'svg' | 'dxf'): void => {
    elsewhereFile(job, id, kind).then(
      ({ text, notices }) => {
        download(
          new Blob([text], { type: kind === 'svg' ? 'image/svg+xml' : 'image/vnd.dxf' }),
          `${fileName(job.name)} ${id}.${kind}`,
        )
        for (const notice of notices) enqueueSnackbar(notice)
      },
      (cause: unknown) => enqueueSnackbar(cause instanceof Error ? cause.message : 'It cannot be saved.', { variant: 'error' }),
    )
  }
  return (
    <Row top="snug">
      {(['svg', 'dxf'] as const).map((kind) => (
        <Button key={kind} variant="outlined" color="secondary" onClick={() => save(kind)} data-testid={`elsewhere-${kind}`}>
          Save as {kind.toUpperCase()}
        </Button>
      ))}
    </Row>
  )
}
