import {
  Box,
  Button,
  Chip,
  Dialog,
  FormControlLabel,
  LinearProgress,
  Link,
  MenuItem,
  Switch,
  styled,
  TextField,
  Tooltip,
  Typography,
} from '@mui/material'
import type { AssetFacts } from '@neotaxis/contract'
import {
  burnOrder,
  cameIn,
  type Drawn,
  FIRST_RULES,
  formatDuration,
  type JobDocument,
  type Provenance,
  RANGES,
  undecided,
  withMaterialSteps,
  withStock,
} from '@neotaxis/core'
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react'
import { jobOrders } from '../../api/orders.ts'
import { useImportRulesQuery } from '../../api/shop.ts'
import { useAnswer } from '../../api/use-answer.ts'
import { useKept } from '../../api/use-kept.ts'
import { PickCard } from '../../parts/Card.tsx'
import { Row, Spread } from '../../parts/Row.tsx'
import { BurntGround, UnderPicture } from '../../parts/Tile.tsx'
import { Name, Quiet, Words } from '../../parts/words.tsx'
import { pageOf } from '../../processes/table.ts'
import { useDispatch } from '../../store/hooks.ts'
import { begunOn, begunOnStock, comparing } from '../../store/view-slice.ts'
import { EDGE, SPACE } from '../../theme/tokens.ts'
import { cancelWork, caughtByRules, progressNow, proposals } from '../../workers/engine.ts'
import type { ProposalCard } from '../../workers/shared.ts'
import { MaterialField } from '../field/MaterialField.tsx'
import { CountField, LengthField } from '../field/quantities.tsx'
import { PieceShape } from '../stock/PieceShape.tsx'
import { ImportRulesSheet } from './ImportRulesSheet.tsx'
import { useBegun } from './use-begun.ts'

interface Props {
  readonly name: string
  readonly facts: AssetFacts
  /** The numbers of what was drawn or written here. */
  readonly drawn?: Drawn
  /** Of what comes from the library. */
  readonly provenance?: Provenance
  readonly onClose: () => void
  /** A job of its own was made of it. */
  readonly onMade?: (jobId: string) => void
  /** The job that it becomes part of: its material, machine and workpiece hold. */
  readonly into?: JobDocument
  readonly onChosen?: (made: JobDocument) => void | Promise<void>
  /** Where it was drawn on the workpiece, mm; else it lands where there is room. */
  readonly at?: { readonly xMm: number; readonly yMm: number }
  /** How wide it is to begin with, mm. */
  readonly widthMm?: number
  /** Whether it can be decided later. */
  readonly later?: boolean
  /** Of a PDF with several pages: takes another of them. */
  readonly onPage?: ((page: number) => void) | undefined
  /** “2 of 5”, where several files were dropped together. */
  readonly place?: string
  /** Whether all of them become one job, where that can be said. */
  readonly together?: boolean
  readonly onTogether?: (together: boolean) => void
}

/** What a dropped picture could become: finished jobs with their picture and time. One choice makes the job. */
export default function ProposalChooser({
  name,
  facts,
  drawn: byNumbers,
  provenance,
  place,
  at,
  widthMm: begunWidth,
  later = true,
  together,
  onTogether,
  onPage,
  into,
  onClose,
  onMade,
  onChosen,
}: Props) {
  const { materials, machines, material, machine, stock, blank } = useBegun(into)
  const dispatch = useDispatch()
  const [width, setWidth] = useState(begunWidth)
  const [failed, setFailed] = useState<string>()
  const [progress, setProgress] = useState(0)
  const [making, setMaking] = useState(false)
  const [editing, setEditing] = useState(false)
  const drawn = facts.drawing !== undefined && byNumbers === undefined
  const kept = useKept(useImportRulesQuery, drawn ? null : undefined)
  const rules = drawn ? (kept.data ?? (kept.trouble ? FIRST_RULES : undefined)) : undefined
  const catches = useCallback(() => caughtByRules(facts.asset, rules!), [rules, facts.asset])
  const { value: caught } = useAnswer(rules ? catches : undefined)
  // Each as soon as it is there.
  const [soFar, setSoFar] = useState<readonly ProposalCard[]>([])
  const propose = useCallback(
    async (signal: AbortSignal) => {
      if (!material || !machine || !blank) return undefined
      setSoFar([])
      const timer = setInterval(() => setProgress(progressNow()), 150)
      try {
        return await proposals(
          {
            facts: { ...facts, name, ...(byNumbers ? { drawn: byNumbers } : {}), ...(provenance ? { provenance } : {}) },
            workpiece: blank,
            material,
            machine,
            size: width ? { widthMm: width } : undefined,
            fillsPiece: stock !== null,
            ...(rules ? { rules } : {}),
            ...(into ? { into } : {}),
            ...(at ? { at } : {}),
          },
          (card) => !signal.aborted && setSoFar((now) => [...now, card]),
        )
      } finally {
        clearInterval(timer)
      }
    },
    [facts, name, byNumbers, provenance, material, machine, blank, stock, width, rules, into, at],
  )
  const made = useAnswer(material && machine && (!drawn || rules) ? propose : undefined)
  const all = made.isCurrent && !made.error ? made.value : undefined
  const cards = all ?? (soFar.length > 0 && !made.error ? soFar : undefined)
  const error = failed ?? made.error

  const choose = async (made: JobDocument, compares = false): Promise<void> => {
    // What its material wants done by hand is a part of the job from the start.
    const job = withMaterialSteps(stock ? withStock(made, stock) : made)
    // How its ground is filled is looked at first.
    dispatch(comparing(compares))
    if (onChosen) {
      onChosen(into ? made : job)
      return
    }
    setMaking(true)
    try {
      const { id } = await jobOrders.create(job)
      if (stock) dispatch(begunOnStock(null))
      onMade?.(id)
    } catch (cause) {
      setFailed(cause instanceof Error ? cause.message : 'The job could not be made.')
      setMaking(false)
    }
  }
  // Enter takes the first proposal, unless somebody types a size meanwhile; when all are there, so that the next key goes to the next card.
  const first = useRef<HTMLButtonElement>(null)
  const some = all !== undefined
  useEffect(() => {
    const { activeElement } = document
    if (some && (!activeElement || activeElement === document.body || activeElement.getAttribute('tabindex') === '-1'))
      first.current?.focus({ preventScroll: true })
  }, [some])
  const close = (): void => {
    cancelWork()
    onClose()
  }
  return (
    <Dialog
      open
      onClose={close}
      maxWidth={false}
      slotProps={{ paper: { sx: { width: 'min(1180px, 96vw)', borderRadius: `${EDGE.sheet}px`, p: 3, bgcolor: 'shop.panel' } } }}
      aria-labelledby="proposals-title"
    >
      <Row align="baseline" gap="wide" bottom="wide">
        <Typography variant="h1" id="proposals-title">
          What becomes of “{name}”?{place ? ` (${place})` : ''}
        </Typography>
        <Words tone="quiet">
          {facts.mesh
            ? `a mesh of ${facts.mesh.width.toFixed(0)} × ${facts.mesh.height.toFixed(0)} × ${facts.mesh.depth.toFixed(1)} mm`
            : facts.drawing
              ? `a drawing of ${facts.drawing.shapes} ${facts.drawing.shapes === 1 ? 'shape' : 'shapes'}, ${facts.drawing.widthMm.toFixed(1)} × ${facts.drawing.heightMm.toFixed(1)} mm`
              : `${facts.widthPx} × ${facts.heightPx} px${facts.hasAlpha ? ', with transparency' : ''}`}
        </Words>
      </Row>
      <Row gap="open" wraps bottom="open">
        {stock && (
          <Chip
            icon={<PieceShape piece={stock} px={22} />}
            label={`on ${stock.name}, ${stock.thicknessMm} mm`}
            onDelete={() => dispatch(begunOnStock(null))}
            data-testid="begun-stock"
          />
        )}
        {!into && !stock && (
          <MaterialField
            materials={materials}
            value={material?.id}
            onChoose={({ id }) => dispatch(begunOn({ materialId: id }))}
            width={250}
          />
        )}
        {!into && (
          <TextField
            select
            size="small"
            label="Machine"
            value={machine?.id ?? ''}
            onChange={(event) => dispatch(begunOn({ machineId: event.target.value }))}
            sx={{ width: 190 }}
          >
            {machines.map(({ id, name: title }) => (
              <MenuItem key={id} value={id}>
                {title}
              </MenuItem>
            ))}
          </TextField>
        )}
        {!into && !stock && (
          <>
            <Words width={210}>
              <LengthField
                label="Workpiece"
                value={blank?.widthMm ?? 0}
                range={RANGES.workpieceMm}
                onCommit={(mm) => dispatch(begunOn({ widthMm: mm }))}
              />
            </Words>
            <Words width={160}>
              <LengthField
                label="×"
                value={blank?.heightMm ?? 0}
                range={RANGES.workpieceMm}
                onCommit={(mm) => dispatch(begunOn({ heightMm: mm }))}
              />
            </Words>
          </>
        )}
        <Words width={210}>
          <LengthField
            label="Artwork"
            value={width ?? cards?.[0].job.placements.source.widthMm ?? 0}
            range={RANGES.sizeMm}
            onCommit={setWidth}
          />
        </Words>
      </Row>
      {caught && (
        <Row gap="wide" align="baseline" wraps bottom="room" data-testid="caught">
          {caught
            .filter(({ shapes }) => shapes > 0)
            .map(({ rule, shapes }) => (
              <span key={rule?.id ?? 'none'}>
                <b>{shapes}</b> {rule ? `· ${rule.name}` : '· caught by no rule'}
              </span>
            ))}
          <Link component="button" onClick={() => setEditing(true)} data-testid="edit-rules">
            Change the rules
          </Link>
        </Row>
      )}
      {onPage && facts.pdf && facts.pdf.pages > 1 && (
        <Row bottom="snug" data-testid="pdf-page">
          <CountField
            label={`Page of ${facts.pdf.pages}`}
            value={facts.pdf.page}
            range={{ min: 1, max: facts.pdf.pages }}
            onCommit={onPage}
          />
        </Row>
      )}
      {editing && rules && (
        <ImportRulesSheet rules={rules} caught={caught} onClose={() => setEditing(false)} onSaved={() => setEditing(false)} />
      )}
      {/* Its size stands over the cards already. */}
      {cameIn(facts)
        .slice(1)
        .map((told) => (
          <Words key={told} size="body" tone="ask" bottom="snug" data-testid="came-in">
            {told}
          </Words>
        ))}
      {error && (
        <Words role="alert" tone="wrong" pad="wide">
          {error}
        </Words>
      )}
      {!cards && !error && (
        <Box sx={{ py: 12, px: 20 }}>
          <LinearProgress variant="determinate" value={100 * progress} aria-label="Working out the proposals" />
        </Box>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', gap: 2 }}>
        {cards?.map((card, i) => (
          <PickCard
            key={card.id}
            ref={i === 0 ? first : undefined}
            chosen={false}
            pad="none"
            gap="none"
            disabled={making}
            onClick={() => void choose(card.job, card.id === 'fill-deep')}
            data-testid={`proposal-${card.id}`}
          >
            <Forecast card={card} />
            <UnderPicture>
              <Row align="baseline">
                <Name>{card.title}</Name>
                <Name apart data-seconds={card.seconds}>
                  {formatDuration(card.seconds)}
                </Name>
              </Row>
              <Words tone="quiet" top="tight">
                {card.detail}
              </Words>
              <Quiet top="tight">
                {burnOrder(card.job)
                  .map((id, i) => `${i + 1} ${pageOf(card.job.operations[id]).name.toLowerCase()}`)
                  .join(' → ')}
              </Quiet>
              {card.findings
                .filter(({ severity }) => severity !== 'note')
                .map(({ id, message }) => (
                  <Words key={id} size="small" tone="ask" top="tight">
                    {message}
                  </Words>
                ))}
            </UnderPicture>
          </PickCard>
        ))}
      </Box>
      {cards && !all && !error && (
        <LinearProgress
          variant="determinate"
          value={100 * progress}
          aria-label="Working out more proposals"
          style={{ marginTop: SPACE.wide }}
        />
      )}
      <Foot>
        {together !== undefined && (
          <FormControlLabel
            control={<Switch size="small" checked={together} onChange={(_, on) => onTogether?.(on)} />}
            label="All of them into one job"
          />
        )}
        <Spread />
        <Tooltip title={later ? 'Escape: it can be brought back' : 'It stays as it is'}>
          <Button onClick={close} color="secondary">
            {later ? 'Leave it out' : 'Not now'}
          </Button>
        </Tooltip>
        {later && (
          <Button
            variant="outlined"
            disabled={!all || making}
            onClick={() => all && void choose(undecided((all.find(({ id }) => id === 'cut-lines') ?? all[0]).job))}
            data-testid="decide-later"
          >
            Bring it in, decide later
          </Button>
        )}
      </Foot>
    </Dialog>
  )
}

/** What is decided about all of them stands at the foot, however many there are. */
const Foot = styled(Row)(({ theme: { palette } }) => ({
  position: 'sticky',
  bottom: -SPACE.open,
  margin: `${SPACE.wide}px ${-SPACE.open}px ${-SPACE.open}px`,
  padding: `${SPACE.room}px ${SPACE.open}px`,
  backgroundColor: palette.shop.panel,
  borderTop: `1px solid ${palette.divider}`,
}))

function Forecast({ card }: { readonly card: ProposalCard }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { rgba, widthPx, heightPx } = card.picture
  useLayoutEffect(() => {
    canvas.current?.getContext('2d')?.putImageData(new ImageData(rgba as Uint8ClampedArray<ArrayBuffer>, widthPx, heightPx), 0, 0)
  }, [rgba, widthPx, heightPx])
  return (
    <BurntGround high={240}>
      <canvas
        ref={canvas}
        width={widthPx}
        height={heightPx}
        role="img"
        aria-label={`${card.title}: the workpiece after the burn`}
      />
    </BurntGround>
  )
}
