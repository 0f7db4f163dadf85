/** Where times lie on the run line: inside each block evenly, however wide it is drawn. */
export interface TimeScale {
  readonly total: number
  toX(seconds: number): number
  toTime(x: number): number
}

/** @param seconds of the blocks @param starts,widths of the blocks, px */
export function timeScale(seconds: readonly number[], starts: readonly number[], widths: readonly number[]): TimeScale {
  const total = seconds.reduce((sum, s) => sum + s, 0)
  return {
    total,
    toX(time) {
      let from = 0
      for (let i = 0; i < seconds.length; i++) {
        if (time <= from + seconds[i] || i === seconds.length - 1)
          return starts[i] + (seconds[i] > 0 ? Math.min(1, Math.max(0, (time - from) / seconds[i])) : 0) * widths[i]
        from += seconds[i]
      }
      return 0
    },
    toTime(x) {
      let from = 0
      for (let i = 0; i < seconds.length; i++) {
        const next = starts[i + 1] ?? Number.POSITIVE_INFINITY
        if (x < next) return from + Math.min(1, Math.max(0, (x - starts[i]) / widths[i])) * seconds[i]
        from += seconds[i]
      }
      return total
    },
  }
}
