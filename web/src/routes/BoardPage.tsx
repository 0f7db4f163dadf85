import AddIcon from '@mui/icons-material/Add'
import { Button } from '@mui/material'
import type { AssetFacts, JobBrief } from '@neotaxis/contract'
import { type Drawn, emptyJob, type JobDocument, withStock } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { lazy, Suspense, useCallback, useEffect, useRef, useState } from 'react'
import { useDropzone } from 'react-dropzone'
import { useLocation, useNavigate } from 'react-router'
import { bringIn, jobOrders } from '../api/orders.ts'
import { useJobsQuery } from '../api/shop.ts'
import { useKept } from '../api/use-kept.ts'
import { NothingYet } from '../features/bar/NothingYet.tsx'
import { ShopBar } from '../features/bar/ShopBar.tsx'
import { type DropQueue, dropped as dropsTaken, NO_DROPS, nextTurn, placeIn } from '../features/board/drop-queue.ts'
import { JobCard } from '../features/board/JobCard.tsx'
import { TroubledCard } from '../features/board/TroubledCard.tsx'
import { usePasted } from '../features/draw/use-pasted.ts'
import { useRestedText } from '../features/field/use-rested-text.ts'
import { GuideOffer } from '../features/guide/Guide.tsx'
import type { Begins } from '../features/job/begins.ts'
import { JUST_BEGUN } from '../features/job/just-begun.ts'
import { TakePhoto } from '../features/job/TakePhoto.tsx'
import { AwayNote } from '../features/live/AwayNote.tsx'
import { newId } from '../features/new-id.ts'
import { offered } from '../features/offered.tsx'
import { useBegun } from '../features/proposals/use-begun.ts'
import { EmptyPlace } from '../parts/Card.tsx'
import { DropVeil } from '../parts/DropVeil.tsx'
import { LongList } from '../parts/LongList.tsx'
import { Page, PageMain } from '../parts/Page.tsx'
import { Spread } from '../parts/Row.tsx'
import { SearchField } from '../parts/SearchField.tsx'
import { useDispatch } from '../store/hooks.ts'
import { begunOnStock } from '../store/view-slice.ts'
import { pictureSoon, warmSoon } from '../workers/ahead.ts'

const chooser = () => import('../features/proposals/ProposalChooser.tsx')
const ProposalChooser = lazy(chooser)

/** A text that came as a file, drawn in plain letters. */
async function writtenFile(file: File): Promise<{ name: string; facts: AssetFacts; drawn: Drawn }> {
  const { plainText } = await import('../features/draw/written-into.ts')
  return { name: file.name, ...(await plainText((await file.text()).trim())) }
}

/** So long after the board is there the workers get ready: its own pictures come first, ms. */
const WARM_AFTER_MS = 800

/** All jobs; a picture or a job file dropped anywhere begins one. */
export function BoardPage() {
  const navigate = useNavigate()
  const dispatch = useDispatch()
  const { enqueueSnackbar } = useSnackbar()
  const [search, setSearch] = useState('')
  /** A job that was begun before it was known what the shop has. */
  const [asked, setAsked] = useState<{ readonly text: string | undefined } | null>(null)
  const [reading, setReading] = useState<string | null>(null)
  const [dropped, setDropped] = useState<{ name: string; facts: AssetFacts; drawn?: Drawn; file?: File } | null>(null)
  /** What was left out and is brought back: it comes before the files that wait. */
  const [returned, setReturned] = useState<readonly NonNullable<typeof dropped>[]>([])
  const [queue, setQueue] = useState<DropQueue>(NO_DROPS)
  const field = useRef<HTMLInputElement>(null)

  const { data: jobs, trouble, at } = useKept(useJobsQuery, useRestedText(search))
  useEffect(() => {
    document.title = 'Jobs · Neotaxis'
    const key = (event: KeyboardEvent): void => {
      if (event.key === '/' && !(event.target as Element).matches('input')) {
        event.preventDefault()
        field.current?.focus()
      }
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [])

  // Whoever is on the board will drop a file: what works it out gets ready when nothing else is to do.
  useEffect(() => {
    const waits = setTimeout(() => {
      warmSoon()
      void chooser().catch(() => undefined)
    }, WARM_AFTER_MS)
    return () => clearTimeout(waits)
  }, [])

  const begin = useCallback(
    async (job: JobDocument, state?: Begins) => {
      try {
        void navigate(`/jobs/${(await jobOrders.create(job)).id}/compose`, { state })
        return true
      } catch (cause) {
        enqueueSnackbar(cause instanceof Error ? cause.message : 'The job could not be made.', {
          variant: 'error',
          persist: true,
          action: offered('Try again', () => void begin(job, state)),
        })
        return false
      }
    },
    [navigate, enqueueSnackbar],
  )
  const { material, machine, stock, blank } = useBegun()
  /** Begins a job that something is drawn in, or a text is written in. */
  const drawn = useCallback(
    async (text?: string) => {
      if (!material || !machine || !blank) {
        // It begins by itself as soon as it is known what the shop has.
        setAsked({ text })
        return
      }
      const name = text?.split('\n')[0].slice(0, 40).trim() || 'New job'
      const empty = emptyJob(name, { material, machine, workpiece: blank })
      const job = stock ? withStock(empty, stock) : empty
      try {
        // What draws comes when something is drawn: the board begins without it.
        const whole =
          text === undefined ? job : await import('../features/draw/written-into.ts').then((draw) => draw.writtenInto(job, text))
        const made = await begin(whole, text === undefined ? { draws: true } : undefined)
        // The piece of stock is taken when there is a job on it.
        if (made && stock) dispatch(begunOnStock(null))
      } catch (cause) {
        enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be written.', { variant: 'error' })
      }
    },
    [material, machine, blank, stock, begin, dispatch, enqueueSnackbar],
  )
  const isKnown = material !== undefined && machine !== undefined && blank !== undefined
  useEffect(() => {
    if (!asked || !isKnown) return
    setAsked(null)
    void drawn(asked.text)
  }, [asked, isKnown, drawn])
  const take = useCallback(
    async (file: File, alone: boolean) => {
      setReading(file.name)
      try {
        if (file.name.endsWith('.neotaxis')) {
          const job = await jobOrders.openFile(file)
          if (alone) void navigate(`/jobs/${job.id}/compose`)
        } else if (/\.(gcode|nc|gc|tap)$/i.test(file.name)) {
          const job = await jobOrders.openProgram(file)
          if (alone) void navigate(`/jobs/${job.id}/compose`)
        } else if (/\.txt$/i.test(file.name)) setDropped(await writtenFile(file))
        else {
          const facts = await bringIn(file)
          pictureSoon(facts)
          setDropped({ name: file.name, facts, file })
        }
      } catch (cause) {
        enqueueSnackbar(`${file.name}: ${cause instanceof Error ? cause.message : 'It cannot be read.'}`, {
          variant: 'error',
          autoHideDuration: 10_000,
        })
      } finally {
        setReading(null)
      }
    },
    [navigate, enqueueSnackbar],
  )
  /** Another page of a PDF. */
  const takePage = async (file: File, page: number): Promise<void> => {
    try {
      setDropped({ name: file.name, facts: await bringIn(file, page), file })
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'That page cannot be read.', { variant: 'error' })
    }
  }
  const takeAll = useCallback((files: readonly File[]) => setQueue((now) => dropsTaken(now, files)), [])
  // One file after the other, whatever became of the one before.
  useEffect(() => {
    if (reading !== null || dropped) return
    const [back, ...others] = returned
    if (back) {
      setReturned(others)
      setDropped(back)
      return
    }
    if (queue.all === 0) return
    const turn = nextTurn(queue)
    setQueue(turn.queue)
    if (turn.file) void take(turn.file, queue.all === 1)
    else if (turn.ready) void begin(turn.ready)
  }, [queue, returned, reading, dropped, take, begin])
  const made = (id: string): void => {
    if (queue.all > 1) setDropped(null)
    else void navigate(`/jobs/${id}/compose`, { state: JUST_BEGUN })
  }
  // Files that another page made and hands over.
  const { state } = useLocation()
  useEffect(() => {
    const { files } = (state ?? {}) as { files?: unknown }
    if (!Array.isArray(files)) return
    const handed = files.filter((file): file is File => file instanceof File)
    takeAll(handed)
    // Once: a reload begins nothing again.
    void navigate('.', { replace: true, state: null })
  }, [state, takeAll, navigate])
  const leaveOut = (): void => {
    const left = dropped
    setDropped(null)
    if (left)
      enqueueSnackbar(`“${left.name}” was left out.`, {
        autoHideDuration: 20_000,
        action: offered('Bring it back', () => setReturned((now) => [...now, left])),
      })
  }
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: true,
    onDrop: takeAll,
  })
  usePasted(takeAll, drawn)

  const copy = async (job: JobBrief): Promise<void> => {
    try {
      const made = await jobOrders.copy(job.id)
      void navigate(`/jobs/${made.id}/compose`)
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be copied.', { variant: 'error' })
    }
  }
  const remove = async (job: JobBrief): Promise<void> => {
    try {
      await jobOrders.remove(job.id)
      enqueueSnackbar(`“${job.name}” is put away.`, {
        action: offered('Bring it back', () => void jobOrders.restore(job.id)),
      })
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be put away.', { variant: 'error' })
    }
  }

  return (
    <Page {...getRootProps()} data-testid="board">
      <input {...getInputProps({ 'aria-label': 'Picture or job file' })} data-testid="file-input" />
      <ShopBar>
        <SearchField width={112} label="Find a job" hint="Find (/)" field={field} text={search} onText={setSearch} />
        <Spread />
        <TakePhoto onFiles={takeAll} />
        <Button color="secondary" onClick={() => void drawn()} data-testid="write">
          Draw or write
        </Button>
        <Button variant="contained" startIcon={<AddIcon />} onClick={open} sx={{ flex: 'none' }}>
          Bring a picture in
        </Button>
      </ShopBar>
      <AwayNote trouble={trouble} at={at} />
      <PageMain width={1320}>
        <GuideOffer />
        {jobs?.length === 0 && (
          <NothingYet title={search ? 'No job is called that' : 'Drop a picture here'}>
            {search
              ? 'Look for a part of its name.'
              : 'A photo, a drawing, a mesh, a text that you paste: you choose from finished jobs what becomes of it. A .neotaxis file opens as it was.'}
          </NothingYet>
        )}
        <LongList
          rows={jobs ?? []}
          keyOf={(job) => `${job.id} ${job.revision}`}
          height={292}
          gap={20}
          least={270}
          testId="jobs"
          last={
            jobs &&
            jobs.length > 0 &&
            !search && <EmptyPlace>Drop a picture or a job file here, or anywhere. Pasting works too.</EmptyPlace>
          }
        >
          {(job) =>
            job.trouble ? (
              <TroubledCard job={job} />
            ) : (
              <JobCard job={job} onCopy={() => void copy(job)} onRemove={() => void remove(job)} />
            )
          }
        </LongList>
      </PageMain>
      {(isDragActive || reading) && <DropVeil>{reading ? `Reading ${reading} …` : 'Let go: it becomes a job'}</DropVeil>}
      {dropped && (
        <Suspense fallback={null}>
          <ProposalChooser
            key={`${queue.waiting.length} ${dropped.name}`}
            name={dropped.name}
            facts={dropped.facts}
            drawn={dropped.drawn}
            onPage={dropped.file && ((page) => void takePage(dropped.file!, page))}
            place={placeIn(queue)}
            into={queue.made ?? undefined}
            together={queue.all > 1 && !queue.made ? queue.together : undefined}
            onTogether={(together) => setQueue((now) => ({ ...now, together }))}
            onClose={leaveOut}
            onChosen={
              queue.together
                ? async (made) => {
                    // What joins jobs comes with what proposes them: the board begins without it.
                    const { joined } = await import('../features/board/joined.ts')
                    setQueue((now) => joined(now, made, newId().slice(0, 8)))
                    setDropped(null)
                  }
                : undefined
            }
            onMade={made}
          />
        </Suspense>
      )}
    </Page>
  )
}
