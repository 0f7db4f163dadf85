// One thing has one name: no text of the page, of a finding or of a list says a word that `docs/words.md` replaces.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseAst } from 'vite'
import { describe, expect, it } from 'vitest'

const root = new URL('../..', import.meta.url).pathname
const FOLDERS = ['web/src', 'core/src', 'cli/src', 'contract/src', 'server/src']

/** What is said, and what is not, by the table. */
const table = readFileSync(join(root, 'docs/words.md'), 'utf8')
  .split('\n')
  .filter((line) => line.startsWith('| ') && !line.startsWith('| We say'))
  .map((line) => line.split('|').map((cell) => cell.trim()))
  .map(([, say, not]) => ({ say, not: not.split(',').map((each) => each.trim()) }))

const isText = (text: string): boolean => /\s/.test(text.trim()) || /^[A-Z][a-z]/.test(text)

type Node = { readonly type: string; readonly [name: string]: unknown }
const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null && 'type' in value
const nameOf = (node: unknown): string => (isNode(node) ? String(node.name ?? node.value ?? '') : '')

/** Texts of a file that people read. Words that something is found by, in a search, are theirs. */
function textsOf(file: string): string[] {
  const texts: string[] = []
  const look = (node: Node): void => {
    if (/^(Import|Export\w*From|TS)/.test(node.type) && !/^TS(As|Satisfies|NonNull)/.test(node.type)) return
    if (node.type === 'Property' && nameOf(node.key) === 'words') return
    if (node.type === 'JSXAttribute' && nameOf(node.name).startsWith('data-')) return
    if (node.type === 'Literal' && typeof node.value === 'string' && isText(node.value)) texts.push(node.value)
    if (node.type === 'TemplateElement') texts.push(String((node.value as { cooked?: string }).cooked ?? ''))
    if (node.type === 'JSXText') texts.push(String(node.value).replace(/\s+/g, ' '))
    for (const child of Object.values(node))
      for (const each of Array.isArray(child) ? child : [child]) if (isNode(each)) look(each)
  }
  look(parseAst(readFileSync(file, 'utf8'), { lang: file.endsWith('x') ? 'tsx' : 'ts' }) as unknown as Node)
  return texts
}

const files = FOLDERS.flatMap((folder) =>
  readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.tsx?$/.test(name) && !/\.test\.|testing\/|\.d\.ts$/.test(name))
    .map((name) => join(root, folder, name)),
)

describe('words', () => {
  it('are listed once each', () => {
    expect(table.length).toBeGreaterThan(25)
    const all = table.flatMap(({ say, not }) => [...say.split(','), ...not].map((each) => each.trim()))
    expect(all.filter((each, i) => all.indexOf(each) !== i)).toEqual([])
  })

  it('that have another name are said nowhere', () => {
    const banned = table.flatMap(({ say, not }) =>
      not.map((word) => ({ say, word, pattern: new RegExp(`\\b${word.replace(/[.]/g, '\\$&')}s?\\b`, 'i') })),
    )
    const found = files.flatMap((file) =>
      textsOf(file).flatMap((text) =>
        banned.flatMap(({ say, word, pattern }) =>
          pattern.test(text) ? [`${file.replace(root, '')}: “${text.trim().slice(0, 80)}” says “${word}”, not “${say}”`] : [],
        ),
      ),
    )
    expect(found).toEqual([])
  })
})
