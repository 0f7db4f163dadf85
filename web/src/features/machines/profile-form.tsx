import { MenuItem, TextField } from '@mui/material'
import { type Machine, machineProfileSchema } from '@neotaxis/core'
import { createContext, useContext, useEffect, useRef } from 'react'
import { type FieldPath, type UseFormReturn, useController, useForm } from 'react-hook-form'
import { machineOrders } from '../../api/orders.ts'
import { joiResolver } from '../field/joi-resolver.ts'
import type { Written } from '../field/measures.ts'
import { refusal } from '../field/refusal.ts'
import { TypedField } from '../field/TypedField.tsx'
import { useDoing } from '../run/use-doing.ts'

const resolver = joiResolver<Machine>(machineProfileSchema)

/** Keeps the profile as it stands in the form, where all of it can be. */
const Keeping = createContext<() => void>(() => {})
export const KeepProfile = Keeping.Provider

/**
 * The form of a profile. What was changed in it is saved at once, one change after the other, each on what the one before has made;
 * what cannot be yet waits in the form until it can.
 */
export function useProfileForm(machine: Machine): { readonly form: UseFormReturn<Machine>; readonly keep: () => void } {
  const doing = useDoing()
  const form = useForm<Machine>({
    values: machine,
    resolver,
    shouldFocusError: false,
    resetOptions: { keepDirtyValues: true },
  })
  const saving = useRef({ version: machine.version, last: Promise.resolve() })
  useEffect(() => {
    saving.current.version = Math.max(saving.current.version, machine.version)
  }, [machine.version])
  const save = async (values: Machine): Promise<void> => {
    // What was measured before the power was read anew is older than it: the day is kept.
    const isRead = values.powerCurve.length > 0 && JSON.stringify(values.powerCurve) !== JSON.stringify(machine.powerCurve)
    const told = isRead ? { ...values, powerRead: new Date().toISOString().slice(0, 10) } : values
    const kept = await doing(async () => {
      const { version } = saving.current
      saving.current.version = (await machineOrders.save({ ...told, version }, version)).machine.version
    })
    // What was refused is not in the profile: the form shows what is. What came to be meanwhile comes from the server.
    const later = form.getValues()
    form.reset(kept ? told : machine, { keepDirtyValues: false })
    if (!kept) return
    for (const part of Object.keys(later) as (keyof Machine)[])
      if (part !== 'powerRead' && JSON.stringify(later[part]) !== JSON.stringify(values[part]))
        form.setValue(part, later[part] as never, { shouldDirty: true })
  }
  const keep = (): void =>
    void form.handleSubmit((values) => {
      saving.current.last = saving.current.last.then(() => save(values))
      return saving.current.last
    })()
  return { form, keep }
}

interface FieldProps<T> {
  readonly name: FieldPath<Machine>
  readonly label: string
  readonly as: Written<T>
  readonly hint?: string
  readonly wide?: boolean
}

/** One value of the profile. */
export function ProfileField<T>({ name, label, as, hint, wide }: FieldProps<T>) {
  const { field, fieldState } = useController<Machine>({ name })
  const keep = useContext(Keeping)
  const take = (value: T): void => {
    field.onChange(value)
    keep()
  }
  return (
    <TypedField
      label={label}
      value={field.value as T}
      as={as}
      onTake={take}
      refused={refusal(fieldState.error, as)}
      hint={hint}
      wide={wide}
    />
  )
}

interface ChoiceProps<T> {
  readonly name: FieldPath<Machine>
  readonly label: string
  /** Each way with its words. */
  readonly ways: readonly (readonly [T, string])[]
  /** Whether a value is one of them. */
  readonly is?: (value: unknown, way: T) => boolean
}

/** A value of the profile that is one of a few. */
export function ProfileChoice<T>({ name, label, ways, is = Object.is }: ChoiceProps<T>) {
  const { field } = useController<Machine>({ name })
  const keep = useContext(Keeping)
  return (
    <TextField
      select
      size="small"
      label={label}
      value={ways.findIndex(([way]) => is(field.value, way))}
      onChange={(event) => {
        field.onChange(ways[Number(event.target.value)][0])
        keep()
      }}
    >
      {ways.map(([, words], i) => (
        <MenuItem key={words} value={i}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  )
}

export const useKeepProfile = (): (() => void) => useContext(Keeping)
