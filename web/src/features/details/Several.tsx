import { Link } from '@mui/material'
import { differingSettings, type JobDocument, withSettingsOf } from '@neotaxis/core'
import { Words } from '../../parts/words.tsx'
import { pageOf } from '../../processes/table.ts'
import { useEdit } from '../use-edit.ts'

const NAMES: Readonly<Record<string, string>> = {
  power: 'power',
  speedMmS: 'speed',
  passes: 'passes',
  air: 'air',
  prepared: 'preparation',
  intervalMm: 'interval',
  kerfMm: 'kerf',
}

/** Several operations at once: that they are, what they differ in, and the way to make them the same. */
export function Several({ job, id, ids }: { readonly job: JobDocument; readonly id: string; readonly ids: readonly string[] }) {
  const edit = useEdit()
  if (ids.length < 2) return null
  const named = [...new Set(differingSettings(job, ids).map((name) => NAMES[name] ?? 'how they are burned'))]
  return (
    <Words tone="quiet" size="plain" bottom="snug" data-testid="several">
      {ids.length} operations: what is changed here changes all of them.{' '}
      {named.length > 0 ? `They differ in ${named.join(', ')}. ` : 'They are set alike.'}
      {named.length > 0 && (
        <Link
          component="button"
          onClick={() => edit(`make ${ids.length} operations the same`, (base) => withSettingsOf(base, id, ids))}
          data-testid="make-same"
        >
          Make them like this {pageOf(job.operations[id]).name.toLowerCase()}
        </Link>
      )}
    </Words>
  )
}
