import { Button } from '@mui/material'
import { type BridgedNode, type JobDocument, RANGES, withNode } from '@neotaxis/core'
import { Quiet } from '../../parts/words.tsx'
import { LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'

/** How wide bridges are; where they stand is seen and moved on the picture. */
export function BridgeFields({ id, node }: { readonly id: string; readonly node: BridgedNode }) {
  const edit = useEdit()
  const list = Object.values(node.bridges)
  const all = (name: string, change: (bridges: BridgedNode['bridges']) => BridgedNode['bridges']): void =>
    edit(name, (base: JobDocument) => {
      const now = base.nodes[id]
      return now.kind === 'bridged' ? withNode(base, id, { bridges: change(now.bridges) }) : base
    })
  return (
    <>
      {list.length > 0 && (
        <LengthField
          label="Width"
          value={list[0].widthMm}
          range={RANGES.bridgeMm}
          digits={1}
          step={0.5}
          hint="Of all bridges."
          onCommit={(widthMm) =>
            all('width of the bridges', (bridges) =>
              Object.fromEntries(Object.entries(bridges).map(([key, bridge]) => [key, { ...bridge, widthMm }])),
            )
          }
        />
      )}
      <Quiet pad="tight">Drag them along the edge; Delete takes one away. “bridge” below sets more.</Quiet>
      {list.length > 0 && (
        <Button size="small" onClick={() => all('no bridges', () => ({}))}>
          Take all away
        </Button>
      )}
    </>
  )
}
