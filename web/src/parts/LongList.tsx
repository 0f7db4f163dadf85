import { styled } from '@mui/material'
import { useVirtualizer, useWindowVirtualizer, type Virtualizer } from '@tanstack/react-virtual'
import { type ReactNode, type RefObject, useLayoutEffect, useRef, useState } from 'react'
import { EDGE } from '../theme/tokens.ts'

/** Up to so many things are simply there. */
const FEW = 50

interface Props<T> {
  readonly rows: readonly T[]
  readonly keyOf: (row: T) => string
  readonly children: (row: T) => ReactNode
  /** About how high a thing is, CSS px. */
  readonly height: number
  readonly gap: number
  /** As narrow as a column may be, CSS px: as many stand beside each other as have room. Without it, one. */
  readonly least?: number
  /** What scrolls, where it is not the window. */
  readonly scrolls?: RefObject<HTMLElement | null>
  /** Stands behind the last. */
  readonly last?: ReactNode
  /** Its things are a tree's: each says itself how deep it is. */
  readonly tree?: string
  readonly testId: string
}

const ofTree = (tree: string | undefined) => (tree === undefined ? {} : { role: 'tree', 'aria-label': tree })

const List = styled('ul')({ listStyle: 'none', margin: 0, padding: 0, scrollMarginTop: EDGE.small })

const columnsOf = (count: number | string): string => `repeat(${count}, minmax(0, 1fr))`

/** A list, or cards in columns. Of a long one only what is in view is on the page, however many there are. */
export function LongList<T>(props: Props<T>) {
  const { rows, keyOf, children, gap, least, last, tree, testId } = props
  if (rows.length > FEW) return props.scrolls ? <InBox {...props} scrolls={props.scrolls} /> : <InWindow {...props} />
  const gridTemplateColumns = least ? `repeat(auto-fill, minmax(${least}px, 1fr))` : columnsOf(1)
  return (
    <List style={{ display: 'grid', gap, gridTemplateColumns }} {...ofTree(tree)} data-testid={testId}>
      {rows.map((row) => (
        <li key={keyOf(row)} role={tree && 'none'}>
          {children(row)}
        </li>
      ))}
      {last && <li role={tree && 'none'}>{last}</li>}
    </List>
  )
}

/** How the list lies: how far it begins under what scrolls, and how many columns have room. */
function useLie(
  list: RefObject<HTMLElement | null>,
  least: number | undefined,
  gap: number,
  scrolls?: RefObject<HTMLElement | null>,
) {
  const [lie, setLie] = useState({ top: 0, columns: 1 })
  useLayoutEffect(() => {
    const element = list.current
    if (!element) return
    const look = (): void => {
      const box = element.getBoundingClientRect()
      const over = scrolls?.current
      const top = over ? box.top - over.getBoundingClientRect().top + over.scrollTop : box.top + window.scrollY
      const columns = least ? Math.max(1, Math.floor((box.width + gap) / (least + gap))) : 1
      setLie((was) => (was.columns === columns && Math.abs(was.top - top) < 1 ? was : { top, columns }))
    }
    look()
    const watch = new ResizeObserver(look)
    watch.observe(element)
    return () => watch.disconnect()
  }, [list, least, gap, scrolls])
  return lie
}

/** What a virtual list is asked for. */
const wish = <T,>({ rows, keyOf, height, gap }: Props<T>, lie: { readonly top: number; readonly columns: number }) => ({
  count: Math.ceil(rows.length / lie.columns),
  estimateSize: () => height,
  // What has no height yet is as high as it will be.
  measureElement: (element: Element) => element.getBoundingClientRect().height || height,
  getItemKey: (line: number) => keyOf(rows[line * lie.columns]),
  overscan: lie.columns > 1 ? 2 : 8,
  gap,
  scrollMargin: lie.top,
})

function InWindow<T>(props: Props<T>) {
  // The list says itself what is in view: it is not the same with every rendering.
  'use no memo'
  const list = useRef<HTMLUListElement>(null)
  const lie = useLie(list, props.least, props.gap)
  const view = useWindowVirtualizer(wish(props, lie))
  return <Lines {...props} list={list} lie={lie} view={view} />
}

function InBox<T>(props: Props<T> & { readonly scrolls: RefObject<HTMLElement | null> }) {
  'use no memo'
  const list = useRef<HTMLUListElement>(null)
  const lie = useLie(list, props.least, props.gap, props.scrolls)
  const view = useVirtualizer({ ...wish(props, lie), getScrollElement: () => props.scrolls.current })
  return <Lines {...props} list={list} lie={lie} view={view} />
}

interface LinesProps<T> extends Props<T> {
  readonly list: RefObject<HTMLUListElement | null>
  readonly lie: { readonly top: number; readonly columns: number }
  readonly view: Pick<Virtualizer<never, Element>, 'getTotalSize' | 'getVirtualItems' | 'measureElement'>
}

function Lines<T>({ rows, keyOf, children, gap, last, tree, testId, list, lie, view }: LinesProps<T>) {
  'use no memo'
  const { top, columns } = lie
  return (
    <>
      <List
        ref={list}
        style={{ position: 'relative', height: view.getTotalSize() }}
        {...ofTree(tree)}
        data-testid={testId}
        data-rows={rows.length}
      >
        {view.getVirtualItems().map(({ index, key, start }) => (
          <li
            key={key}
            role={tree && 'none'}
            data-index={index}
            ref={view.measureElement}
            aria-setsize={columns === 1 && !tree ? rows.length : undefined}
            aria-posinset={columns === 1 && !tree ? index + 1 : undefined}
            style={{
              position: 'absolute',
              left: 0,
              right: 0,
              top: 0,
              transform: `translateY(${start - top}px)`,
              display: 'grid',
              gap,
              gridTemplateColumns: columnsOf(columns),
            }}
          >
            {rows.slice(index * columns, (index + 1) * columns).map((row) => (
              <div key={keyOf(row)}>{children(row)}</div>
            ))}
          </li>
        ))}
      </List>
      {last && <div style={{ marginTop: gap }}>{last}</div>}
    </>
  )
}
