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
import { type Caught, FIRST_RULES, type ImportRule, importRulesSchema, type RuleDoes } from '@neotaxis/core'
import { type Control, useController, useFieldArray, useForm } from 'react-hook-form'
import { shopOrders } from '../../api/orders.ts'
import { Spread } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { joiResolver } from '../field/joi-resolver.ts'
import { lengthIn, WORDS, type Written } from '../field/measures.ts'
import { refusal } from '../field/refusal.ts'
import { TypedField } from '../field/TypedField.tsx'
import { understood } from '../field/understood.ts'
import { newId } from '../new-id.ts'
import { useDoing } from '../run/use-doing.ts'

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

interface Values {
  readonly rules: readonly ImportRule[]
}

const resolver = joiResolver<Values>(importRulesSchema, 'rules')

/** The shop's rules for drawings: the first that fits a shape says what becomes of it. They hold for every drawing from now on. */
export function ImportRulesSheet({ rules: before, caught, onClose, onSaved }: Props) {
  const doing = useDoing()
  const { control, handleSubmit } = useForm<Values>({ defaultValues: { rules: before }, resolver, mode: 'onChange' })
  const { fields, prepend, swap, remove, replace } = useFieldArray({ control, name: 'rules', keyName: 'row' })
  const save = handleSubmit(async ({ rules }) => {
    if (await doing(() => shopOrders.saveImportRules(rules.map(said)))) onSaved()
  })
  const catches = (id: string): number | undefined =>
    before.some((rule) => rule.id === id) ? caught?.find(({ rule }) => rule?.id === id)?.shapes : undefined
  return (
    <Dialog open onClose={onClose} maxWidth="lg" data-testid="import-rules">
      <DialogTitle>What becomes of drawings</DialogTitle>
      <DialogContent>
        <Words tone="quiet" bottom="room">
          The first rule that fits a shape decides; empty fields fit everything.
        </Words>
        {fields.map(({ row, id }, i) => (
          <Box
            key={row}
            sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', py: 0.8, borderBottom: 1, borderColor: 'divider' }}
          >
            <RuleFields control={control} at={i} />
            <Quiet width={84} top="snug" data-testid={`caught-${id}`}>
              {catches(id) === undefined ? '' : `${catches(id)} here`}
            </Quiet>
            <Tooltip title="Earlier">
              <span>
                <IconButton size="small" disabled={i === 0} aria-label={`Rule ${i + 1} earlier`} onClick={() => swap(i, i - 1)}>
                  <UpIcon fontSize="small" />
                </IconButton>
              </span>
            </Tooltip>
            <Tooltip title="Take this rule out">
              <IconButton size="small" aria-label={`Take rule ${i + 1} out`} onClick={() => remove(i)}>
                <DeleteIcon fontSize="small" />
              </IconButton>
            </Tooltip>
          </Box>
        ))}
        <Button
          startIcon={<AddIcon />}
          onClick={() => prepend({ id: newId(), name: 'New rule', does: 'score' }, { shouldFocus: false })}
          sx={{ mt: 1 }}
        >
          A rule before these
        </Button>
      </DialogContent>
      <DialogActions>
        <Button color="secondary" onClick={() => replace([...FIRST_RULES])}>
          As they were first
        </Button>
        <Spread />
        <Button onClick={onClose}>Leave them as they are</Button>
        <Button variant="contained" onClick={() => void save()} data-testid="save-rules">
          Keep for this shop
        </Button>
      </DialogActions>
    </Dialog>
  )
}

/** A word that fits everything where nothing is said. */
const ANYTHING: Written<string | undefined> = {
  unit: '',
  show: (text) => text ?? '',
  read: (typed) => typed.trim() || undefined,
}
const PAINT = { ...ANYTHING, read: (typed: string) => ANYTHING.read(typed.toLowerCase()) }
const MM = lengthIn('mm', 2)
/** What cannot be read stands in the form as it was typed: so the rules are not kept without it. */
const THIN: Written<number | string | undefined> = {
  unit: 'mm',
  show: (mm) => (typeof mm === 'number' ? String(Number(mm.toFixed(3))) : (mm ?? '')),
  read: (typed) => {
    if (typed.trim() === '') return undefined
    const { value } = understood(MM.read, typed)
    return value ?? typed
  },
}

function RuleFields({ control, at }: { readonly control: Control<Values>; readonly at: number }) {
  const { field: does } = useController({ control, name: `rules.${at}.does` })
  const field = { control, at }
  return (
    <>
      <RuleField {...field} of="name" label={`Rule ${at + 1}`} as={WORDS} width={230} />
      <RuleField {...field} of="stroke" label="Its stroke" as={PAINT} width={112} />
      <RuleField {...field} of="thinnerThanMm" label="Thinner than" as={THIN} width={118} />
      <RuleField {...field} of="fill" label="Its fill" as={PAINT} width={112} />
      <RuleField {...field} of="layer" label="Layer has" as={ANYTHING} width={112} />
      <TextField
        select
        size="small"
        label="It"
        value={does.value}
        onChange={(event) => does.onChange(event.target.value)}
        sx={{ width: 136 }}
      >
        {Object.entries(DOES).map(([way, words]) => (
          <MenuItem key={way} value={way}>
            {words}
          </MenuItem>
        ))}
      </TextField>
    </>
  )
}

interface FieldProps<T> {
  readonly control: Control<Values>
  readonly at: number
  readonly of: 'name' | 'stroke' | 'thinnerThanMm' | 'fill' | 'layer'
  readonly label: string
  readonly as: Written<T>
  readonly width: number
}

/** One value of a rule. */
function RuleField<T>({ control, at, of, label, as, width }: FieldProps<T>) {
  const { field, fieldState } = useController({ control, name: `rules.${at}.${of}` })
  return (
    <TypedField
      label={label}
      value={field.value as T}
      as={as}
      onTake={field.onChange}
      refused={refusal(fieldState.error, as)}
      width={width}
    />
  )
}

/** Without what is not said. */
const said = (rule: ImportRule): ImportRule =>
  Object.fromEntries(Object.entries(rule).filter(([, value]) => value !== undefined)) as unknown as ImportRule
