import type { DOMParser } from '@xmldom/xmldom'

export type Element = NonNullable<ReturnType<DOMParser['parseFromString']>['documentElement']>

/** The path data of a basic shape (SVG 1.1, 9); undefined where an element is none. */
export function elementData(node: Element): string | undefined {
  const n = (name: string): number => Number.parseFloat(node.getAttribute(name) ?? '0') || 0
  switch (node.localName) {
    case 'path':
      return node.getAttribute('d') ?? undefined
    case 'polygon':
    case 'polyline': {
      const points = (node.getAttribute('points') ?? '').trim()
      return points ? `M${points}${node.localName === 'polygon' ? 'Z' : ''}` : undefined
    }
    case 'line':
      return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`
    case 'rect':
      return rectData(n('x'), n('y'), n('width'), n('height'), node.getAttribute('rx'), node.getAttribute('ry'))
    case 'circle':
    case 'ellipse': {
      const rx = node.localName === 'circle' ? n('r') : n('rx')
      const ry = node.localName === 'circle' ? n('r') : n('ry')
      return rx > 0 && ry > 0
        ? `M${n('cx') - rx} ${n('cy')}a${rx} ${ry} 0 1 1 ${2 * rx} 0a${rx} ${ry} 0 1 1 ${-2 * rx} 0Z`
        : undefined
    }
    default:
      return undefined
  }
}

/** A rectangle with its corners (SVG 1.1, 9.2): a missing radius is the other one, none is larger than half a side. */
function rectData(x: number, y: number, w: number, h: number, rxText: string | null, ryText: string | null): string | undefined {
  if (!(w > 0 && h > 0)) return undefined
  const radius = (text: string | null): number => Math.max(0, Number.parseFloat(text ?? '') || 0)
  const rx = Math.min(w / 2, rxText === null ? radius(ryText) : radius(rxText))
  const ry = Math.min(h / 2, ryText === null ? radius(rxText) : radius(ryText))
  if (rx === 0 || ry === 0) return `M${x} ${y}h${w}v${h}h${-w}Z`
  const corner = (dx: number, dy: number): string => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`
  return `M${x + rx} ${y}h${w - 2 * rx}${corner(rx, ry)}v${h - 2 * ry}${corner(-rx, ry)}h${2 * rx - w}${corner(-rx, -ry)}v${2 * ry - h}${corner(rx, -ry)}Z`
}
