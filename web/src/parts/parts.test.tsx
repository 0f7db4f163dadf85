// @vitest-environment happy-dom
// A part is what it is said to be: what stands in `as` is the element, and nothing of its looks goes on to the page.
import { cleanup, screen } from '@testing-library/react'
import { afterEach, expect, it } from 'vitest'
import { shown } from '../testing/fake-server.tsx'
import { BlockBox } from './Block.tsx'
import { Card, PickCard } from './Card.tsx'
import { Column } from './Column.tsx'
import { Floating, Place } from './Floating.tsx'
import { Area, AreaColumn, Frame } from './Frame.tsx'
import { PageMain } from './Page.tsx'
import { Panel } from './Panel.tsx'
import { Row } from './Row.tsx'
import { Sheet } from './Sheet.tsx'
import { Strip } from './Strip.tsx'
import { PictureGround } from './Tile.tsx'
import { Words } from './words.tsx'

afterEach(cleanup)

it('is the element that it is said to be, without attributes of its own looks', () => {
  const parts = [
    <Row as="section" gap="wide" align="baseline" line wraps grow data-testid="part" key="row" />,
    <Column as="section" gap="wide" width={40} middle data-testid="part" key="column" />,
    <Words as="section" size="small" tone="quiet" cut apart width={4} pad="snug" data-testid="part" key="words" />,
    <Card as="section" mark="ask" pad="wide" data-testid="part" key="card" />,
    <PickCard as="section" chosen pad="wide" data-testid="part" key="pick" />,
    <Strip as="section" along="top" tone="bar" high={40} data-testid="part" key="strip" />,
    <Panel as="section" side="left" width={40} pad="wide" data-testid="part" key="panel" />,
    <Sheet as="section" width={40} data-testid="part" key="sheet" />,
    <Floating as="section" edge="red" quiet data-testid="part" key="floating" />,
    <Place as="section" at={{ left: 1 }} data-testid="part" key="place" />,
    <PageMain as="section" width={40} columns="1fr" data-testid="part" key="main" />,
    <Frame as="section" rows="1fr" columns="1fr" areas={'"a"'} data-testid="part" key="frame" />,
    <Area as="section" name="a" data-testid="part" key="area" />,
    <AreaColumn as="section" name="a" data-testid="part" key="areas" />,
    <PictureGround as="section" high={40} data-testid="part" key="ground" />,
    <BlockBox as="section" fill="red" ink="blue" texture="none" runs chosen held stale data-testid="part" key="block" />,
  ]
  shown(parts)
  for (const element of screen.getAllByTestId('part')) {
    expect(element.tagName, element.outerHTML).toBe('SECTION')
    expect([...element.attributes].map(({ name }) => name).sort(), element.outerHTML).toEqual(['class', 'data-testid'])
  }
  expect(screen.getAllByTestId('part')).toHaveLength(parts.length)
})
