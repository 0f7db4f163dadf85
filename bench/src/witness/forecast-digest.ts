import { forecastScene, type JobDocument, paintForecast, type Supply } from '@neotaxis/core'

/** The workpiece after the burn at two zooms, as pixels: all of it, and a part in which single dots are seen. */
export function forecastDigest(job: JobDocument, supply: Supply): Uint8Array {
  const scene = forecastScene(job, supply)
  const whole = 4
  const views = [
    { x: 0, y: 0, pxPerMm: whole, widthPx: Math.ceil(scene.widthMm * whole), heightPx: Math.ceil(scene.heightMm * whole) },
    { x: scene.widthMm / 2 - 10, y: scene.heightMm / 2 - 10, pxPerMm: 25, widthPx: 500, heightPx: 500 },
  ]
  return Buffer.concat(views.map((view) => new Uint8Array(paintForecast(scene, view).buffer)))
}
