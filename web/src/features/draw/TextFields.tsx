import { Button, TextField, Tooltip } from '@mui/material'
import type { Font } from '@neotaxis/contract'
import { isOutline, type JobDocument, outlineData, type TextSpec } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useCallback, useEffect, useRef, useState } from 'react'
import { bringIn } from '../../api/orders.ts'
import { useFontsQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { Row } from '../../parts/Row.tsx'
import { outlineView } from '../../workers/engine.ts'
import { Choice } from '../field/Choice.tsx'
import { LengthField, PercentField } from '../field/quantities.tsx'
import { AxesFields } from './AxesFields.tsx'
import { FilePick } from './FilePick.tsx'
import { SeriesFields } from './SeriesFields.tsx'

/** What is typed is drawn when nobody has typed for so long. */
const REST_MS = 350

const FIRST_BOX = { kind: 'box', widthMm: 60, heightMm: 30 } as const
const BOX = { min: 1, max: 10_000 }

interface Props {
  readonly text: TextSpec
  readonly job: JobDocument | undefined
  readonly onChange: (text: TextSpec) => void
}

/** What is written, with which letters, and on what they stand. */
export function TextFields({ text, job, onChange }: Props) {
  // What comes later, of a font that is read or an outline that is worked out, is added to what was typed meanwhile.
  const now = useRef({ text, onChange })
  now.current = { text, onChange }
  const set = useCallback((values: Partial<TextSpec>): void => {
    const next = { ...now.current.text, ...values }
    now.current = { ...now.current, text: next }
    now.current.onChange(next)
  }, [])
  // What is typed is taken after a short rest, and when the field is left.
  const [typed, setTyped] = useState<string>()
  const take = useCallback(
    (words: string): void => {
      set({ text: words })
      setTyped(undefined)
    },
    [set],
  )
  useEffect(() => {
    if (typed === undefined) return
    const timer = setTimeout(() => take(typed), REST_MS)
    return () => clearTimeout(timer)
  }, [typed, take])
  const { along } = text
  const outlines = Object.fromEntries(
    Object.entries(job?.nodes ?? {}).flatMap(([id, node]) => (isOutline(node) ? [[`on ${id}`, `along “${node.name}”`]] : [])),
  )
  // An outline is worked out while something else may be chosen: only what was chosen last is taken.
  const latest = useRef(0)
  const { enqueueSnackbar } = useSnackbar()
  const standOn = async (value: string): Promise<void> => {
    const mine = ++latest.current
    if (value === 'straight') set({ along: undefined })
    else if (value === 'box') set({ along: FIRST_BOX })
    else if (value === 'circle top' || value === 'circle bottom')
      set({
        along: {
          kind: 'circle',
          diameterMm: along?.kind === 'circle' ? along.diameterMm : 80,
          at: value === 'circle top' ? 'top' : 'bottom',
        },
      })
    else if (job && value.startsWith('on ')) {
      try {
        const { paths } = await outlineView(job, value.slice(3))
        if (mine === latest.current) set({ along: { kind: 'path', data: outlineData(paths) } })
      } catch (cause) {
        enqueueSnackbar(cause instanceof Error ? cause.message : 'This outline cannot be made.', { variant: 'error' })
      }
    }
  }
  return (
    <>
      <TextField
        multiline
        fullWidth
        minRows={2}
        maxRows={6}
        size="small"
        label="What is written"
        value={typed ?? text.text}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => typed !== undefined && take(typed)}
        margin="dense"
        slotProps={{ htmlInput: { 'data-testid': 'draw-text', 'data-typed': typed === undefined ? 'no' : 'yes' } }}
      />
      <FontField font={text.font} onChange={(font) => set({ font })} />
      {text.font.kind === 'file' && <AxesFields font={text.font} onChange={(font) => set({ font })} />}
      <LengthField
        label="Capitals"
        hint="Height of capital letters."
        value={text.capMm}
        range={{ min: 0.2, max: 2000 }}
        digits={2}
        onCommit={(capMm) => set({ capMm })}
      />
      <LengthField
        label="Letter gap"
        value={text.letterMm}
        range={{ min: -100, max: 500 }}
        digits={2}
        hint="Added to what the font has; less than 0 draws them together."
        onCommit={(letterMm) => set({ letterMm })}
      />
      <PercentField
        label="Line to line"
        value={text.lineShare}
        range={{ min: 0.2, max: 20 }}
        hint="From base line to base line, as a share of the height of capitals."
        onCommit={(lineShare) => set({ lineShare })}
      />
      <Choice<string>
        label="Stands"
        testId="draw-along"
        value={along === undefined ? 'straight' : along.kind === 'circle' ? `circle ${along.at}` : along.kind}
        options={{
          straight: 'in a straight line',
          box: 'in a box, as large as it goes',
          'circle top': 'over the top of a circle',
          'circle bottom': 'along the bottom of a circle',
          ...(along?.kind === 'path' ? { path: 'along the line it was put on' } : {}),
          ...outlines,
        }}
        onChoose={(value) => void standOn(value)}
      />
      {along?.kind === 'circle' && (
        <LengthField
          label="Circle of"
          value={along.diameterMm}
          range={{ min: 1, max: 10_000 }}
          digits={2}
          onCommit={(diameterMm) => set({ along: { ...along, diameterMm } })}
        />
      )}
      {along?.kind === 'box' && (
        <>
          <LengthField
            label="Box width"
            value={along.widthMm}
            range={BOX}
            digits={2}
            onCommit={(widthMm) => set({ along: { ...along, widthMm } })}
          />
          <LengthField
            label="Box height"
            value={along.heightMm}
            range={BOX}
            digits={2}
            onCommit={(heightMm) => set({ along: { ...along, heightMm } })}
          />
        </>
      )}
      {along?.kind !== 'circle' && (
        <Choice
          label="Lines meet"
          value={text.align}
          options={{ left: 'at the left', middle: 'in the middle', right: 'at the right' }}
          onChoose={(align) => set({ align })}
        />
      )}
      <SeriesFields text={text} onSeries={(series) => set({ series })} />
    </>
  )
}

const NO_FONTS: readonly Font[] = []

function FontField({ font, onChange }: { readonly font: TextSpec['font']; readonly onChange: (font: TextSpec['font']) => void }) {
  const { enqueueSnackbar } = useSnackbar()
  const fonts = useKept(useFontsQuery, null).data ?? NO_FONTS
  const input = useRef<HTMLInputElement>(null)
  const bring = async (file: File): Promise<void> => {
    try {
      const facts = await bringIn(file)
      if (!facts.font) throw new Error('This is no font. TTF, OTF, WOFF and WOFF2 are understood.')
      onChange({ kind: 'file', asset: facts.asset, name: facts.font.name })
    } catch (cause) {
      enqueueSnackbar(`${file.name}: ${cause instanceof Error ? cause.message : 'It cannot be read.'}`, { variant: 'error' })
    }
  }
  const missing = font.kind === 'file' && !fonts.some(({ asset }) => asset === font.asset) ? { [font.asset]: font.name } : {}
  return (
    <Row>
      <Choice<string>
        label="Letters"
        testId="draw-font"
        value={font.kind === 'strokes' ? 'strokes' : font.asset}
        options={{
          strokes: 'Single stroke, for scoring',
          ...Object.fromEntries(fonts.map(({ asset, name }) => [asset, name])),
          ...missing,
        }}
        onChoose={(value) => {
          const found = fonts.find(({ asset }) => asset === value)
          onChange(found ? { kind: 'file', asset: found.asset, name: found.name } : { kind: 'strokes' })
        }}
      />
      <Tooltip title="A font of your own: TTF, OTF, WOFF or WOFF2">
        <Button variant="outlined" color="secondary" onClick={() => input.current?.click()}>
          Own font
        </Button>
      </Tooltip>
      <FilePick at={input} accept=".ttf,.otf,.ttc,.woff,.woff2" testId="own-font" onFile={(file) => void bring(file)} />
    </Row>
  )
}
