/** A job as it was stored, not checked yet: whatever stands in it may be anything. */
export type Stored = Readonly<Record<string, unknown>>

export const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** Every value of a record changed; what is no record comes back as it is. */
export const each = (of: unknown, change: (value: unknown, id: string) => unknown): unknown =>
  isRecord(of) ? Object.fromEntries(Object.entries(of).map(([id, value]) => [id, change(value, id)])) : of
