import { Box, Button, Dialog, DialogActions, DialogTitle, LinearProgress } from '@mui/material'
import type { AssetFacts } from '@neotaxis/contract'
import { type Drawn, drawnName, faceSize, formatLength, type JobDocument, mainPiece } from '@neotaxis/core'
import { useState } from 'react'
import { bringIn } from '../../api/orders.ts'
import { Quiet, Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { drawnFile } from '../../workers/engine.ts'
import { Choice } from '../field/Choice.tsx'
import { DrawnFields } from './DrawnFields.tsx'
import { DrawnPicture } from './DrawnPicture.tsx'
import { FIRST, KIND_WORDS } from './first-numbers.ts'
import { HandDrawing } from './HandDrawing.tsx'
import { useDrawnFile } from './use-drawn-file.ts'

interface Props {
  /** The job that it is drawn into; absent: it begins one. */
  readonly job?: JobDocument
  /** Something to write to begin with. */
  readonly text?: string
  readonly onClose: () => void
  readonly onDrawn: (made: {
    readonly name: string
    readonly facts: AssetFacts
    readonly drawn: Drawn
    readonly at?: { readonly xMm: number; readonly yMm: number }
  }) => void
}

/** What a line is drawn on by hand where there is no job yet. */
const FIRST_WORKPIECE = { widthMm: 300, heightMm: 200, thicknessMm: 3 }

/** A text or a shape, by exact numbers or by hand, with its picture beside the numbers. */
export default function DrawSheet({ job, text, onClose, onDrawn }: Props) {
  const unit = useSelector((state) => state.view.lengthUnit)
  const [drawn, setDrawn] = useState<Drawn>(text ? ({ ...FIRST.text, text } as Drawn) : FIRST.text)
  const [busy, setBusy] = useState(false)
  const [failed, setFailed] = useState<string>()
  const { file, error, isLong } = useDrawnFile(drawn)
  const draw = async (): Promise<void> => {
    setBusy(true)
    try {
      // What is meant now: the picture beside the numbers may still be of what was typed before.
      const { svg, box } = await drawnFile(drawn)
      // What is drawn on the workpiece, or written along a line of it, is where it should be.
      const isPlaced = drawn.kind === 'path' || (drawn.kind === 'text' && drawn.along?.kind === 'path')
      const at = isPlaced ? { at: { xMm: box.x0, yMm: box.y0 } } : {}
      onDrawn({ name: drawnName(drawn), drawn, ...at, facts: await bringIn(new Blob([svg])) })
    } catch (cause) {
      setFailed(cause instanceof Error ? cause.message : 'It could not be brought in.')
      setBusy(false)
    }
  }
  const complaint = failed ?? error
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth data-testid="draw">
      <DialogTitle>Draw or write</DialogTitle>
      <Box sx={{ display: 'flex', minHeight: 0, px: 3, gap: 3 }}>
        <Box sx={{ width: 340, flexShrink: 0, overflow: 'auto', maxHeight: '66vh', pr: 1 }}>
          <Choice
            label="What"
            testId="draw-kind"
            value={drawn.kind}
            options={KIND_WORDS}
            onChoose={(kind) => setDrawn({ ...FIRST[kind], ...(drawn.repeat ? { repeat: drawn.repeat } : {}) })}
          />
          <DrawnFields drawn={drawn} job={job} onChange={setDrawn} />
        </Box>
        <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column', gap: 1 }}>
          {drawn.kind === 'path' ? (
            <HandDrawing
              workpiece={job ? faceSize(mainPiece(job)) : FIRST_WORKPIECE}
              onDrawn={(data) => setDrawn({ ...drawn, data })}
            />
          ) : (
            <DrawnPicture file={file} />
          )}
          <Box sx={{ height: 4 }}>{(isLong || busy) && <LinearProgress aria-label="Being drawn" />}</Box>
          <Quiet size="plain" data-testid="draw-facts">
            {complaint && drawn.kind !== 'path' ? (
              <Words role="alert" tone="wrong">
                {complaint}
              </Words>
            ) : (
              file &&
              `${formatLength(file.box.x1 - file.box.x0, unit)} × ${formatLength(file.box.y1 - file.box.y0, unit)}. What becomes of it, cut, scored or engraved, is chosen next.`
            )}
            {file?.notices.map((notice) => (
              <Words key={notice} tone="ask">
                {notice}
              </Words>
            ))}
          </Quiet>
        </Box>
      </Box>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" onClick={() => void draw()} disabled={!file || busy} data-testid="draw-it">
          Draw it
        </Button>
      </DialogActions>
    </Dialog>
  )
}
