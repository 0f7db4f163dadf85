import { Switch } from '@mui/material'
import { type ReactNode, useId } from 'react'
import { Row } from './Row.tsx'
import { Label } from './words.tsx'

interface Props {
  readonly label: ReactNode
  readonly on: boolean
  readonly onSwitch: (on: boolean) => void
  readonly disabled?: boolean
  readonly testId?: string
}

/** Something that is so or not. */
export function SwitchRow({ label, on, onSwitch, disabled = false, testId }: Props) {
  const id = useId()
  return (
    <Row line>
      <Label htmlFor={id} grow tone={disabled ? 'quiet' : 'plain'}>
        {label}
      </Label>
      <Switch id={id} size="small" checked={on} disabled={disabled} onChange={(_, now) => onSwitch(now)} data-testid={testId} />
    </Row>
  )
}
