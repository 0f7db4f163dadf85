import useMediaQuery from '@mui/material/useMediaQuery'
import { type TypedUseSelectorHook, useDispatch as useReduxDispatch, useSelector as useReduxSelector } from 'react-redux'
import type { AppDispatch, AppState } from './store.ts'

export const useDispatch: () => AppDispatch = useReduxDispatch
export const useSelector: TypedUseSelectorHook<AppState> = useReduxSelector

/** The theme in force: the one chosen, or the system's. */
export function useTheme(): 'light' | 'dark' {
  const chosen = useSelector((state) => state.view.theme)
  const dark = useMediaQuery('(prefers-color-scheme: dark)')
  return chosen === 'system' ? (dark ? 'dark' : 'light') : chosen
}
