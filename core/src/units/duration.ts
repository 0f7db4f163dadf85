/** A time for reading: `0:07`, `12:41`, `1:02:03`. @param seconds ≥ 0, rounded to whole seconds */
export function formatDuration(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds))
  const s = String(whole % 60).padStart(2, '0')
  const minutes = Math.floor(whole / 60)
  if (minutes < 60) return `${minutes}:${s}`
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}:${s}`
}
