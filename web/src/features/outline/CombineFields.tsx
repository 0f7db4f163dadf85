import { type CombineNode, type JobDocument, othersFor, tellArtwork, withNode } from '@neotaxis/core'
import { Choice } from '../field/Choice.tsx'
import { useEdit } from '../use-edit.ts'
import { COMBINED } from './outline-words.ts'

/** How two outlines are combined, and which is the other one. */
export function CombineFields({ job, id, node }: { readonly job: JobDocument; readonly id: string; readonly node: CombineNode }) {
  const edit = useEdit()
  const others = [...new Set([node.with, ...othersFor(job, node.from).filter((other) => other !== id)])]
  return (
    <>
      <Choice
        label="What remains"
        testId="combine-op"
        value={node.op}
        options={COMBINED}
        onChoose={(op) => edit('combine outlines', (base) => withNode(base, id, { op }))}
      />
      <Choice
        label="The other one"
        value={node.with}
        options={Object.fromEntries(others.map((other) => [other, tellArtwork(job, other)]))}
        onChoose={(other) => edit('combine with another', (base) => withNode(base, id, { with: other }))}
      />
    </>
  )
}
