import AddIcon from '@mui/icons-material/Add'
import { Link as Anchor, Box, Button } from '@mui/material'
import type { Artwork, ArtworkSaid } from '@neotaxis/contract'
import { OWN_WORK, type Provenance } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useDropzone } from 'react-dropzone'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { artworkPicture, bringIn, libraryOrders } from '../api/orders.ts'
import { useArtworkJobsQuery, useLibraryQuery } from '../api/shop.ts'
import { useKept } from '../api/use-kept.ts'
import { NothingYet } from '../features/bar/NothingYet.tsx'
import { ShopBar } from '../features/bar/ShopBar.tsx'
import { tellDay } from '../features/field/told.ts'
import { ArtworkGrid } from '../features/library/ArtworkGrid.tsx'
import { SaidFields } from '../features/library/SaidFields.tsx'
import { AwayNote } from '../features/live/AwayNote.tsx'
import { DropVeil } from '../parts/DropVeil.tsx'
import { Panel } from '../parts/Panel.tsx'
import { Row, Spread } from '../parts/Row.tsx'
import { PictureGround } from '../parts/Tile.tsx'
import { Quiet, Words } from '../parts/words.tsx'

const ProposalChooser = lazy(() => import('../features/proposals/ProposalChooser.tsx'))

/** Artwork kept across jobs: where it came from, what its licence allows, which jobs use it. */
export default function LibraryPage() {
  const navigate = useNavigate()
  const { enqueueSnackbar } = useSnackbar()
  const [params, setParams] = useSearchParams()
  const { data: artwork, trouble, at } = useKept(useLibraryQuery, null)
  const [made, setMade] = useState<Artwork>()
  // What is said of it while its proposals are there counts, too.
  const making = made && (artwork?.find(({ id }) => id === made.id) ?? made)
  const said = making && JSON.stringify({ library: making.id, origin: making.origin, licence: making.licence })
  const provenance = useMemo((): Provenance | undefined => (said === undefined ? undefined : JSON.parse(said)), [said])
  const selected = artwork?.find(({ id }) => id === params.get('artwork'))
  const select = useCallback((id: string) => setParams({ artwork: id }, { replace: true }), [setParams])
  useEffect(() => {
    document.title = 'Library · Neotaxis'
  }, [])
  const complain = useCallback(
    (name: string, cause: unknown): void =>
      void enqueueSnackbar(`${name}: ${cause instanceof Error ? cause.message : 'It could not be done.'}`, { variant: 'error' }),
    [enqueueSnackbar],
  )
  const take = useCallback(
    async (files: readonly File[]) => {
      for (const file of files) {
        try {
          const { asset } = await bringIn(file)
          const name = file.name.replace(/\.\w{1,5}$/, '') || file.name
          const kept = await libraryOrders.keep({ asset, name, tags: [], origin: file.name, licence: OWN_WORK })
          select(kept.id)
        } catch (cause) {
          complain(file.name, cause)
        }
      }
    },
    [select, complain],
  )
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: true,
    onDrop: (files) => void take(files),
  })
  const change = async (of: Artwork, said: Partial<ArtworkSaid>): Promise<void> => {
    try {
      await libraryOrders.change(of.id, said)
    } catch (cause) {
      complain(of.name, cause)
    }
  }
  const remove = async (of: Artwork): Promise<void> => {
    try {
      await libraryOrders.remove(of.id)
      enqueueSnackbar(`“${of.name}” is put away; jobs keep their copy.`, {
        action: (
          <Button color="inherit" onClick={() => void libraryOrders.restore(of.id)}>
            Bring it back
          </Button>
        ),
      })
    } catch (cause) {
      complain(of.name, cause)
    }
  }
  const scrolls = useRef<HTMLDivElement>(null)
  return (
    <Box
      {...getRootProps()}
      sx={{ height: '100vh', display: 'flex', flexDirection: 'column', bgcolor: 'shop.surround', outline: 'none' }}
      data-testid="library"
    >
      <input {...getInputProps({ 'aria-label': 'Artwork to keep' })} data-testid="library-file" />
      <ShopBar>
        <Spread />
        <Button variant="contained" startIcon={<AddIcon />} onClick={open}>
          Keep a file
        </Button>
      </ShopBar>
      <AwayNote trouble={trouble} at={at} />
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
        <Box ref={scrolls} sx={{ flex: 1, overflow: 'auto', p: 3 }}>
          {artwork?.length === 0 && (
            <NothingYet title="Nothing is kept yet">
              Drop pictures, drawings or meshes here, or keep artwork from a job: it waits here for the next one.
            </NothingYet>
          )}
          {artwork && artwork.length > 0 && (
            <ArtworkGrid artwork={artwork} selected={selected?.id} onSelect={({ id }) => select(id)} scrolls={scrolls} />
          )}
        </Box>
        {selected && (
          <Panel side="right" width={360} pad="wide" as="aside" aria-label={`About ${selected.name}`}>
            <PictureGround>
              <img src={artworkPicture(selected.id)} alt={selected.name} />
            </PictureGround>
            <Quiet top="room" bottom="room">
              {kindWords(selected)}, kept {tellDay(selected.createdAt)}
            </Quiet>
            <SaidFields key={selected.id} said={selected} onChange={(said) => void change(selected, said)} />
            <UsedIn key={`used ${selected.id}`} id={selected.id} />
            <Row align="stretch" top="wide">
              <Button color="secondary" onClick={() => void remove(selected)}>
                Put it away
              </Button>
              <Button variant="contained" sx={{ flex: 1 }} onClick={() => setMade(selected)} data-testid="make-job">
                Make a job of it
              </Button>
            </Row>
          </Panel>
        )}
      </Box>
      {isDragActive && <DropVeil>Let go: it is kept</DropVeil>}
      {making && (
        <Suspense fallback={null}>
          <ProposalChooser
            name={making.name}
            facts={making.facts}
            drawn={making.drawn}
            provenance={provenance}
            onClose={() => setMade(undefined)}
            onMade={(id) => void navigate(`/jobs/${id}/compose`)}
          />
        </Suspense>
      )}
    </Box>
  )
}

const kindWords = ({ facts, drawn }: Artwork): string =>
  drawn
    ? drawn.kind === 'text'
      ? 'a text'
      : 'drawn by numbers'
    : facts.mesh
      ? 'a mesh'
      : facts.drawing
        ? `a drawing of ${facts.drawing.widthMm.toFixed(1)} × ${facts.drawing.heightMm.toFixed(1)} mm`
        : `a picture of ${facts.widthPx} × ${facts.heightPx} px`

function UsedIn({ id }: { readonly id: string }) {
  const jobs = useKept(useArtworkJobsQuery, id).data ?? []
  return (
    <Words size="plain" top="wide" data-testid="used-in">
      <b>{jobs.length === 0 ? 'In no job yet' : `In ${jobs.length} ${jobs.length === 1 ? 'job' : 'jobs'}`}</b>
      {jobs.slice(0, 12).map((job) => (
        <Box key={job.id}>
          <Anchor component={Link} to={`/jobs/${job.id}/compose`}>
            {job.name}
          </Anchor>
        </Box>
      ))}
    </Words>
  )
}
