import {
  faceSize,
  forecastScene,
  type GreyPicture,
  MACHINES,
  MATERIALS,
  mainPiece,
  measureJob,
  paintForecast,
  proposing,
  ResultCache,
} from '@neotaxis/core'

/** A picture of all kinds in small: tones, a dark shape, thin strokes. */
function small(): GreyPicture {
  const [widthPx, heightPx] = [240, 160]
  const samples = new Uint8Array(widthPx * heightPx)
  for (let y = 0; y < heightPx; y++) {
    for (let x = 0; x < widthPx; x++) {
      const stroke = Math.abs(y - 80 - 40 * Math.sin(x / 20)) < 2
      samples[y * widthPx + x] = stroke ? 40 : 215 + ((x * 7 + y * 13) % 31)
    }
  }
  return { widthPx, heightPx, samples, full: 255 }
}

/** Goes once through what a file that is dropped goes through, so that the first one finds it compiled and quick. */
export function warmUp(): void {
  const picture = small()
  const facts = { name: 'warm', asset: 'warm', widthPx: picture.widthPx, heightPx: picture.heightPx, hasAlpha: false }
  const settings = { material: MATERIALS[0], machine: MACHINES[0], workpiece: { widthMm: 60, heightMm: 40, thicknessMm: 3 } }
  const supply = { picture: () => picture, cache: new ResultCache(20_000_000) }
  for (const { job } of proposing(facts, picture, settings, supply)) {
    measureJob(job, supply)
    const { widthMm, heightMm } = faceSize(mainPiece(job))
    paintForecast(forecastScene(job, supply), { x: 0, y: 0, pxPerMm: 2, widthPx: 2 * widthMm, heightPx: 2 * heightMm })
  }
}
