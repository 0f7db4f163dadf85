import { ButtonBase, styled, Tooltip } from '@mui/material'
import { useDispatch } from '../../store/hooks.ts'
import { groupFolded } from '../../store/view-slice.ts'
import { TYPE } from '../../theme/tokens.ts'
import type { LineItem } from './line-items.ts'

interface Props {
  readonly items: readonly LineItem[]
  readonly starts: readonly number[]
  readonly widths: readonly number[]
}

/** Under blocks that are one group: its name, and a press folds it to one block. */
export function GroupBrackets({ items, starts, widths }: Props) {
  const dispatch = useDispatch()
  const groups: { name: string; from: number; to: number }[] = []
  items.forEach((item, i) => {
    const name = item.kind === 'group' ? undefined : item.group
    if (name === undefined) return
    const last = groups.at(-1)
    if (last?.name === name && items[i - 1]?.kind !== 'group') last.to = starts[i] + widths[i]
    else groups.push({ name, from: starts[i], to: starts[i] + widths[i] })
  })
  if (groups.length === 0) return null
  return (
    <Under>
      {groups.map(({ name, from, to }) => (
        <Tooltip key={name} title="Fold the group to one block, to move it as one">
          <Bracket
            onClick={() => dispatch(groupFolded({ name, isFolded: true }))}
            data-testid={`fold-${name}`}
            style={{ left: from, width: to - from }}
          >
            {name}
          </Bracket>
        </Tooltip>
      ))}
    </Under>
  )
}

const Under = styled('div')({ position: 'relative', height: 16 })
const Bracket = styled(ButtonBase)(({ theme: { palette } }) => ({
  position: 'absolute',
  top: 3,
  height: 13,
  fontSize: TYPE.tiny,
  lineHeight: 1,
  overflow: 'hidden',
  whiteSpace: 'nowrap',
  color: palette.text.secondary,
  borderTop: `2px solid ${palette.text.secondary}`,
}))
