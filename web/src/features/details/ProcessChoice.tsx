import { type JobDocument, type ProcessName, processesInstead } from '@neotaxis/core'
import { PROCESS_WORDS } from '../../processes/process-words.ts'
import { changedTo } from '../becomes/becoming.ts'
import { Choice } from '../field/Choice.tsx'
import { useEdit } from '../use-edit.ts'

/** The process of an operation: another one takes its place, with the values of its recipe. */
export function ProcessChoice({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const { process } = job.operations[id]
  const others = processesInstead(job, id)
  if (others.length === 0) return null
  return (
    <Choice
      label="It is"
      value={process}
      options={
        Object.fromEntries([process, ...others].map((name) => [name, PROCESS_WORDS[name].made])) as Record<ProcessName, string>
      }
      onChoose={(to) => {
        const { name, change } = changedTo(id, to)
        edit(name, change)
      }}
      testId="process-choice"
    />
  )
}
