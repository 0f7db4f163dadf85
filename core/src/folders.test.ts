import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join, normalize, relative } from 'node:path'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'

const ROOT = fileURLToPath(new URL('.', import.meta.url))

const sources = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name)
    if (entry.isDirectory()) return sources(path)
    return entry.name.endsWith('.ts') && !entry.name.endsWith('.test.ts') ? [path] : []
  })

/** What each source file imports of the core, as paths from its root. */
const imports = new Map(
  sources(ROOT).map((path): [string, string[]] => [
    relative(ROOT, path),
    [...readFileSync(path, 'utf8').matchAll(/(?:from|import) '(\.[^']+)'/g)].map(([, to]) =>
      relative(ROOT, normalize(join(dirname(path), to))),
    ),
  ]),
)
const folderOf = (path: string): string => (path.includes('/') ? path.slice(0, path.indexOf('/')) : '')

describe('the folders of the core', () => {
  it('know each other one way only: no circle leads from a folder back to it', () => {
    const arrows = new Map<string, Set<string>>()
    for (const [from, all] of imports)
      for (const to of all) {
        const [a, b] = [folderOf(from), folderOf(to)]
        // What is made for tests knows everything; the door names everything.
        if (a === b || a === '' || a === 'testing') continue
        arrows.set(a, (arrows.get(a) ?? new Set()).add(b))
      }
    const circles: string[] = []
    const visit = (at: string, way: readonly string[]): void => {
      if (way.includes(at)) {
        circles.push([...way.slice(way.indexOf(at)), at].join(' → '))
        return
      }
      for (const next of arrows.get(at) ?? []) visit(next, [...way, at])
    }
    for (const folder of arrows.keys()) visit(folder, [])
    expect([...new Set(circles)]).toEqual([])
    expect(arrows.size).toBeGreaterThan(15)
  })

  it('ask a process for what they need, and never which one it is', () => {
    const tests = /\.process\s*[!=]==?|\bprocess\s*[!=]==?\s*'|case '(?:cut|score|picture|relief|guide|program)'/
    const found = [...imports.keys()].filter((path) => {
      // Older documents are read by the words that they were written with.
      if (folderOf(path) === 'process' || path.startsWith('job/upgrade/')) return false
      return tests.test(readFileSync(join(ROOT, path), 'utf8'))
    })
    // A recipe is found by the process that it is for.
    expect(found).toEqual(['material/material.ts'])
  })
})
