import { useEffect, useState } from 'react'

/** So long nothing is typed before it is looked for, ms. */
const REST_MS = 180

/** A text as it is when nobody types any more; an empty one at once. */
export function useRestedText(text: string): string {
  const [rested, setRested] = useState(text)
  useEffect(() => {
    const timer = setTimeout(() => setRested(text), text === '' ? 0 : REST_MS)
    return () => clearTimeout(timer)
  }, [text])
  return rested
}
