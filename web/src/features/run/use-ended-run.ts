import type { RunFull, RunLive } from '@neotaxis/contract'
import { useEffect, useState } from 'react'
import { useCameraQuery, useRunQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { FINISHED } from './use-run-orders.ts'

/** Until what was burned is there it is looked for so often, ms. */
const LOOK_AGAIN_MS = 700

/** A photo after a run comes within this time, or not at all, ms. */
const PHOTO_MS = 40_000

const isFresh = ({ endedAt }: RunFull): boolean => endedAt !== null && Date.now() - Date.parse(endedAt) < PHOTO_MS

/**
 * A run that ended, as it is written down; what was burned is looked at a moment after the end.
 * @param onFinished told where somebody is done with it already
 */
export function useEndedRun(run: RunLive | null, onFinished: (run: string) => void): RunFull | undefined {
  const [waits, setWaits] = useState(false)
  const { current } = useKept(useRunQuery, run?.id, waits ? LOOK_AGAIN_MS : 0)
  const { data: camera } = useCameraQuery(current?.machineId ?? '', { skip: !current })
  const isWaiting =
    current !== undefined &&
    current.phase !== 'lost' &&
    (current.burn === null || (Boolean(camera?.calibration) && current.photographed === null && isFresh(current)))
  useEffect(() => setWaits(isWaiting), [isWaiting])
  const finished = current?.closing.includes(FINISHED) ? current.id : undefined
  // biome-ignore lint/correctness/useExhaustiveDependencies: told once
  useEffect(() => {
    if (finished !== undefined) onFinished(finished)
  }, [finished])
  return finished === undefined ? current : undefined
}
