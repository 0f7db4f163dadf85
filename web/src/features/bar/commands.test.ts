import { afterEach, describe, expect, it, vi } from 'vitest'
import { COMMANDS, foundCommands, onCommand, runCommand } from './commands.ts'

const ends: (() => void)[] = []
afterEach(() => {
  for (const end of ends.splice(0)) end()
})
const found = (text: string): string[] => foundCommands(text).map(({ id }) => id)

describe('a command', () => {
  it('is found by its title and by what the trade calls it, where it can be done', () => {
    expect(found('rotate')).toEqual([])
    ends.push(onCommand(Object.fromEntries(COMMANDS.map(({ id }) => [id, () => {}]))))
    for (const [word, id] of [
      ['rotate', 'turn-quarter'],
      ['remove', 'delete'],
      ['clone', 'duplicate'],
      ['trace', 'outline'],
      ['start', 'run'],
      ['import', 'bring-in'],
      ['G-CODE', 'save-program'],
      ['crop', 'picture'],
      ['order later', 'later'],
    ])
      expect(found(word), word).toContain(id)
    expect(found('no such thing')).toEqual([])
  })

  it('of a part of the page is found as long as that is there', () => {
    const press = vi.fn()
    const end = onCommand({ 'tool-bridge': press }, [{ id: 'tool-bridge', title: 'Tool: bridge', words: 'a strip holds it' }])
    expect(found('strip')).toEqual(['tool-bridge'])
    runCommand('tool-bridge')
    expect(press).toHaveBeenCalledOnce()
    end()
    expect(found('strip')).toEqual([])
  })
})
