import { useLayoutEffect, useRef } from 'react'
import type { SmallPicture } from '../../workers/process-views.ts'

interface Props {
  readonly picture: SmallPicture | undefined
  /** How large it is shown at most, CSS px. */
  readonly wide: number | '100%'
  readonly high: number
}

/** A picture that was worked out, in small; its place is kept free until it is there. */
export function SmallCanvas({ picture, wide, high }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useLayoutEffect(() => {
    if (!picture) return
    const { rgba, widthPx, heightPx } = picture
    canvas.current?.getContext('2d')?.putImageData(new ImageData(rgba as Uint8ClampedArray<ArrayBuffer>, widthPx, heightPx), 0, 0)
  }, [picture])
  return (
    <span style={{ flex: 'none', width: wide, height: high, display: 'grid', placeItems: 'center' }} aria-hidden>
      {picture && (
        <canvas
          ref={canvas}
          width={picture.widthPx}
          height={picture.heightPx}
          style={{ maxWidth: '100%', maxHeight: '100%', display: 'block' }}
        />
      )}
    </span>
  )
}
