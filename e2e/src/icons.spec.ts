import { readdirSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { coverage, mapRing, readVectorFile, seenArea } from '@neotaxis/core'
import { resolvedDrawing } from '@neotaxis/intake'
import { expect, test } from '@playwright/test'

/** Pixels a side that icons are drawn at, and how many are taken. */
const SIDE = 96
const COUNT = 320

/** Icons spread over the whole package, filled ones and ones of lines. */
function corpus(): { readonly name: string; readonly svg: string }[] {
  const folder = join(dirname(createRequire(import.meta.url).resolve('@tabler/icons/package.json')), 'icons')
  const files = ['filled', 'outline'].flatMap((kind) =>
    readdirSync(join(folder, kind))
      .filter((name) => name.endsWith('.svg'))
      .sort()
      .map((name) => join(kind, name)),
  )
  const step = Math.floor(files.length / COUNT)
  return Array.from({ length: COUNT }, (_, i) => files[i * step]).map((name) => ({
    name,
    svg: readFileSync(join(folder, name), 'utf8'),
  }))
}

test('vector icons come in as the browser draws them', async ({ page }) => {
  const icons = corpus()
  const drawn = await page.evaluate(
    async ({ svgs, side }) => {
      const canvas = document.createElement('canvas')
      canvas.width = canvas.height = side
      const context = canvas.getContext('2d', { willReadFrequently: true })!
      const out: number[][] = []
      for (const svg of svgs) {
        const image = new Image()
        image.src = `data:image/svg+xml;base64,${btoa(svg)}`
        await image.decode()
        context.fillStyle = '#fff'
        context.fillRect(0, 0, side, side)
        context.drawImage(image, 0, 0, side, side)
        const { data } = context.getImageData(0, 0, side, side)
        out.push(Array.from({ length: side * side }, (_, i) => 255 - data[4 * i]))
      }
      return out
    },
    { svgs: icons.map(({ svg }) => svg), side: SIDE },
  )
  const wrong: string[] = []
  let sum = 0
  icons.forEach(({ name, svg }, k) => {
    const { shapes, page: drawnPage } = readVectorFile(resolvedDrawing(new TextEncoder().encode(svg)))
    const sheet = drawnPage!
    const scale = SIDE / (sheet.x1 - sheet.x0)
    const rings = seenArea(shapes).map((ring) => mapRing(ring, scale, scale, -sheet.x0 * scale, -sheet.y0 * scale))
    const ours = coverage(rings, SIDE, SIDE)
    let off = 0
    let far = 0
    for (let i = 0; i < ours.length; i++) {
      const d = Math.abs(255 * ours[i] - drawn[k][i])
      off += d
      if (d > 128) far++
    }
    const mean = off / ours.length / 255
    sum += mean
    // Half a pixel along every edge of a small icon is far less than this.
    if (mean > 0.01 || far > 12) wrong.push(`${name}: ${(100 * mean).toFixed(2)} % off, ${far} pixels`)
  })
  expect(wrong).toEqual([])
  expect(sum / icons.length).toBeLessThan(0.003)
})
