import type { ArtworkSaid } from '@neotaxis/contract'
import { Column } from '../../parts/Column.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { WORDS, type Written } from '../field/measures.ts'
import { TypedField } from '../field/TypedField.tsx'

interface Props {
  readonly said: ArtworkSaid
  readonly onChange: (said: Partial<ArtworkSaid>) => void
}

const TAGS: Written<readonly string[]> = {
  unit: '',
  show: (tags) => tags.join(', '),
  read: (typed) => [...new Set(typed.split(',').map((tag) => tag.trim().slice(0, 40)))].filter((tag) => tag !== '').slice(0, 30),
}

/** What people say of artwork: its name, tags, where it came from, what its licence allows. A field is taken when it is left. */
export function SaidFields({ said, onChange }: Props) {
  const { licence } = said
  const allows = (change: Partial<ArtworkSaid['licence']>): void => onChange({ licence: { ...licence, ...change } })
  return (
    <Column gap="room">
      <TypedField as={WORDS} label="Name" value={said.name} onTake={(name) => name.trim() && onChange({ name: name.trim() })} />
      <TypedField as={TAGS} label="Tags, with commas between them" value={said.tags} onTake={(tags) => onChange({ tags })} />
      <TypedField as={WORDS} label="Where it came from" value={said.origin} onTake={(origin) => onChange({ origin })} />
      <TypedField as={WORDS} label="Licence" value={licence.name} onTake={(name) => allows({ name })} />
      <SwitchRow label="Pieces may be sold" on={licence.sell} onSwitch={(sell) => allows({ sell })} />
      <SwitchRow label="It may be changed" on={licence.change} onSwitch={(change) => allows({ change })} />
      <TypedField as={WORDS} label="Credit to" value={licence.credit} onTake={(credit) => allows({ credit })} />
    </Column>
  )
}
