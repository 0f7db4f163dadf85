import type { Tag } from './svg-tags.ts'

/** What is important of a rule, for elements that it is meant for. */
interface Rule {
  readonly tag?: string
  readonly id?: string
  readonly classes: readonly string[]
  readonly declared: Readonly<Record<string, string>>
}

/**
 * What style sheets say with `!important` (CSS 2.1, 6.4.2): it is stronger than what an element says of itself. Of selectors those that name an
 * element, its id and its classes, without what is around it.
 */
export function importantRules(text: string): Rule[] {
  if (!/!\s*important/i.test(text)) return []
  const sheets = [...text.matchAll(/<(?:[\w.-]+:)?style\b[^>]*>([\s\S]*?)<\//g)].map(([, sheet]) => sheet).join('\n')
  const plain = sheets.replace(/\/\*[\s\S]*?\*\//g, '')
  return [...plain.matchAll(/([^{}@]+)\{([^{}]*)\}/g)].flatMap(([, selectors, body]) => {
    const declared = Object.fromEntries(
      [...body.matchAll(/([\w-]+)\s*:\s*([^;!]+)!\s*important/gi)].map(([, name, value]) => [name.toLowerCase(), value.trim()]),
    )
    if (Object.keys(declared).length === 0) return []
    return selectors.split(',').flatMap((selector): Rule[] => {
      const found = /^(\*|[A-Za-z][\w-]*)?((?:[.#][\w-]+)*)$/.exec(selector.replace(/<!\[CDATA\[/, '').trim())
      if (!found) return []
      const marks = found[2].match(/[.#][\w-]+/g) ?? []
      const id = marks.find((mark) => mark[0] === '#')?.slice(1)
      return [
        {
          ...(found[1] && found[1] !== '*' ? { tag: found[1] } : {}),
          ...(id ? { id } : {}),
          classes: marks.filter((mark) => mark[0] === '.').map((mark) => mark.slice(1)),
          declared,
        },
      ]
    })
  })
}

/** Gives an element's own style what is important for it. */
export function makeImportant({ name, attributes }: Tag, rules: readonly Rule[]): void {
  const own = (attributes.class ?? '').split(/\s+/)
  for (const { tag, id, classes, declared } of rules) {
    if ((tag && tag !== name) || (id && id !== attributes.id) || !classes.every((each) => own.includes(each))) continue
    const kept = (attributes.style ?? '').split(';').filter((part) => {
      const key = part.slice(0, part.indexOf(':')).trim().toLowerCase()
      return key !== '' && !(key in declared && !/!\s*important/i.test(part))
    })
    const said = Object.entries(declared).map(([key, value]) => `${key}:${value}`)
    attributes.style = [...said, ...kept].join(';')
  }
}
