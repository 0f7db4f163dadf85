import PhotoIcon from '@mui/icons-material/PhotoCameraOutlined'
import { IconButton, type SxProps, type Theme, Tooltip, useMediaQuery } from '@mui/material'
import { useRef } from 'react'
import { FilePick } from '../draw/FilePick.tsx'

/** On a touch screen: a photo by the camera of the phone or tablet, as a file that is dropped. */
export function TakePhoto({ onFiles, sx }: { readonly onFiles: (files: readonly File[]) => void; readonly sx?: SxProps<Theme> }) {
  const isTouch = useMediaQuery('(pointer: coarse)')
  const input = useRef<HTMLInputElement>(null)
  if (!isTouch) return null
  return (
    <>
      <Tooltip title="Take a photo of a drawing, a note, a sample">
        <IconButton onClick={() => input.current?.click()} aria-label="Take a photo" data-testid="take-photo" {...(sx && { sx })}>
          <PhotoIcon fontSize="small" />
        </IconButton>
      </Tooltip>
      <FilePick at={input} accept="image/*" capture testId="photo-file" onFile={(file) => onFiles([file])} />
    </>
  )
}
