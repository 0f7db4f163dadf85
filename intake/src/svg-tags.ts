import { DrawingError } from '@neotaxis/core'

/** One start tag of a drawing: its attributes may be changed. */
export interface Tag {
  /** Without its prefix. */
  readonly name: string
  readonly attributes: Record<string, string>
}

/** The text of a file by what it says of its own encoding. */
export function textOf(bytes: Uint8Array): string {
  const [a, b] = bytes
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes)
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes)
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 200))
  const said = /^\s*<\?xml[^>]*encoding\s*=\s*["']([\w-]+)["']/i.exec(head)?.[1] ?? 'utf-8'
  try {
    return new TextDecoder(said).decode(bytes).replace(/(<\?xml[^>]*?)\s+encoding\s*=\s*["'][\w-]+["']/i, '$1')
  } catch {
    return new TextDecoder().decode(bytes)
  }
}

const TAG =
  /<!--[\s\S]*?-->|<!\[CDATA\[[\s\S]*?\]\]>|<(\/?)([A-Za-z_][\w:.-]*)((?:\s+[\w:.-]+\s*=\s*(?:"[^"]*"|'[^']*'))*)\s*(\/?)>/g
const ATTRIBUTE = /([\w:.-]+)\s*=\s*("[^"]*"|'[^']*')/g

/** Text with every start tag as `change` leaves it; tags that it does not touch stay to the letter. */
export function mappedTags(text: string, change: (tag: Tag) => void): string {
  return text.replace(TAG, (whole, closing: string | undefined, full: string | undefined, list: string, own: string) => {
    if (full === undefined || closing) return whole
    const attributes: Record<string, string> = {}
    for (const [, key, value] of list.matchAll(ATTRIBUTE)) attributes[key] = value.slice(1, -1)
    const before = JSON.stringify(attributes)
    change({ name: full.slice(full.indexOf(':') + 1), attributes })
    if (JSON.stringify(attributes) === before) return whole
    const said = Object.entries(attributes).map(([key, value]) => ` ${key}="${value.replace(/"/g, '&quot;')}"`)
    return `<${full}${said.join('')}${own}>`
  })
}

/** What `use` repeats counts every time: files that would fill memory with copies of copies end here. */
const MOST_ELEMENTS = 200_000

/**
 * Counts the elements of a drawing with all that it repeats.
 * @throws DrawingError where there are more than can be drawn, or where something repeats itself
 */
export function checkRepeats(text: string): void {
  if (!/<(?:[\w.-]+:)?use[\s/>]/.test(text)) return
  interface Part {
    count: number
    readonly uses: string[]
  }
  const root: Part = { count: 0, uses: [] }
  const byId = new Map<string, Part>()
  const open: Part[][] = []
  for (const [, closing, full, list, own] of text.matchAll(TAG)) {
    if (full === undefined) continue
    if (closing) {
      open.pop()
      continue
    }
    const name = full.slice(full.indexOf(':') + 1)
    const id = /(?:^|\s)id\s*=\s*["']([^"']*)/.exec(list)?.[1]
    const part: Part | undefined = id ? { count: 0, uses: [] } : undefined
    if (id && part && !byId.has(id)) byId.set(id, part)
    const around = [...(open.at(-1) ?? [root]), ...(part ? [part] : [])]
    const target = name === 'use' ? /href\s*=\s*["']#([^"']*)/.exec(list)?.[1] : undefined
    for (const each of around) {
      each.count++
      if (target !== undefined) each.uses.push(target)
    }
    if (!own) open.push(around)
  }
  const whole = new Map<Part, number>()
  const counted = (part: Part, way: ReadonlySet<Part>): number => {
    const known = whole.get(part)
    if (known !== undefined) return known
    // What repeats itself is left out by whoever draws it.
    if (way.has(part)) return 0
    const deeper = new Set(way).add(part)
    let sum = part.count
    for (const id of part.uses) {
      const target = byId.get(id)
      if (target) sum += counted(target, deeper)
      if (sum > MOST_ELEMENTS)
        throw new DrawingError(`The SVG repeats its parts until they are more than ${MOST_ELEMENTS} elements.`)
    }
    whole.set(part, sum)
    return sum
  }
  counted(root, new Set())
}
