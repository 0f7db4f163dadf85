import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Link } from '@mui/material'
import { FINISH_STARTS, type JobDocument, materialOf, picturedRoot, pictureNode, withFraming, withNode } from '@neotaxis/core'
import { memo, useState } from 'react'
import { Quiet, Words } from '../../parts/words.tsx'
import { WEIGHT } from '../../theme/tokens.ts'
import { startValues } from '../../workers/engine.ts'
import { useEdit } from '../use-edit.ts'
import { STEP_NAMES } from './step-words.ts'

/** Why a picture begins as it does on this surface, and a way back to it. */
export const StartValues = memo(function StartValues({ job, node }: { readonly job: JobDocument; readonly node: string }) {
  const edit = useEdit()
  const [start, setStart] = useState<Awaited<ReturnType<typeof startValues>>>()
  const finish = materialOf(job).finish
  const name = finish ? FINISH_STARTS[finish].name : materialOf(job).name
  const begin = (): void => {
    if (!start) return
    edit(`begin again for ${name}`, (base) => {
      const { framing } = picturedRoot(base, node)
      // What the surface needs and the picture has not; its crop and all else stay.
      const missing = start.framing.filter(({ kind }) => !framing.some((step) => step.kind === kind && step.on))
      const framed = missing.length > 0 ? withFraming(base, node, [...framing, ...missing]) : base
      return withNode(framed, node, { ...start.treatment, dots: { ...pictureNode(base, node).dots, kernel: start.dots.kernel } })
    })
    setStart(undefined)
  }
  return (
    <Quiet top="room">
      Start values for {name}.{' '}
      <Link component="button" onClick={() => void startValues(job, node).then(setStart)} data-testid="why">
        Why these?
      </Link>
      <Dialog open={start !== undefined} onClose={() => setStart(undefined)} maxWidth="sm">
        <DialogTitle>A picture on {name}</DialogTitle>
        <DialogContent>
          <Box component="dl" sx={{ m: 0 }}>
            {Object.entries(start?.why ?? {}).map(([step, why]) => (
              <Words key={step} bottom="snug">
                <Box component="dt" sx={{ fontWeight: WEIGHT.strong }}>
                  {step === 'dots' ? 'Dots' : (STEP_NAMES[step as keyof typeof STEP_NAMES] ?? step)}
                </Box>
                <Box component="dd" sx={{ m: 0 }}>
                  {why}
                </Box>
              </Words>
            ))}
            {start && Object.keys(start.why).length === 0 && (
              <Box>Two tones are burned as they are: nothing needs to be set.</Box>
            )}
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setStart(undefined)}>Leave it as it is</Button>
          <Button variant="contained" onClick={begin}>
            Begin again with these
          </Button>
        </DialogActions>
      </Dialog>
    </Quiet>
  )
})
