/** The last months up to one, the oldest first. @param until as in 2026-11 */
export function monthsBack(until: string, count: number): string[] {
  const [year, month] = until.split('-').map(Number)
  return Array.from({ length: count }, (_, i) => {
    const at = year * 12 + (month - 1) - (count - 1 - i)
    return `${Math.floor(at / 12)}-${String((at % 12) + 1).padStart(2, '0')}`
  })
}
