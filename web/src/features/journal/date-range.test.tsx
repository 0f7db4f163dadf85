// @vitest-environment happy-dom
import { cleanup, fireEvent, screen } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { LongList } from '../../parts/LongList.tsx'
import { fillBrowser, shown } from '../../testing/fake-server.tsx'
import { isTwelveHours, tellCount, tellDay, tellExactTime, tellMoment, tellTime } from '../field/told.ts'
import DateRange, { momentsOf } from './DateRange.tsx'

afterEach(cleanup)

describe('a range of days', () => {
  it('goes from the begin of its first day to the end of its last, in the time of this place', () => {
    const { from, until } = momentsOf({ from: '2026-11-02', until: '2026-11-02' })
    expect(new Date(until!).getTime() - new Date(from!).getTime()).toBe(24 * 3600_000)
    expect(new Date(from!).getHours()).toBe(0)
    expect(momentsOf({ from: '', until: '' })).toEqual({})
    expect(momentsOf({ from: 'soon', until: '2026-11-02' })).toEqual({ until })
  })

  it('is one day longer where the clocks go back', () => {
    const { from, until } = momentsOf({ from: '2026-10-01', until: '2026-10-31' })
    expect(new Date(until!).getDate()).toBe(1)
    expect(new Date(from!).getDate()).toBe(1)
  })

  it('is shown as it is in the address, and either end is taken away', () => {
    fillBrowser()
    const told = vi.fn()
    shown(<DateRange days={{ from: '2026-11-02', until: '2026-11-27' }} onDays={told} />)
    expect(screen.getAllByRole('group').length).toBeGreaterThanOrEqual(2)
    fireEvent.click(screen.getAllByRole('button', { name: /clear/i })[0])
    expect(told).toHaveBeenCalledWith({ from: '', until: '2026-11-27' })
  })
})

describe('times, days and counts', () => {
  it('are told as the browser says', () => {
    const at = new Date(2026, 10, 27, 17, 4, 9).getTime()
    expect(tellTime(at)).toMatch(isTwelveHours() ? /5:04.PM/ : /17:04/)
    expect(tellExactTime(at)).toMatch(/04:09/)
    expect(tellDay(at)).toContain('2026')
    expect(tellMoment(new Date(at).toISOString())).toContain(tellTime(at))
    expect(tellCount(12_400).replace(/\D/g, '')).toBe('12400')
  })
})

describe('a long list', () => {
  const rows = (n: number): string[] => Array.from({ length: n }, (_, i) => `row ${i}`)
  const show = (n: number) =>
    shown(
      <LongList rows={rows(n)} keyOf={(row) => row} height={40} gap={4} testId="list">
        {(row) => <span>{row}</span>}
      </LongList>,
    )

  it('of few rows has all of them', () => {
    show(50)
    expect(screen.getAllByRole('listitem')).toHaveLength(50)
  })

  it('of many has those in view, says how many there are, and is as high as all of them', () => {
    Object.defineProperty(window, 'innerHeight', { value: 600, configurable: true })
    show(3000)
    const list = screen.getByTestId('list')
    expect(list.dataset.rows).toBe('3000')
    expect(Number.parseFloat(list.style.height)).toBe(3000 * 44 - 4)
    expect(screen.getAllByRole('listitem').length).toBeLessThan(60)
    expect(screen.getAllByRole('listitem')[0].getAttribute('aria-setsize')).toBe('3000')
  })
})
