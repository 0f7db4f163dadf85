import AddIcon from '@mui/icons-material/Add'
import LibraryIcon from '@mui/icons-material/CollectionsBookmarkOutlined'
import { Box, IconButton, Tooltip } from '@mui/material'
import type { AssetFacts } from '@neotaxis/contract'
import { type Drawn, type JobDocument, type Provenance, withArtwork } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { lazy, type ReactNode, Suspense, useCallback, useEffect, useState } from 'react'
import { useDropzone } from 'react-dropzone'
import { useLocation, useNavigate } from 'react-router'
import { bringIn } from '../../api/orders.ts'
import { DropVeil } from '../../parts/DropVeil.tsx'
import { onCommand } from '../bar/commands.ts'
import { DrawMenu } from '../draw/DrawMenu.tsx'
import { textInTheMiddle } from '../draw/text-middle.ts'
import { useMakeDrawn } from '../draw/use-make-drawn.ts'
import { usePasted } from '../draw/use-pasted.ts'
import { newId } from '../new-id.ts'
import { offered } from '../offered.tsx'
import { useEdit } from '../use-edit.ts'
import type { Begins } from './begins.ts'
import { onOffered } from './offered-files.ts'
import { TakePhoto } from './TakePhoto.tsx'

const FromLibrary = lazy(() => import('../library/FromLibrary.tsx'))
const ProposalChooser = lazy(() => import('../proposals/ProposalChooser.tsx'))

/** A job that takes more artwork: files dropped on it, pasted, or chosen become part of it by one of their proposals. */
export function BringIn({ job, children }: { readonly job: JobDocument; readonly children: ReactNode }) {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const [waiting, setWaiting] = useState<readonly File[]>([])
  const [dropped, setDropped] = useState<{
    readonly name: string
    readonly facts: AssetFacts
    /** It is the first of the files that wait; what was drawn or comes from the library leaves them waiting. */
    readonly file?: true | undefined
    readonly drawn?: Drawn
    readonly provenance?: Provenance
  }>()
  const [draws, setDraws] = useState(false)
  const [looking, setLooking] = useState(false)
  const take = useCallback((files: readonly File[]) => setWaiting((now) => [...now, ...files]), [])
  useEffect(() => onOffered(take), [take])
  const [first] = waiting
  useEffect(() => {
    if (!first || dropped) return
    const wanted = new AbortController()
    bringIn(first).then(
      (facts) => {
        if (!wanted.signal.aborted) setDropped({ name: first.name, facts, file: true })
      },
      (cause: unknown) => {
        if (wanted.signal.aborted) return
        enqueueSnackbar(`${first.name}: ${cause instanceof Error ? cause.message : 'It cannot be read.'}`, {
          variant: 'error',
          autoHideDuration: 10_000,
        })
        setWaiting((now) => now.slice(1))
      },
    )
    return () => {
      wanted.abort()
    }
  }, [first, dropped, enqueueSnackbar])
  const make = useMakeDrawn(job)
  const write = async (text: string): Promise<void> => {
    try {
      const { drawn, at } = await textInTheMiddle(job, text)
      await make(drawn, at)
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be written.', { variant: 'error' })
    }
  }
  usePasted(take, (text) => void write(text))
  // The page that began the job says what is done in it first.
  const { state } = useLocation()
  const navigate = useNavigate()
  useEffect(() => {
    if (!(state as Begins | null)?.draws) return
    setDraws(true)
    // Once: a reload begins nothing again.
    void navigate('.', { replace: true, state: null })
  }, [state, navigate])
  /** Another page of a PDF. */
  const takePage = async (name: string, file: File, page: number): Promise<void> => {
    try {
      setDropped({ name, facts: await bringIn(file, page), file: true })
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'That page cannot be read.', { variant: 'error' })
    }
  }
  const done = (): void => {
    setDropped(undefined)
    if (dropped?.file) setWaiting((now) => now.slice(1))
  }
  const leaveOut = (): void => {
    const left = dropped
    done()
    if (left)
      enqueueSnackbar(`“${left.name}” was left out.`, {
        autoHideDuration: 20_000,
        action: offered('Bring it back', () => setDropped({ ...left, file: undefined })),
      })
  }
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: true,
    onDrop: take,
  })
  useEffect(() => onCommand({ 'bring-in': open, draw: () => setDraws(true), 'from-library': () => setLooking(true) }))
  return (
    <Box {...getRootProps()} sx={{ position: 'relative', height: '100%' }} data-testid="bring-in">
      <input {...getInputProps()} data-testid="bring-in-file" />
      {children}
      <Box
        sx={{
          position: 'absolute',
          right: 12,
          top: 8,
          display: 'flex',
          gap: 1.2,
          flexDirection: { xs: 'column', lg: 'row-reverse' },
        }}
      >
        <Tooltip title="Bring more artwork into this job: a picture, a drawing, a mesh. Or drop it here.">
          <IconButton onClick={open} aria-label="Bring artwork in" sx={ROUND}>
            <AddIcon fontSize="small" />
          </IconButton>
        </Tooltip>
        <TakePhoto onFiles={take} sx={ROUND} />
        <DrawMenu sx={ROUND} open={draws} onOpen={setDraws} />
        <Tooltip title="Bring artwork of the library into this job">
          <IconButton onClick={() => setLooking(true)} aria-label="From the library" data-testid="from-library-button" sx={ROUND}>
            <LibraryIcon fontSize="small" />
          </IconButton>
        </Tooltip>
      </Box>
      {looking && (
        <Suspense fallback={null}>
          <FromLibrary
            onClose={() => setLooking(false)}
            onChosen={({ id, name, facts, drawn, origin, licence }) => {
              setLooking(false)
              setDropped({ name, facts, ...(drawn ? { drawn } : {}), provenance: { library: id, origin, licence } })
            }}
          />
        </Suspense>
      )}
      {isDragActive && <DropVeil>Into this job</DropVeil>}
      {dropped && (
        <Suspense fallback={null}>
          <ProposalChooser
            name={dropped.name}
            facts={dropped.facts}
            drawn={dropped.drawn}
            provenance={dropped.provenance}
            into={job}
            onPage={dropped.file && first && ((page) => void takePage(dropped.name, first, page))}
            onClose={leaveOut}
            onChosen={(made) => {
              const tag = newId().slice(0, 8)
              edit(`bring ${dropped.name} in`, (base) => withArtwork(base, made, tag))
              done()
            }}
          />
        </Suspense>
      )}
    </Box>
  )
}

const ROUND = { bgcolor: 'background.paper', border: 1, borderColor: 'divider' } as const
