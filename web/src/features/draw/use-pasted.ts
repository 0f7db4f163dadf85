import { useLayoutEffect } from 'react'

/** What is pasted, where nobody is typing: files as files, words as a text to be written. */
export function usePasted(onFiles: (files: readonly File[]) => void, onText: (text: string) => void): void {
  // There as soon as the page is.
  useLayoutEffect(() => {
    const paste = (event: ClipboardEvent): void => {
      if (event.target instanceof Element && event.target.closest('input, textarea, [contenteditable]')) return
      // A sheet is open: it comes first.
      if (document.querySelector('[role=dialog]')) return
      const files = [...(event.clipboardData?.files ?? [])]
      if (files.length > 0) {
        onFiles(files)
        return
      }
      const text = (event.clipboardData?.getData('text/plain') ?? '').trim()
      if (text !== '') onText(text)
    }
    window.addEventListener('paste', paste)
    return () => window.removeEventListener('paste', paste)
  }, [onFiles, onText])
}
