/** What was read of what was typed, or a sentence why nothing can be. */
type Understood<T> = { readonly value: T; readonly reason: null } | { readonly value?: undefined; readonly reason: string }

export function understood<T>(read: (typed: string) => T, typed: string): Understood<T> {
  try {
    return { value: read(typed), reason: null }
  } catch (cause) {
    return { reason: cause instanceof Error ? cause.message : 'This cannot be read.' }
  }
}
