import { Button, MenuItem, TextField } from '@mui/material'
import type { StockItem } from '@neotaxis/contract'
import { drawnSvg, type Material, outlineSize, type PieceOutline, RANGES } from '@neotaxis/core'
import { useNavigate } from 'react-router'
import { bringIn } from '../../api/orders.ts'
import { useJobsQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { BurntGround } from '../../parts/Tile.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { EDGE, SPACE } from '../../theme/tokens.ts'
import { Choice } from '../field/Choice.tsx'
import { MaterialField } from '../field/MaterialField.tsx'
import { moneyIn, WORDS } from '../field/measures.ts'
import { QuantityField } from '../field/QuantityField.tsx'
import { CountField, DegreesField, LengthField } from '../field/quantities.tsx'
import { SHOWS_EMPTY } from '../field/shows-empty.ts'
import { TypedField } from '../field/TypedField.tsx'
import { tellArea } from '../field/told.ts'
import { CodePicture } from './CodePicture.tsx'
import { PieceShape } from './PieceShape.tsx'
import { KINDS } from './stock-words.ts'

type Change = Partial<Omit<StockItem, 'grainDeg'>> & { readonly grainDeg?: number | null }

interface Props {
  readonly item: StockItem
  readonly materials: readonly Material[]
  readonly currency: string
  readonly onChange: (change: Change) => void
}

/** All that is said of a thing on the shelf. */
export function StockDetails({ item, materials, currency, onChange }: Props) {
  const navigate = useNavigate()
  const { data: jobs = [] } = useKept(useJobsQuery, '')
  const material = materials.find(({ id }) => id === item.material)
  const { outline } = item
  const shape = (next: PieceOutline): void => onChange({ outline: next })
  const photo = async (file: File | undefined): Promise<void> => {
    if (file) onChange({ photo: (await bringIn(file)).asset })
  }
  const code = `NEOTAXIS:${item.code}`
  const engrave = (): void => {
    const { svg } = drawnSvg({ kind: 'code', text: code, sizeMm: 20, onDark: false })
    const file = new File([svg], `code ${item.code}.svg`, { type: 'image/svg+xml' })
    void navigate('/jobs', { state: { files: [file] } })
  }
  return (
    <>
      <BurntGround high={210} style={{ borderRadius: EDGE.card, marginBottom: SPACE.room }}>
        <PieceShape piece={item} px={176} look={material?.look} scaled />
      </BurntGround>
      <Column gap="room">
        <TypedField as={WORDS} label="Name" value={item.name} onTake={(name) => name && onChange({ name })} testId="stock-name" />
        <Choice
          label="It is"
          value={item.kind}
          options={{ ...KINDS, sheet: 'a whole sheet', offcut: 'an offcut', blank: 'a blank' }}
          onChoose={(kind) => onChange({ kind })}
        />
        <MaterialField
          materials={materials}
          value={item.material}
          onChoose={(next) => {
            if (next.id !== item.material) onChange({ material: next.id, thicknessMm: next.thicknessMm, recipe: null })
          }}
        />
      </Column>
      <LengthField
        label="Thickness"
        value={item.thicknessMm}
        range={RANGES.thicknessMm}
        digits={2}
        step={0.1}
        onCommit={(thicknessMm) => onChange({ thicknessMm })}
      />
      {outline.kind === 'rect' && (
        <>
          <LengthField
            label="Width"
            value={outline.widthMm}
            range={RANGES.workpieceMm}
            onCommit={(widthMm) => shape({ ...outline, widthMm })}
          />
          <LengthField
            label="Height"
            value={outline.heightMm}
            range={RANGES.workpieceMm}
            onCommit={(heightMm) => shape({ ...outline, heightMm })}
          />
        </>
      )}
      {outline.kind === 'circle' && (
        <LengthField
          label="Diameter"
          value={outline.diameterMm}
          range={RANGES.workpieceMm}
          onCommit={(diameterMm) => shape({ kind: 'circle', diameterMm })}
        />
      )}
      <Row line>
        <Words grow>
          {outline.kind === 'rings' ? `An outline of its own, ${tellArea(item.areaMm2)}` : tellArea(item.areaMm2)}
        </Words>
        {outline.kind !== 'rect' && (
          <Button size="small" onClick={() => shape({ kind: 'rect', ...sizeOf(outline) })}>
            A rectangle
          </Button>
        )}
        {outline.kind === 'rect' && (
          <Button size="small" onClick={() => shape({ kind: 'circle', diameterMm: Math.min(outline.widthMm, outline.heightMm) })}>
            A circle
          </Button>
        )}
      </Row>
      <SwitchRow
        label="It has a grain"
        on={item.grainDeg !== undefined}
        onSwitch={(on) => onChange({ grainDeg: on ? 0 : null })}
      />
      {item.grainDeg !== undefined && (
        <DegreesField
          label="Grain runs"
          value={item.grainDeg}
          range={RANGES.degrees}
          onCommit={(grainDeg) => onChange({ grainDeg })}
        />
      )}
      <CountField
        label="How many"
        value={item.count}
        range={{ min: 0, max: 100_000 }}
        onCommit={(count) => onChange({ count })}
      />
      <QuantityField
        label="One is worth"
        as={moneyIn(currency)}
        value={item.cents}
        range={{ min: 0, max: 1e9 }}
        onCommit={(cents) => onChange({ cents })}
      />
      <Column gap="room" top="wide">
        <TypedField as={WORDS} label="Where it lies" value={item.shelf} onTake={(shelf) => onChange({ shelf })} testId="shelf" />
        <TypedField as={WORDS} label="Note" value={item.note} onTake={(note) => onChange({ note })} />
        <TextField
          select
          size="small"
          label="Recipe to begin with"
          value={item.recipe ?? ''}
          slotProps={SHOWS_EMPTY}
          onChange={({ target }) => onChange({ recipe: target.value || null })}
        >
          <MenuItem value="">as the material says</MenuItem>
          {(material?.recipes ?? []).map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label="Its jig"
          value={jobs.some(({ id }) => id === item.jig) ? item.jig : ''}
          slotProps={SHOWS_EMPTY}
          onChange={({ target }) => onChange({ jig: target.value || null })}
          helperText={
            item.jig ? (
              <Button size="small" onClick={() => void navigate(`/jobs/${item.jig}/compose`)}>
                Open the jig’s job
              </Button>
            ) : undefined
          }
        >
          <MenuItem value="">none</MenuItem>
          {jobs.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <Row align="center" gap="room">
          <CodePicture text={code} px={72} />
          <div>
            <Words weight="strong" data-testid="stock-code">
              {item.code}
            </Words>
            <Quiet>typed or scanned, it finds this piece</Quiet>
            <Button size="small" onClick={engrave}>
              Engrave it on something
            </Button>
          </div>
        </Row>
        {item.photo && (
          <img src={`/api/assets/${item.photo}`} alt={item.name} style={{ width: '100%', borderRadius: EDGE.card }} />
        )}
        <Button component="label" size="small" color="secondary">
          {item.photo ? 'Another photo' : 'Add a photo'}
          <input
            type="file"
            accept="image/*"
            hidden
            onChange={(event) => void photo(event.target.files?.[0])}
            aria-label="Photo of the piece"
          />
        </Button>
      </Column>
    </>
  )
}

function sizeOf(outline: PieceOutline): { widthMm: number; heightMm: number } {
  const { widthMm, heightMm } = outlineSize(outline)
  return { widthMm: Math.round(widthMm * 10) / 10, heightMm: Math.round(heightMm * 10) / 10 }
}
