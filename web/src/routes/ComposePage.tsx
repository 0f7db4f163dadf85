import { Button, LinearProgress } from '@mui/material'
import { type JobDocument, mainPiece } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { lazy, Suspense, useDeferredValue, useEffect } from 'react'
import { useNavigate, useParams } from 'react-router'
import { CommandSearch } from '../features/bar/CommandSearch.tsx'
import { onCommand } from '../features/bar/commands.ts'
import { Foldable, usePanelWidth } from '../features/bar/Foldable.tsx'
import { saveJobFile, saveProgram } from '../features/bar/save-files.ts'
import { TopBar } from '../features/bar/TopBar.tsx'
import { PhotoBar } from '../features/camera/PhotoBar.tsx'
import { FillCards } from '../features/compare/FillCards.tsx'
import { JobStage } from '../features/compose/JobStage.tsx'
import { StageMenu } from '../features/compose/StageMenu.tsx'
import { useArtworkActions } from '../features/compose/use-artwork-actions.tsx'
import { Details } from '../features/details/Details.tsx'
import { useTextFollows } from '../features/draw/use-text-follows.ts'
import { FindingCards } from '../features/findings/FindingCards.tsx'
import { BringIn } from '../features/job/BringIn.tsx'
import { JobTrouble } from '../features/job/JobTrouble.tsx'
import { useFirstChosen } from '../features/job/use-first-chosen.ts'
import { useOpenJob } from '../features/job/use-open-job.ts'
import { carried } from '../features/journal/carried.ts'
import { LineageShelf } from '../features/lineage/LineageShelf.tsx'
import { goToMoment } from '../features/rehearsal/go-to-moment.ts'
import { RunLine } from '../features/run-line/RunLine.tsx'
import { TroubleBoundary } from '../features/trouble/TroubleBoundary.tsx'
import { Area, Frame } from '../parts/Frame.tsx'
import { useSelector } from '../store/hooks.ts'

const TurningView = lazy(() => import('../features/round/TurningView.tsx'))

/** What can be done with the selection, wherever it is asked for. */
function ArtworkActions({ job }: { readonly job: JobDocument }) {
  useArtworkActions(job)
  useTextFollows()
  return null
}

/** One job: stage in the middle, lineage left, details right, run line below. */
export default function ComposePage() {
  const { id = '' } = useParams()
  const { enqueueSnackbar } = useSnackbar()
  const navigate = useNavigate()

  const { job, trouble, again } = useOpenJob(id, 'compose')
  useFirstChosen(job)
  // What need not follow a drag at once may come a moment later, so that the page never stands still.
  const calm = useDeferredValue(job)

  useEffect(() =>
    onCommand({
      'save-program': () => {
        if (!job) return
        const fail = (cause: Error): void => void enqueueSnackbar(cause.message, { variant: 'error' })
        saveProgram(job).then((files) => {
          enqueueSnackbar(files > 1 ? `${files} files: one for each set-up, and for each other tool.` : 'The program is saved.', {
            autoHideDuration: 12_000,
            action: (
              <Button
                color="inherit"
                data-testid="carried"
                onClick={() => void carried(id).then(() => navigate('/journal'), fail)}
              >
                I carry it to the machine: write it down
              </Button>
            ),
          })
        }, fail)
      },
      'save-job': () => {
        if (job) saveJobFile(id, job.name).catch((cause: Error) => enqueueSnackbar(cause.message, { variant: 'error' }))
      },
    }),
  )

  const isTurning =
    useSelector((state) => state.view.turning) && job !== null && job !== undefined && mainPiece(job).surface.kind !== 'flat'
  const shelf = usePanelWidth('artwork', 'minmax(190px, 228px)')
  const details = usePanelWidth('details', 'minmax(256px, 288px)')

  if (trouble) return <JobTrouble trouble={trouble} onAgain={again} />
  if (!job || !calm) return <LinearProgress aria-label="Opening the job" />
  return (
    <Frame
      rows="52px minmax(0, 1fr) 138px"
      columns={`${shelf} minmax(0, 1fr) ${details}`}
      areas={'"bar bar bar" "shelf stage details" "run run run"'}
    >
      <Area name="bar">
        <TopBar job={calm} id={id} />
      </Area>
      <Foldable name="artwork" side="left" area="shelf">
        <LineageShelf job={calm} />
      </Foldable>
      <Area name="stage">
        <BringIn job={calm}>
          <TroubleBoundary what="The stage" part keys={[job]}>
            <JobStage job={job} onPlace={(x, y) => goToMoment(job, x, y)} />
          </TroubleBoundary>
          {isTurning && (
            <Suspense fallback={null}>
              <TurningView job={job} />
            </Suspense>
          )}
          <PhotoBar job={calm} />
          <FindingCards job={calm} />
          <FillCards job={calm} />
        </BringIn>
      </Area>
      <Foldable name="details" side="right" area="details">
        <Details job={calm} />
      </Foldable>
      <Area name="run">
        <RunLine job={calm} />
      </Area>
      <CommandSearch />
      <ArtworkActions job={job} />
      <StageMenu />
    </Frame>
  )
}
