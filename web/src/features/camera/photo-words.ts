/** When a photo was taken, as a clock shows it. */
export const clockOf = (at: number): string => new Date(at).toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit' })

/** How old it is, as people say it. */
export function agoOf(ms: number): string {
  const seconds = Math.max(0, Math.round(ms / 1000))
  if (seconds < 10) return 'just now'
  if (seconds < 90) return `${seconds} s ago`
  const minutes = Math.round(seconds / 60)
  return minutes < 90 ? `${minutes} min ago` : `${Math.round(minutes / 60)} h ago`
}
