import { Box } from '@mui/material'
import { useEffect, useState } from 'react'
import { EDGE } from '../../theme/tokens.ts'
import type { DrawnFile } from '../../workers/shared.ts'

/** What the numbers make, as large as there is room; strokes as thin as a screen shows them. */
export function DrawnPicture({ file }: { readonly file: DrawnFile | undefined }) {
  const [address, setAddress] = useState<string>()
  useEffect(() => {
    if (!file) return setAddress(undefined)
    const { x0, y0, x1, y1 } = file.box
    const margin = Math.max(x1 - x0, y1 - y0) * 0.03
    const [w, h] = [x1 - x0 + 2 * margin, y1 - y0 + 2 * margin]
    const svg = file.svg
      .replace(
        'width="100mm" height="100mm" viewBox="0 0 100 100"',
        `width="${w}mm" height="${h}mm" viewBox="${x0 - margin} ${y0 - margin} ${w} ${h}"`,
      )
      .replace('stroke-width="0.1"', `stroke-width="${Math.max(w, h) / 400}"`)
    const made = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }))
    setAddress(made)
    return () => URL.revokeObjectURL(made)
  }, [file])
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 300,
        bgcolor: 'shop.sheet',
        border: 1,
        borderColor: 'divider',
        borderRadius: `${EDGE.card}px`,
        position: 'relative',
      }}
    >
      {address && (
        <img
          src={address}
          alt="What is drawn"
          data-testid="draw-picture"
          style={{
            position: 'absolute',
            inset: 12,
            width: 'calc(100% - 24px)',
            height: 'calc(100% - 24px)',
            objectFit: 'contain',
          }}
        />
      )}
    </Box>
  )
}
