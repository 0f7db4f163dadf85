import { Box, Switch, TextField } from '@mui/material'
import type { ArtworkSaid } from '@neotaxis/contract'
import { useState } from 'react'

interface Props {
  readonly said: ArtworkSaid
  readonly onChange: (said: Partial<ArtworkSaid>) => void
}

/** What people say of artwork: its name, tags, where it came from, what its licence allows. A field is taken when it is left. */
export function SaidFields({ said, onChange }: Props) {
  const { licence } = said
  const allows = (change: Partial<ArtworkSaid['licence']>): void => onChange({ licence: { ...licence, ...change } })
  return (
    <Box sx={{ display: 'grid', gap: 1.4 }}>
      <Words label="Name" value={said.name} onTake={(name) => name.trim() && onChange({ name: name.trim() })} />
      <Words
        label="Tags, with commas between them"
        value={said.tags.join(', ')}
        onTake={(text) =>
          onChange({
            tags: [...new Set(text.split(',').map((tag) => tag.trim().slice(0, 40)))].filter((tag) => tag !== '').slice(0, 30),
          })
        }
      />
      <Words label="Where it came from" value={said.origin} onTake={(origin) => onChange({ origin })} />
      <Words label="Licence" value={licence.name} onTake={(name) => allows({ name })} />
      <Switched label="Pieces may be sold" on={licence.sell} onSwitch={(sell) => allows({ sell })} />
      <Switched label="It may be changed" on={licence.change} onSwitch={(change) => allows({ change })} />
      <Words label="Credit to" value={licence.credit} onTake={(credit) => allows({ credit })} />
    </Box>
  )
}

function Words({
  label,
  value,
  onTake,
}: {
  readonly label: string
  readonly value: string
  readonly onTake: (text: string) => void
}) {
  const [typed, setTyped] = useState<string>()
  const take = (): void => {
    if (typed !== undefined && typed !== value) onTake(typed)
    setTyped(undefined)
  }
  return (
    <TextField
      size="small"
      fullWidth
      label={label}
      value={typed ?? value}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => event.key === 'Enter' && take()}
    />
  )
}

function Switched({
  label,
  on,
  onSwitch,
}: {
  readonly label: string
  readonly on: boolean
  readonly onSwitch: (on: boolean) => void
}) {
  return (
    <Box component="label" sx={{ display: 'flex', alignItems: 'center' }}>
      <Box component="span" sx={{ flex: 1 }}>
        {label}
      </Box>
      <Switch size="small" checked={on} onChange={(_, now) => onSwitch(now)} />
    </Box>
  )
}
