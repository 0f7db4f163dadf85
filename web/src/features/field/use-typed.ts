import { type KeyboardEvent, type RefObject, useEffect, useRef, useState } from 'react'
import type { Written } from './measures.ts'
import { understood } from './understood.ts'

interface Typed<T> {
  readonly input: RefObject<HTMLInputElement | null>
  /** What the field shows. */
  readonly text: string
  /** Whether it was typed here and not taken yet. */
  readonly open: boolean
  /** Why it was not taken. */
  readonly error: string | null
  /** What was taken last here, or what is shown. */
  readonly now: () => T
  readonly type: (text: string) => void
  /** Takes what was typed. @returns whether it could be read */
  readonly take: () => boolean
  /** Puts a value in the place of what was typed. */
  readonly put: (value: T) => void
  readonly leave: () => void
  /** Enter takes it; Escape leaves it, and goes on where nothing was typed. */
  readonly key: (event: KeyboardEvent) => void
}

/**
 * A value that is typed: Enter or leaving the field takes it, Escape leaves it. What cannot be read stays in the field with the
 * reason. @param refuses why a value that was read cannot be, in a sentence
 */
export function useTyped<T>(
  value: T,
  as: Written<T>,
  onTake: (value: T) => void,
  refuses: (value: T) => string | null = () => null,
): Typed<T> {
  const [text, setText] = useState<string | null>(null)
  const [error, setError] = useState<string | null>(null)
  const input = useRef<HTMLInputElement>(null)
  // What was taken here and has not come back yet: a busy page may take its time.
  const sent = useRef<{ readonly value: T } | null>(null)
  // A value changed elsewhere replaces what was not taken yet, unless somebody is typing here: that is never erased.
  const shown = as.show(value)
  // biome-ignore lint/correctness/useExhaustiveDependencies: it runs when the value has changed
  useEffect(() => {
    sent.current = null
    if (document.activeElement === input.current) return
    setText(null)
    setError(null)
  }, [typeof value === 'object' ? shown : value])
  const now = (): T => (sent.current ? sent.current.value : value)
  const leave = (): void => {
    setText(null)
    setError(null)
  }
  const put = (next: T): void => {
    leave()
    sent.current = { value: next }
    onTake(next)
  }
  const take = (): boolean => {
    if (text === null || text.trim() === as.show(now())) {
      leave()
      return true
    }
    const read = understood(as.read, text)
    const reason = read.reason ?? refuses(read.value)
    if (reason !== null) {
      setError(reason)
      return false
    }
    const same = typeof read.value === 'number' && Math.abs(read.value - (now() as number)) <= 1e-9
    if (same) leave()
    else put(read.value as T)
    return true
  }
  const key = (event: KeyboardEvent): void => {
    if (event.key === 'Enter' && take()) input.current?.select()
    // Where something was typed it is left; where nothing was, the sheet that it stands in closes.
    if (event.key === 'Escape' && (text !== null || error !== null)) {
      leave()
      event.stopPropagation()
    }
  }
  return { input, text: text ?? shown, open: text !== null, error, now, type: setText, take, put, leave, key }
}
