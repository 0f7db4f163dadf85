import { DxfError, type Pair } from './dxf-pairs.ts'

/** One entity: its kind and its groups; a polyline of vertices has those as parts. */
export interface Entity {
  readonly type: string
  readonly pairs: readonly Pair[]
  readonly parts: readonly Entity[]
}

export interface Block {
  readonly name: string
  readonly x: number
  readonly y: number
  readonly entities: readonly Entity[]
}

export interface Layer {
  readonly color: number
  /** Off or frozen. */
  readonly hidden: boolean
}

export interface DxfDocument {
  readonly entities: readonly Entity[]
  readonly blocks: ReadonlyMap<string, Block>
  readonly layers: ReadonlyMap<string, Layer>
  /** Millimetres of one unit; undefined where the file does not say. */
  readonly unitMm: number | undefined
}

/** The first value of a group. */
export const text = ({ pairs }: Pick<Entity, 'pairs'>, code: number): string | undefined =>
  pairs.find((pair) => pair.code === code)?.value

/** All values of a group. */
export const texts = ({ pairs }: Pick<Entity, 'pairs'>, code: number): string[] =>
  pairs.flatMap((pair) => (pair.code === code ? [pair.value] : []))

/** The first value of a group as a number. @throws RangeError where it is none */
export function number(entity: Pick<Entity, 'pairs'>, code: number, missing = 0): number {
  const value = text(entity, code)
  if (value === undefined) return missing
  const read = Number(value)
  if (!Number.isFinite(read)) throw new RangeError(`${value} is no number`)
  return read
}

/** Values of $INSUNITS in mm (DXF Reference, header variables). */
const UNITS: Readonly<Record<number, number>> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 25.4e-6,
  9: 0.0254,
  10: 914.4,
  11: 1e-7,
  12: 1e-6,
  13: 1e-3,
  14: 100,
}

/** Sections, blocks, layers and units. What is cut short counts as far as it goes. @throws DxfError */
export function dxfDocument(pairs: readonly Pair[]): DxfDocument {
  const sections = new Map<string, Pair[]>()
  let open: Pair[] | undefined
  for (let i = 0; i < pairs.length; i++) {
    const { code, value } = pairs[i]
    if (code === 0 && value === 'SECTION') {
      const name = pairs[i + 1]?.code === 2 ? pairs[i + 1].value : ''
      open = []
      sections.set(name, open)
      i++
    } else if (code === 0 && (value === 'ENDSEC' || value === 'EOF')) open = undefined
    else open?.push(pairs[i])
  }
  if (!sections.has('ENTITIES')) throw new DxfError('The DXF holds no drawing: its section of entities is missing.')
  return {
    entities: entitiesOf(sections.get('ENTITIES')!),
    blocks: blocksOf(sections.get('BLOCKS') ?? []),
    layers: layersOf(sections.get('TABLES') ?? []),
    unitMm: unitOf(sections.get('HEADER') ?? []),
  }
}

function unitOf(header: readonly Pair[]): number | undefined {
  const at = header.findIndex(({ code, value }) => code === 9 && value === '$INSUNITS')
  return at < 0 ? undefined : UNITS[Number(header[at + 1]?.value)]
}

/** Entities of a list of groups; VERTEX up to SEQEND belongs to the one before. */
function entitiesOf(pairs: readonly Pair[]): Entity[] {
  const out: { type: string; pairs: Pair[]; parts: Entity[] }[] = []
  let holder: { parts: Entity[] } | undefined
  for (const pair of pairs) {
    if (pair.code !== 0) {
      const last = holder?.parts.at(-1) ?? out.at(-1)
      ;(last?.pairs as Pair[] | undefined)?.push(pair)
      continue
    }
    if (pair.value === 'SEQEND') {
      holder = undefined
      // Its own groups belong to nothing.
      out.push({ type: 'SEQEND', pairs: [], parts: [] })
    } else if (pair.value === 'VERTEX' && (holder || out.at(-1)?.type === 'POLYLINE')) {
      holder ??= out.at(-1)
      holder!.parts.push({ type: 'VERTEX', pairs: [], parts: [] })
    } else {
      holder = undefined
      out.push({ type: pair.value, pairs: [], parts: [] })
    }
  }
  return out.filter(({ type }) => type !== 'SEQEND')
}

function blocksOf(pairs: readonly Pair[]): Map<string, Block> {
  const blocks = new Map<string, Block>()
  let from = -1
  pairs.forEach(({ code, value }, i) => {
    if (code !== 0) return
    if (value === 'BLOCK') from = i + 1
    else if (value === 'ENDBLK' && from >= 0) {
      const list = pairs.slice(from, i)
      const head = {
        pairs: list.slice(
          0,
          Math.max(
            0,
            list.findIndex((pair) => pair.code === 0),
          ) || list.length,
        ),
      }
      const name = text(head, 2) ?? ''
      const first = list.findIndex((pair) => pair.code === 0)
      blocks.set(name, {
        name,
        x: number(head, 10),
        y: number(head, 20),
        entities: first < 0 ? [] : entitiesOf(list.slice(first)),
      })
      from = -1
    }
  })
  return blocks
}

function layersOf(pairs: readonly Pair[]): Map<string, Layer> {
  const layers = new Map<string, Layer>()
  for (const entity of entitiesOf(pairs)) {
    if (entity.type !== 'LAYER') continue
    const color = number(entity, 62, 7)
    layers.set(text(entity, 2) ?? '0', { color: Math.abs(color), hidden: color < 0 || (number(entity, 70) & 1) === 1 })
  }
  return layers
}
