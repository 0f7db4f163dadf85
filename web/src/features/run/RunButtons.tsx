import { Box } from '@mui/material'
import { useEffect } from 'react'
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
    <Box sx={{ display: 'flex', gap: 1.5, p: 1.8, bgcolor: 'shop.surround' }}>
      {buttons.map(({ does, title, detail, kind, disabled }) => (
        <BigButton
          key={does}
          title={title}
          detail={detail}
          kind={kind}
          disabled={disabled}
          onClick={() => onPress(does)}
          testid={TEST_IDS[does] ?? does}
        />
      ))}
    </Box>
  )
}
