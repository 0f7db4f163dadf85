import { Button } from '@mui/material'
import { closeSnackbar, type SnackbarKey } from 'notistack'

/** What a message offers: one press does it, and the message goes. Under a resting pointer it would stay for good. */
export const offered = (label: string, act: () => void, testId?: string) => (key: SnackbarKey) => (
  <Button
    color="inherit"
    data-testid={testId}
    onClick={() => {
      closeSnackbar(key)
      act()
    }}
  >
    {label}
  </Button>
)
