import { Box, Button, Typography } from '@mui/material'
import { useSnackbar } from 'notistack'
import type { ReactNode } from 'react'
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary'
import { Row } from '../../parts/Row.tsx'
import { useSelector } from '../../store/hooks.ts'
import { store } from '../../store/store.ts'
import { download, fileName } from '../bar/save-files.ts'

interface Props {
  /** What of the screen it is around, as a sentence calls it. */
  readonly what: string
  /** Around a part of a screen only. */
  readonly part?: boolean
  /** It is tried again by itself when one of these is another. */
  readonly keys?: unknown[]
  readonly children: ReactNode
}

/** An error in what is shown ends that part alone: what was typed is kept, and can be saved and gone on with. */
export function TroubleBoundary({ what, part = false, keys, children }: Props) {
  return (
    <ErrorBoundary
      {...(keys && { resetKeys: keys })}
      onError={(cause) => console.error(cause)}
      fallbackRender={(fallback) => <Trouble {...fallback} what={what} part={part} />}
    >
      {children}
    </ErrorBoundary>
  )
}

/** A part of the page that could not be loaded, because the server has a newer one, or none just now. */
const isMissingPart = (message: string): boolean => /dynamically imported|module script|chunk/i.test(message)

function Trouble({ error, resetErrorBoundary, what, part }: FallbackProps & { readonly what: string; readonly part: boolean }) {
  const { enqueueSnackbar } = useSnackbar()
  const job = useSelector((state) => state.job.document)
  const message = error instanceof Error ? error.message : String(error)
  const missing = isMissingPart(message)
  const save = async (): Promise<void> => {
    const { document } = store.getState().job
    if (!document) return
    try {
      const { packHere } = await import('./pack-here.ts')
      download(await packHere(document), `${fileName(document.name)}.neotaxis`)
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be saved.', { variant: 'error' })
    }
  }
  return (
    <Box
      role="alert"
      component={part ? 'div' : 'main'}
      data-testid="trouble"
      sx={{
        height: part ? '100%' : '100vh',
        display: 'grid',
        placeContent: 'center',
        justifyItems: 'center',
        gap: 2,
        p: 3,
        textAlign: 'center',
        bgcolor: 'shop.surround',
      }}
    >
      <Typography variant="h2">{missing ? `${what} could not be loaded` : `${what} cannot be shown`}</Typography>
      <Typography sx={{ color: 'text.secondary', maxWidth: 520 }}>
        {missing ? 'The server is not answering, or has a newer version of this page.' : message}
        {job && ' What you did is kept.'}
      </Typography>
      <Row align="stretch" gap="room" wraps pack="center">
        <Button
          variant="contained"
          onClick={() => (missing ? location.reload() : resetErrorBoundary())}
          data-testid="trouble-again"
        >
          Try again
        </Button>
        {job && (
          <Button variant="outlined" onClick={() => void save()} data-testid="trouble-save">
            Save the job as a file
          </Button>
        )}
        {!part && (
          <Button variant="outlined" href="/jobs">
            To the job board
          </Button>
        )}
      </Row>
    </Box>
  )
}
