import { Box } from '@mui/material'
import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, useLayoutEffect, useRef, useState } from 'react'

/** Up to so many rows are simply there. */
const FEW = 50

interface Props<T> {
  readonly rows: readonly T[]
  readonly keyOf: (row: T) => string
  readonly children: (row: T) => ReactNode
  /** About how high a row is, CSS px. */
  readonly height: number
  readonly gap: number
  readonly testId: string
}

/** A list that scrolls with the window. Of a long one only what is in view is on the page, however many there are. */
export function LongList<T>(props: Props<T>) {
  const { rows, keyOf, children, gap, testId } = props
  if (rows.length > FEW) return <InView {...props} />
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: `${gap}px` }} data-testid={testId}>
      {rows.map((row) => (
        <li key={keyOf(row)}>{children(row)}</li>
      ))}
    </Box>
  )
}

function InView<T>({ rows, keyOf, children, height, gap, testId }: Props<T>) {
  // The list says itself what is in view: it is not the same with every rendering.
  'use no memo'
  const list = useRef<HTMLUListElement>(null)
  const [top, setTop] = useState(0)
  useLayoutEffect(() => setTop(list.current?.offsetTop ?? 0), [])
  const view = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => height,
    // What has no height yet is as high as it will be.
    measureElement: (element) => element.getBoundingClientRect().height || height,
    getItemKey: (i) => keyOf(rows[i]),
    overscan: 8,
    gap,
    scrollMargin: top,
  })
  return (
    <Box
      component="ul"
      ref={list}
      sx={{ listStyle: 'none', m: 0, p: 0, position: 'relative' }}
      style={{ height: view.getTotalSize() }}
      data-testid={testId}
      data-rows={rows.length}
    >
      {view.getVirtualItems().map(({ index, key, start }) => (
        <li
          key={key}
          data-index={index}
          ref={view.measureElement}
          aria-setsize={rows.length}
          aria-posinset={index + 1}
          style={{ position: 'absolute', left: 0, right: 0, top: 0, transform: `translateY(${start - top}px)` }}
        >
          {children(rows[index])}
        </li>
      ))}
    </Box>
  )
}
