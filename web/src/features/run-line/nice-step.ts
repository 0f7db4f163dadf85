const STEPS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200, 14_400, 28_800]

/** A round number of seconds that gives at most `most` marks. */
export const niceStep = (seconds: number, most: number): number => STEPS.find((step) => seconds / step <= most) ?? 86_400
