/** A ref: what appears comes into view where it lies beyond the edge of its list. */
export const inView = (element: HTMLElement | null): void => element?.scrollIntoView?.({ block: 'nearest' })
