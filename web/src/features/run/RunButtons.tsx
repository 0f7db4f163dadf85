import { styled } from '@mui/material'
import { useEffect } from 'react'
import { NARROW_PX } from '../../parts/Frame.tsx'
import { SPACE } from '../../theme/tokens.ts'
import { onCommand } from '../bar/commands.ts'
import { BigButton } from './BigButton.tsx'
import type { Pressed, RunButton } from './run-screen.ts'

const TEST_IDS: Readonly<Partial<Record<Pressed, string>>> = { again: 'run-again', sure: 'finish' }

/** The large buttons below the stage. */
export function RunButtons({
  buttons,
  onPress,
}: {
  readonly buttons: readonly RunButton[]
  readonly onPress: (does: Pressed) => void
}) {
  const can = buttons.filter(({ disabled }) => !disabled)
  useEffect(() =>
    onCommand(
      Object.fromEntries(can.map(({ does }) => [`run-${does}`, () => onPress(does)])),
      can.map(({ does, title, detail }) => ({ id: `run-${does}`, title, words: `${does} ${detail} machine beam` })),
    ),
  )
  return (
    <Buttons>
      {buttons.map(({ does, title, detail, kind, disabled }) => (
        <BigButton
          // “Finish” stays the same button while it asks once more: the focus stays on it.
          key={TEST_IDS[does] ?? does}
          title={title}
          detail={detail}
          kind={kind}
          disabled={disabled}
          onClick={() => onPress(does)}
          testid={TEST_IDS[does] ?? does}
        />
      ))}
    </Buttons>
  )
}

/** Where the screen scrolls they stay at its foot: Stop is never out of reach. */
const Buttons = styled('div')(({ theme: { palette } }) => ({
  display: 'flex',
  gap: SPACE.room,
  padding: SPACE.room,
  backgroundColor: palette.shop.surround,
  [`@media (max-width: ${NARROW_PX - 1}px)`]: {
    position: 'fixed',
    left: 0,
    right: 0,
    bottom: 0,
    zIndex: 4,
    padding: SPACE.tight,
  },
}))
