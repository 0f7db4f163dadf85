import AddIcon from '@mui/icons-material/Add'
import { Box, Button } from '@mui/material'
import { type StockItem, type StockSaid, UNSAID } from '@neotaxis/contract'
import { FIRST_RATES, faceOutline } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useCallback, useEffect, useRef } from 'react'
import { useDropzone } from 'react-dropzone'
import { useNavigate, useSearchParams } from 'react-router'
import { stockOrders } from '../api/orders.ts'
import { useRatesQuery, useStockMonthsQuery, useStockQuery } from '../api/shop.ts'
import { useKept } from '../api/use-kept.ts'
import { NothingYet } from '../features/bar/NothingYet.tsx'
import { ShopBar } from '../features/bar/ShopBar.tsx'
import { useCatalogue } from '../features/bar/use-catalogue.ts'
import { AwayNote } from '../features/live/AwayNote.tsx'
import { offered } from '../features/offered.tsx'
import { MonthChart } from '../features/stock/MonthChart.tsx'
import { RatesFields } from '../features/stock/RatesFields.tsx'
import { StockDetails } from '../features/stock/StockDetails.tsx'
import { StockGrid } from '../features/stock/StockGrid.tsx'
import { StockUses } from '../features/stock/StockUses.tsx'
import { pieceOf } from '../features/stock/stock-words.ts'
import { Column } from '../parts/Column.tsx'
import { DropVeil } from '../parts/DropVeil.tsx'
import { Panel } from '../parts/Panel.tsx'
import { Row, Spread } from '../parts/Row.tsx'
import { useDispatch } from '../store/hooks.ts'
import { begunOnStock } from '../store/view-slice.ts'
import { fileOutline } from '../workers/file-outline.ts'

/** Sheets, offcuts and blanks: what they are, where they lie, what was used of them. */
export default function StockPage() {
  const navigate = useNavigate()
  const dispatch = useDispatch()
  const { enqueueSnackbar } = useSnackbar()
  const [params, setParams] = useSearchParams()
  const { data: stock, trouble, at } = useKept(useStockQuery, null)
  const { data: months } = useKept(useStockMonthsQuery, null)
  const { data: rates = FIRST_RATES } = useKept(useRatesQuery, null)
  const materials = useCatalogue()?.materials ?? []
  const selected = stock?.find(({ id }) => id === params.get('piece'))
  const select = useCallback((id: string) => setParams({ piece: id }, { replace: true }), [setParams])
  useEffect(() => {
    document.title = 'Stock · Neotaxis'
  }, [])
  const complain = useCallback(
    (cause: unknown): void =>
      void enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be done.', { variant: 'error' }),
    [enqueueSnackbar],
  )
  const keep = async (change: Partial<StockSaid>): Promise<void> => {
    const material = materials[0]
    if (!material) return
    try {
      const said: StockSaid = {
        name: `${material.name} sheet`,
        kind: 'sheet',
        material: material.id,
        thicknessMm: material.thicknessMm,
        outline: { kind: 'rect', widthMm: 600, heightMm: 400 },
        ...UNSAID,
        ...change,
      }
      select((await stockOrders.keep(said)).id)
    } catch (cause) {
      complain(cause)
    }
  }
  const take = async (files: readonly File[]): Promise<void> => {
    for (const file of files)
      try {
        const rings = await fileOutline(file)
        await keep({ name: file.name.replace(/\.\w{1,5}$/, '') || file.name, kind: 'blank', outline: faceOutline(rings) })
      } catch (cause) {
        complain(cause)
      }
  }
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: true,
    onDrop: (files) => void take(files),
  })
  const remove = async (item: StockItem): Promise<void> => {
    try {
      await stockOrders.remove(item.id)
      enqueueSnackbar(`“${item.name}” is off the shelf.`, {
        action: offered('Bring it back', () => void stockOrders.restore(item.id)),
      })
    } catch (cause) {
      complain(cause)
    }
  }
  const scrolls = useRef<HTMLDivElement>(null)
  return (
    <Box
      {...getRootProps()}
      sx={{ height: '100vh', display: 'flex', flexDirection: 'column', bgcolor: 'shop.surround', outline: 'none' }}
      data-testid="stock-page"
    >
      <input {...getInputProps({ 'aria-label': 'Outline of a blank' })} data-testid="stock-file" />
      <ShopBar>
        <Spread />
        <Button
          variant="contained"
          startIcon={<AddIcon />}
          disabled={materials.length === 0}
          onClick={() => void keep({})}
          data-testid="keep-stock"
        >
          Put a sheet on the shelf
        </Button>
      </ShopBar>
      <AwayNote trouble={trouble} at={at} />
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
        <Box ref={scrolls} sx={{ flex: 1, overflow: 'auto', p: 3 }}>
          {stock?.length === 0 && (
            <NothingYet title="Nothing is on the shelf yet">
              Put sheets on it by their size, drop drawings of odd blanks here, or keep the workpiece of a job. What runs leave
              comes back by itself.
            </NothingYet>
          )}
          {stock && stock.length > 0 && (
            <StockGrid
              stock={stock}
              materials={materials}
              selected={selected?.id}
              onSelect={({ id }) => (id === selected?.id ? setParams({}, { replace: true }) : select(id))}
              scrolls={scrolls}
            />
          )}
        </Box>
        <Panel side="right" width={380} pad="wide" as="aside" aria-label={selected ? `About ${selected.name}` : 'What was used'}>
          {selected ? (
            <>
              <StockDetails
                key={selected.id}
                item={selected}
                materials={materials}
                currency={rates.currency}
                onChange={(change) => void stockOrders.change(selected.id, change).catch(complain)}
              />
              <StockUses stock={selected.id} currency={rates.currency} />
              <Row align="stretch" top="wide">
                <Button color="secondary" onClick={() => void remove(selected)}>
                  Off the shelf
                </Button>
                <Button
                  variant="contained"
                  sx={{ flex: 1 }}
                  disabled={selected.count === 0}
                  onClick={() => {
                    dispatch(begunOnStock(pieceOf(selected)))
                    void navigate('/jobs')
                    enqueueSnackbar(`The next job is begun on “${selected.name}”: drop its artwork.`)
                  }}
                  data-testid="begin-on"
                >
                  Begin a job on it
                </Button>
              </Row>
            </>
          ) : (
            <Column gap="wide">
              <MonthChart months={months ?? []} currency={rates.currency} until={new Date().toISOString().slice(0, 7)} />
              <RatesFields rates={rates} />
            </Column>
          )}
        </Panel>
      </Box>
      {isDragActive && <DropVeil>Let go: its outline is a blank on the shelf</DropVeil>}
    </Box>
  )
}
