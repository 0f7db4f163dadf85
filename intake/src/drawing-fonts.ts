import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { unpackWoff } from '@neotaxis/core/text/woff'
import { shippedFonts } from './shipped-fonts.ts'

let files: readonly string[] | undefined

/** Where the fonts that ship are kept unpacked while this process runs, for drawings that are set in them. */
export function shippedFontFiles(): readonly string[] {
  if (files) return files
  const folder = mkdtempSync(join(tmpdir(), 'neotaxis-fonts-'))
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }))
  files = shippedFonts().map(({ id, bytes }) => {
    const file = join(folder, `${id}.ttf`)
    writeFileSync(file, unpackWoff(bytes))
    return file
  })
  return files
}

/** What is told of the fonts that the text of a drawing is meant to be set in; undefined where it has no text. */
export function fontsMeant(text: string): string | undefined {
  if (!/<(?:[\w.-]+:)?text[\s/>]/.test(text)) return undefined
  const families = new Set<string>()
  for (const [, list] of text.matchAll(/font-family\s*[:=]\s*((?:"[^"]*"|'[^']*'|[^;"'<>])+)/gi)) {
    const first = list.split(',')[0].replace(/["']/g, '').trim()
    if (first) families.add(first.slice(0, 60))
  }
  const meant = [...families].slice(0, 4).map((name) => `“${name}”`)
  return `Text was set in the fonts that ship${meant.length > 0 ? `, not in ${meant.join(', ')}` : ''}: check how it runs.`
}
