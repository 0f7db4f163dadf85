import type { FontAxis, FontChoice } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { fontAxes } from '../../workers/engine.ts'
import { CountField } from '../field/quantities.tsx'

type FontFile = Extract<FontChoice, { readonly kind: 'file' }>

/** What of a variable font can be set: how bold, how wide, how slanted. Nothing for any other font. */
export function AxesFields({ font, onChange }: { readonly font: FontFile; readonly onChange: (font: FontFile) => void }) {
  const { asset, axes = {} } = font
  const [known, setKnown] = useState<{ readonly asset: string; readonly axes: readonly FontAxis[] }>()
  useEffect(() => {
    let wanted = true
    fontAxes(asset).then(
      (found) => wanted && setKnown({ asset, axes: found }),
      // A font that cannot be read is told where it is written with.
      () => {},
    )
    return () => {
      wanted = false
    }
  }, [asset])
  if (known?.asset !== asset) return null
  return known.axes.map(({ tag, name, least, usual, most }) => (
    <CountField
      key={tag}
      label={name}
      value={axes[tag] ?? usual}
      range={{ min: least, max: most }}
      digits={Number.isInteger(least) && Number.isInteger(most) && most - least >= 20 ? 0 : 2}
      onCommit={(value) => {
        const { [tag]: _, ...others } = axes
        const next = value === usual ? others : { ...others, [tag]: value }
        const { axes: _old, ...plain } = font
        onChange(Object.keys(next).length > 0 ? { ...plain, axes: next } : plain)
      }}
    />
  ))
}
