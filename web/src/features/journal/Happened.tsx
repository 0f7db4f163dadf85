import { styled } from '@mui/material'
import type { RunFull } from '@neotaxis/contract'
import { formatDuration } from '@neotaxis/core/units/duration'
import { useRef, useState } from 'react'
import { LongList } from '../../parts/LongList.tsx'
import { Row } from '../../parts/Row.tsx'
import { Words } from '../../parts/words.tsx'
import { TYPE } from '../../theme/tokens.ts'
import { tellExactTime } from '../field/told.ts'
import { PHASE_NAMES } from './phases.ts'

/** All that happened in a run, however much it was. */
export function Happened({ events }: { readonly events: RunFull['events'] }) {
  const box = useRef<HTMLDivElement>(null)
  const [open, setOpen] = useState(false)
  return (
    <Details onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>What happened, {events.length} entries</summary>
      <Box ref={box}>
        {(open || events.length <= 50) && (
          <LongList rows={events} keyOf={({ number }) => String(number)} height={22} gap={4} scrolls={box} testId="happened">
            {(event) => (
              <Row align="start" gap="room">
                <Words tone="quiet" width={62}>
                  {tellExactTime(event.at)}
                </Words>
                <Words width={52}>{formatDuration(event.seconds)}</Words>
                <Words grow>
                  {PHASE_NAMES[event.phase] ?? event.phase}
                  {event.text ? `: ${event.text}` : ''} {event.line > 0 ? `(line ${event.line})` : ''}
                </Words>
              </Row>
            )}
          </LongList>
        )}
      </Box>
    </Details>
  )
}

const Details = styled('details')({ fontSize: TYPE.small })
const Box = styled('div')({ maxHeight: 320, overflow: 'auto' })
