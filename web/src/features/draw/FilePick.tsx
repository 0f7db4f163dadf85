import type { RefObject } from 'react'

interface Props {
  /** Clicked to ask for a file. */
  readonly at: RefObject<HTMLInputElement | null>
  readonly accept: string
  /** By the camera on the back of the device, where it has one. */
  readonly capture?: boolean
  readonly testId: string
  readonly onFile: (file: File) => void
}

/** A file that is asked for: the same one can be chosen again. */
export function FilePick({ at, accept, capture, testId, onFile }: Props) {
  return (
    <input
      ref={at}
      type="file"
      hidden
      accept={accept}
      {...(capture && { capture: 'environment' as const })}
      data-testid={testId}
      onChange={(event) => {
        const [file] = event.target.files ?? []
        event.target.value = ''
        if (file) onFile(file)
      }}
    />
  )
}
