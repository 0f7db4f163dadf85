import { type Follower, followers, type JobDocument, redrawn, setOnLine } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect, useRef } from 'react'
import { useSelector } from '../../store/hooks.ts'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { outlineView } from '../../workers/engine.ts'
import { useEdit } from '../use-edit.ts'
import { redraw } from './redraw.ts'

/** What such edits are called: what follows them is no change of a line. */
const FOLLOWS = 'the text follows its line'

/**
 * Texts that stand on a line which has become another are set anew on it. An edit of its own, after the one that changed the line; what
 * is undone or done again brings its own. (Where a line is moved its texts go along in the same edit.)
 */
export function useTextFollows(): void {
  const { id, base, pending } = useSelector((state) => state.job)
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const before = useRef<{ readonly id: string | null; readonly base: JobDocument | null; readonly last: string | undefined }>({
    id: null,
    base: null,
    last: undefined,
  })
  const turn = useRef<Promise<unknown>>(Promise.resolve())
  useEffect(() => {
    const was = before.current
    const made = pending.at(-1)
    before.current = { id, base, last: made?.id ?? was.last }
    if (!base || !was.base || was.id !== id || was.base === base) return
    if (made?.kind !== 'edit' || made.id === was.last || made.name === FOLLOWS) return
    const list = followers(was.base, base).filter(({ anew }) => anew)
    const setAnew = async ({ root, spec, ...rest }: Follower): Promise<void> => {
      const job = jobOnScreen()
      const now = job?.nodes[root]
      if (!job || now?.kind !== 'drawing' || now.drawn?.kind !== 'text' || !job.nodes[spec.along.on.node]) return
      const { paths } = await outlineView(job, spec.along.on.node)
      const set = setOnLine(job, { root, spec, ...rest }, paths)
      const done = set && (await redraw(now.drawn, set))
      if (done) edit(FOLLOWS, (newest) => (newest.nodes[root] ? redrawn(newest, root, done.as) : newest))
    }
    for (const each of list) {
      // One after the other: each is set on what the one before left.
      turn.current = turn.current
        .then(() => setAnew(each))
        .catch((cause: unknown) =>
          enqueueSnackbar(cause instanceof Error ? cause.message : 'The text could not follow its line.', { variant: 'warning' }),
        )
    }
  }, [id, base, pending, edit, enqueueSnackbar])
}
