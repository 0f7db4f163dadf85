import { Box, Button, LinearProgress, Typography } from '@mui/material'
import { useSnackbar } from 'notistack'
import { useDeferredValue, useEffect, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { ServerRefusal } from '../api/api.ts'
import { CommandSearch } from '../features/bar/CommandSearch.tsx'
import { onCommand, runKey } from '../features/bar/commands.ts'
import { saveJobFile, saveProgram } from '../features/bar/save-files.ts'
import { TopBar } from '../features/bar/TopBar.tsx'
import { Details } from '../features/details/Details.tsx'
import { FindingCards } from '../features/findings/FindingCards.tsx'
import { LineageShelf } from '../features/lineage/LineageShelf.tsx'
import { RunLine } from '../features/run-line/RunLine.tsx'
import { Stage } from '../features/stage/Stage.tsx'
import { useDispatch, useSelector } from '../store/hooks.ts'
import { closed } from '../store/job-slice.ts'
import { keepSaved, openJob } from '../store/saver.ts'
import { selected } from '../store/view-slice.ts'

/** One job: stage in the middle, lineage left, details right, run line below. */
export default function ComposePage() {
  const { id = '' } = useParams()
  const dispatch = useDispatch()
  const navigate = useNavigate()
  const { enqueueSnackbar } = useSnackbar()
  const job = useSelector((state) => (state.job.id === id ? state.job.document : null))
  // What need not follow a drag at once may come a moment later, so that the page never stands still.
  const calm = useDeferredValue(job)
  const [trouble, setTrouble] = useState<{ message: string; gone: boolean } | null>(null)
  const [attempt, setAttempt] = useState(0)

  // biome-ignore lint/correctness/useExhaustiveDependencies: another attempt opens it again
  useEffect(() => {
    let left = false
    const onBranch = ({ id: branch, name }: { id: string; name: string }): void => {
      enqueueSnackbar(`Somebody changed the same things meanwhile. Your version is kept as “${name}”, and this is it.`, {
        variant: 'info',
        autoHideDuration: 12_000,
      })
      void navigate(`/jobs/${branch}/compose`)
    }
    setTrouble(null)
    let end: (() => void) | undefined
    openJob(id, onBranch)
      .then(() => {
        if (!left) end = keepSaved(onBranch)
      })
      .catch((cause: unknown) => {
        if (!left)
          setTrouble({
            message: cause instanceof Error ? cause.message : 'The job cannot be opened.',
            gone: cause instanceof ServerRefusal && cause.status === 404,
          })
      })
    return () => {
      left = true
      end?.()
      dispatch(closed())
      dispatch(selected(null))
    }
  }, [id, attempt, dispatch, navigate, enqueueSnackbar])

  useEffect(() => {
    window.addEventListener('keydown', runKey)
    return () => window.removeEventListener('keydown', runKey)
  }, [])

  useEffect(() => {
    document.title = job ? `${job.name} · Neotaxis` : 'Neotaxis'
  }, [job])

  useEffect(() =>
    onCommand({
      'save-program': () => {
        if (job) saveProgram(job).catch((cause: Error) => enqueueSnackbar(cause.message, { variant: 'error' }))
      },
      'save-job': () => {
        if (job) saveJobFile(id, job.name).catch((cause: Error) => enqueueSnackbar(cause.message, { variant: 'error' }))
      },
    }),
  )

  if (trouble) {
    return (
      <Box sx={{ display: 'grid', placeItems: 'center', height: '100vh', textAlign: 'center', gap: 2, alignContent: 'center' }}>
        <Typography variant="h1">{trouble.gone ? 'This job is not here' : 'The job cannot be opened just now'}</Typography>
        <Typography>{trouble.message}</Typography>
        <Box sx={{ display: 'flex', gap: 2 }}>
          {!trouble.gone && (
            <Button variant="contained" onClick={() => setAttempt((n) => n + 1)}>
              Try again
            </Button>
          )}
          <Button variant="outlined" onClick={() => void navigate('/jobs')}>
            To the job board
          </Button>
        </Box>
      </Box>
    )
  }
  if (!job || !calm) return <LinearProgress aria-label="Opening the job" />
  return (
    <Box
      component="main"
      sx={{
        display: 'grid',
        height: '100vh',
        gridTemplateRows: '52px minmax(0, 1fr) 138px',
        gridTemplateColumns: 'minmax(190px, 228px) minmax(0, 1fr) minmax(256px, 288px)',
        gridTemplateAreas: '"bar bar bar" "shelf stage details" "run run run"',
      }}
    >
      <Box sx={{ gridArea: 'bar' }}>
        <TopBar job={calm} />
      </Box>
      <Box sx={{ gridArea: 'shelf', minHeight: 0 }}>
        <LineageShelf job={calm} />
      </Box>
      <Box sx={{ gridArea: 'stage', position: 'relative', minHeight: 0 }}>
        <Stage job={job} />
        <FindingCards job={calm} />
      </Box>
      <Box sx={{ gridArea: 'details', minHeight: 0 }}>
        <Details job={calm} />
      </Box>
      <Box sx={{ gridArea: 'run' }}>
        <RunLine job={calm} />
      </Box>
      <CommandSearch />
    </Box>
  )
}
