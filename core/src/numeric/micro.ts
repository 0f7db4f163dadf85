/** To a micrometre: what a machine can tell apart, and what a person can read again. */
export const micro = (mm: number): number => Math.round(mm * 1000) / 1000
