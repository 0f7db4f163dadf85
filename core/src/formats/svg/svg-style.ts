/// <reference path="./color-name.d.ts" />
import names from 'color-name'
import type { Element } from './svg.ts'

/** What is in force for an element, most of it handed down. */
export interface Style {
  /** A colour as #rrggbb, or undefined for none. */
  readonly fill: string | undefined
  readonly stroke: string | undefined
  /** In units of the element. */
  readonly strokeWidth: number
  readonly rule: 'nonzero' | 'evenodd'
  readonly color: string
  readonly visible: boolean
  /** Not handed down. */
  readonly displayed: boolean
  readonly clip: string | undefined
}

export const FIRST_STYLE: Style = {
  fill: '#000000',
  stroke: undefined,
  strokeWidth: 1,
  rule: 'nonzero',
  color: '#000000',
  visible: true,
  displayed: true,
  clip: undefined,
}

/** What stands for a gradient or a pattern: something is filled. */
const PAINTED = '#808080'

const hex = (r: number, g: number, b: number): string =>
  `#${[r, g, b]
    .map((v) =>
      Math.min(255, Math.max(0, Math.round(v)))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`

/** A colour as #rrggbb; undefined for none. What cannot be read is black. */
function colour(text: string, current: string): string | undefined {
  const word = text.trim().toLowerCase()
  if (word === 'none' || word === 'transparent') return undefined
  if (word === 'currentcolor') return current
  if (word.startsWith('url(')) return PAINTED
  const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])[0-9a-f]?$/.exec(word)
  if (short) return `#${short[1]}${short[1]}${short[2]}${short[2]}${short[3]}${short[3]}`
  const long = /^#([0-9a-f]{6})([0-9a-f]{2})?$/.exec(word)
  if (long) return `#${long[1]}`
  const rgb = /^rgba?\(([^)]*)\)/.exec(word)
  if (rgb) {
    const [r, g, b] = rgb[1].split(/[\s,/]+/).map((part) => Number.parseFloat(part) * (part.endsWith('%') ? 2.55 : 1))
    return hex(r || 0, g || 0, b || 0)
  }
  const named = names[word]
  return named ? hex(named[0], named[1], named[2]) : '#000000'
}

const PROPERTIES = ['fill', 'stroke', 'stroke-width', 'fill-rule', 'color', 'visibility', 'display', 'clip-path'] as const
type Declared = Partial<Record<(typeof PROPERTIES)[number], string>>

function declarations(text: string): Declared {
  const out: Declared = {}
  for (const part of text.split(';')) {
    const colon = part.indexOf(':')
    const name = part.slice(0, colon).trim().toLowerCase()
    if (colon > 0 && (PROPERTIES as readonly string[]).includes(name))
      out[name as keyof Declared] = part
        .slice(colon + 1)
        .replace(/!\s*important/i, '')
        .trim()
  }
  return out
}

/** One part of a selector: an element with a name, an id and classes, as far as they are asked for. */
interface Compound {
  readonly tag?: string
  readonly id?: string
  readonly classes: readonly string[]
  /** The part to its left must be the parent, not any ancestor. */
  readonly child: boolean
}

export interface SheetRule {
  readonly parts: readonly Compound[]
  readonly weight: number
  readonly declared: Declared
}

/**
 * The rules of style sheets: elements, classes, ids, descendants and children. Other selectors, and what stands in at-rules,
 * are left out. Ordered so that later ones win (CSS 2.1, 6.4).
 */
export function sheetRules(text: string): SheetRule[] {
  const rules: SheetRule[] = []
  const plain = text.replace(/\/\*[\s\S]*?\*\//g, '').replace(/<!--|-->|<!\[CDATA\[|\]\]>/g, '')
  for (const [, selectors, body] of withoutAtRules(plain).matchAll(/([^{}]+)\{([^{}]*)\}/g)) {
    const declared = declarations(body)
    for (const selector of selectors.split(',')) {
      const parts = compounds(selector.trim())
      if (!parts) continue
      const weight = parts.reduce(
        (sum, { id, classes, tag }) => sum + (id ? 10_000 : 0) + 100 * classes.length + (tag ? 1 : 0),
        0,
      )
      rules.push({ parts, weight, declared })
    }
  }
  return rules
    .map((rule, i) => ({ rule, i }))
    .sort((a, b) => a.rule.weight - b.rule.weight || a.i - b.i)
    .map(({ rule }) => rule)
}

/** A sheet without at-rules and all that stands in them. */
function withoutAtRules(text: string): string {
  let out = ''
  for (let at = 0; at < text.length; ) {
    const rule = text.indexOf('@', at)
    if (rule < 0) return out + text.slice(at)
    out += text.slice(at, rule)
    let depth = 0
    for (at = rule; at < text.length; at++) {
      const c = text[at]
      if (c === '{') depth++
      if ((c === '}' && --depth <= 0) || (c === ';' && depth === 0)) break
    }
    at++
  }
  return out
}

function compounds(selector: string): Compound[] | undefined {
  const out: Compound[] = []
  let child = false
  for (const word of selector.replace(/>/g, ' > ').split(/\s+/).filter(Boolean)) {
    if (word === '>') {
      child = true
      continue
    }
    const found = /^(\*|[A-Za-z][\w-]*)?((?:[.#][\w-]+)*)$/.exec(word)
    if (!found) return undefined
    const marks = found[2].match(/[.#][\w-]+/g) ?? []
    out.push({
      ...(found[1] && found[1] !== '*' ? { tag: found[1] } : {}),
      ...(marks.some((m) => m[0] === '#') ? { id: marks.find((m) => m[0] === '#')!.slice(1) } : {}),
      classes: marks.filter((m) => m[0] === '.').map((m) => m.slice(1)),
      child,
    })
    child = false
  }
  return out.length > 0 ? out : undefined
}

function matches(element: Element, parts: readonly Compound[], last = parts.length - 1): boolean {
  const { tag, id, classes, child } = parts[last]
  if (tag && element.localName !== tag) return false
  if (id && element.getAttribute('id') !== id) return false
  if (classes.length > 0) {
    const own = (element.getAttribute('class') ?? '').split(/\s+/)
    if (!classes.every((each) => own.includes(each))) return false
  }
  if (last === 0) return true
  for (let up = element.parentNode; up && up.nodeType === 1; up = up.parentNode) {
    if (matches(up as unknown as Element, parts, last - 1)) return true
    if (child) return false
  }
  return false
}

/** What is in force for an element: attributes, then sheets, then its own style. */
export function styleOf(element: Element, handed: Style, sheet: readonly SheetRule[]): Style {
  let declared: Declared = {}
  for (const name of PROPERTIES) {
    const value = element.getAttribute(name)
    if (value !== null && value !== '') declared[name] = value
  }
  for (const rule of sheet) if (matches(element, rule.parts)) declared = { ...declared, ...rule.declared }
  const own = element.getAttribute('style')
  if (own) declared = { ...declared, ...declarations(own) }
  const said = (name: keyof Declared): string | undefined => (declared[name] === 'inherit' ? undefined : declared[name])
  const color = said('color') ? (colour(said('color')!, handed.color) ?? handed.color) : handed.color
  const paint = (name: 'fill' | 'stroke'): string | undefined => {
    const value = said(name)
    return value === undefined ? handed[name] : colour(value, color)
  }
  const width = said('stroke-width') === undefined ? Number.NaN : Number.parseFloat(said('stroke-width')!)
  const rule = said('fill-rule')
  const visibility = said('visibility')
  return {
    color,
    fill: paint('fill'),
    stroke: paint('stroke'),
    strokeWidth: Number.isFinite(width) && width >= 0 ? width * unitOf(said('stroke-width')!) : handed.strokeWidth,
    rule: rule === 'evenodd' ? 'evenodd' : rule === 'nonzero' ? 'nonzero' : handed.rule,
    visible: visibility === undefined ? handed.visible : visibility === 'visible',
    displayed: said('display') !== 'none',
    clip: /^url\(\s*["']?#([^"')]+)["']?\s*\)$/.exec(said('clip-path') ?? '')?.[1],
  }
}

/** Units of user space in one of a length's unit: 96 px to the inch. */
const unitOf = (length: string): number =>
  ({ mm: 96 / 25.4, cm: 960 / 25.4, in: 96, pt: 96 / 72, pc: 16 })[/[a-z]+$/.exec(length.trim().toLowerCase())?.[0] ?? ''] ?? 1
