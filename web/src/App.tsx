import { CssBaseline, LinearProgress, ThemeProvider } from '@mui/material'
import { SnackbarProvider } from 'notistack'
import { lazy, Suspense, useEffect, useMemo } from 'react'
import { Provider } from 'react-redux'
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router'
import { BoardPage } from './routes/BoardPage.tsx'
import { useSelector, useTheme } from './store/hooks.ts'
import { store } from './store/store.ts'
import { makeTheme } from './theme/theme.ts'

const ComposePage = lazy(() => import('./routes/ComposePage.tsx'))
const waiting = <LinearProgress aria-label="Loading" />

const router = createBrowserRouter([
  { path: '/', element: <Navigate to="/jobs" replace /> },
  { path: '/jobs', element: <BoardPage /> },
  {
    path: '/jobs/:id/compose',
    element: (
      <Suspense fallback={waiting}>
        <ComposePage />
      </Suspense>
    ),
  },
  { path: '*', element: <Navigate to="/jobs" replace /> },
])

function Themed() {
  const mode = useTheme()
  const contrast = useSelector((state) => state.view.theme)
  const theme = useMemo(() => makeTheme(mode), [mode])
  useEffect(() => {
    document.documentElement.style.colorScheme = mode
    document.documentElement.dataset.theme = contrast
  }, [mode, contrast])
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <SnackbarProvider maxSnack={3} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
        <RouterProvider router={router} />
      </SnackbarProvider>
    </ThemeProvider>
  )
}

export function App() {
  return (
    <Provider store={store}>
      <Themed />
    </Provider>
  )
}
