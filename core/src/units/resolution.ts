import { MM_PER_INCH } from './length.ts'

/** Distance between neighbouring lines or dots for a resolution in dots per inch: 200 dpi ↔ 0.127 mm. */
export const intervalFromDpi = (dpi: number): number => MM_PER_INCH / dpi

/** Resolution in dots per inch for a line distance in mm. */
export const dpiFromInterval = (intervalMm: number): number => MM_PER_INCH / intervalMm

/** How many source pixels stand on one placed inch. @param pixels along one side @param mm placed length of that side */
export const effectiveDpi = (pixels: number, mm: number): number => (pixels / mm) * MM_PER_INCH
