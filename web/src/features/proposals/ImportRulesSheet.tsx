import AddIcon from '@mui/icons-material/Add'
import DeleteIcon from '@mui/icons-material/DeleteOutlined'
import UpIcon from '@mui/icons-material/KeyboardArrowUp'
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  IconButton,
  MenuItem,
  TextField,
  Tooltip,
} from '@mui/material'
import { type Caught, FIRST_RULES, type ImportRule, type RuleDoes } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { shopOrders } from '../../api/orders.ts'
import { newId } from '../new-id.ts'

const DOES: Readonly<Record<RuleDoes, string>> = {
  cut: 'is cut',
  score: 'is scored',
  engrave: 'is engraved',
  leave: 'is left out',
}

interface Props {
  readonly rules: readonly ImportRule[]
  /** What each rule catches of the drawing at hand. */
  readonly caught: readonly Caught[] | undefined
  readonly onClose: () => void
  readonly onSaved: () => void
}

/** The shop's rules for drawings: the first that fits a shape says what becomes of it. They hold for every drawing from now on. */
export function ImportRulesSheet({ rules: before, caught, onClose, onSaved }: Props) {
  const { enqueueSnackbar } = useSnackbar()
  const [rules, setRules] = useState<readonly ImportRule[]>(before)
  const change = (id: string, values: Partial<ImportRule>): void =>
    setRules((now) => now.map((rule) => (rule.id === id ? clean({ ...rule, ...values }) : rule)))
  const save = async (): Promise<void> => {
    try {
      await shopOrders.saveImportRules(rules)
      onSaved()
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'The rules could not be kept.', { variant: 'error' })
    }
  }
  const paint = (rule: ImportRule, what: 'stroke' | 'fill') => (
    <TextField
      size="small"
      label={what === 'stroke' ? 'Its stroke' : 'Its fill'}
      placeholder="any look"
      value={rule[what] ?? ''}
      onChange={(event) => change(rule.id, { [what]: event.target.value.trim().toLowerCase() || undefined })}
      error={rule[what] !== undefined && !/^(any|none|#[0-9a-f]{6})$/.test(rule[what])}
      helperText={rule[what] !== undefined && !/^(any|none|#[0-9a-f]{6})$/.test(rule[what]) ? 'any, none or #rrggbb' : undefined}
      sx={{ width: 112 }}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  )
  return (
    <Dialog open onClose={onClose} maxWidth="lg" data-testid="import-rules">
      <DialogTitle>What becomes of drawings</DialogTitle>
      <DialogContent>
        <Box sx={{ color: 'text.secondary', mb: 1.5 }}>
          The first rule that fits a shape decides; empty fields fit everything.
        </Box>
        {rules.map((rule, i) => {
          const found = before.some(({ id }) => id === rule.id)
            ? caught?.find(({ rule: each }) => each?.id === rule.id)
            : undefined
          return (
            <Box
              key={rule.id}
              sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', py: 0.8, borderBottom: 1, borderColor: 'divider' }}
            >
              <TextField
                size="small"
                label={`Rule ${i + 1}`}
                value={rule.name}
                onChange={(event) => change(rule.id, { name: event.target.value.slice(0, 120) })}
                sx={{ width: 230 }}
              />
              {paint(rule, 'stroke')}
              <TextField
                size="small"
                label="Thinner than"
                type="number"
                value={rule.thinnerThanMm ?? ''}
                onChange={(event) =>
                  change(rule.id, { thinnerThanMm: Number(event.target.value) > 0 ? Number(event.target.value) : undefined })
                }
                sx={{ width: 118 }}
                slotProps={{ inputLabel: { shrink: true }, htmlInput: { step: 0.05, min: 0 }, input: { endAdornment: 'mm' } }}
              />
              {paint(rule, 'fill')}
              <TextField
                size="small"
                label="Layer has"
                value={rule.layer ?? ''}
                onChange={(event) => change(rule.id, { layer: event.target.value.slice(0, 100) || undefined })}
                sx={{ width: 112 }}
                slotProps={{ inputLabel: { shrink: true } }}
              />
              <TextField
                select
                size="small"
                label="It"
                value={rule.does}
                onChange={(event) => change(rule.id, { does: event.target.value as RuleDoes })}
                sx={{ width: 136 }}
              >
                {Object.entries(DOES).map(([does, words]) => (
                  <MenuItem key={does} value={does}>
                    {words}
                  </MenuItem>
                ))}
              </TextField>
              <Box sx={{ width: 84, pt: 1, fontSize: 13, color: 'text.secondary' }} data-testid={`caught-${rule.id}`}>
                {found ? `${found.shapes} here` : ''}
              </Box>
              <Tooltip title="Earlier">
                <span>
                  <IconButton
                    size="small"
                    disabled={i === 0}
                    aria-label={`Rule ${i + 1} earlier`}
                    onClick={() => setRules((now) => [...now.slice(0, i - 1), now[i], now[i - 1], ...now.slice(i + 1)])}
                  >
                    <UpIcon fontSize="small" />
                  </IconButton>
                </span>
              </Tooltip>
              <Tooltip title="Take this rule out">
                <IconButton
                  size="small"
                  aria-label={`Take rule ${i + 1} out`}
                  onClick={() => setRules((now) => now.filter(({ id }) => id !== rule.id))}
                >
                  <DeleteIcon fontSize="small" />
                </IconButton>
              </Tooltip>
            </Box>
          )
        })}
        <Button
          startIcon={<AddIcon />}
          onClick={() => setRules((now) => [{ id: newId(), name: 'New rule', does: 'score' }, ...now])}
          sx={{ mt: 1 }}
        >
          A rule before these
        </Button>
      </DialogContent>
      <DialogActions>
        <Button color="secondary" onClick={() => setRules(FIRST_RULES)}>
          As they were first
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button onClick={onClose}>Leave them as they are</Button>
        <Button variant="contained" onClick={() => void save()} data-testid="save-rules">
          Keep for this shop
        </Button>
      </DialogActions>
    </Dialog>
  )
}

/** Without what is not said. */
const clean = (rule: ImportRule): ImportRule =>
  Object.fromEntries(Object.entries(rule).filter(([, value]) => value !== undefined)) as unknown as ImportRule
