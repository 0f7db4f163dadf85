/**
 * Results by the key of everything they depend on. The oldest unused go when the sum of bytes passes the limit.
 * A key is the JSON of its inputs: equal inputs, equal key, whatever document they stand in.
 */
export class ResultCache {
  private readonly entries = new Map<string, { value: unknown; bytes: number }>()
  private bytes = 0
  private readonly limit: number

  constructor(limitBytes = 400_000_000) {
    this.limit = limitBytes
  }

  /** The result for `key`, made now if it is not there. @param size bytes that a result takes */
  get<T>(key: string, make: () => T, size: (value: T) => number): T {
    const known = this.entries.get(key)
    if (known) {
      this.entries.delete(key)
      this.entries.set(key, known)
      return known.value as T
    }
    const value = make()
    const bytes = size(value)
    this.entries.set(key, { value, bytes })
    this.bytes += bytes
    for (const [old, entry] of this.entries) {
      if (this.bytes <= this.limit || old === key) break
      this.entries.delete(old)
      this.bytes -= entry.bytes
    }
    return value
  }
}
