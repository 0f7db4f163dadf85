/** What was typed as a number, or a sentence why it is none. */
export function understood(read: (typed: string) => number, typed: string): number | string {
  try {
    return read(typed)
  } catch (cause) {
    return cause instanceof Error ? cause.message : 'This cannot be read.'
  }
}
