import { CssBaseline, LinearProgress, ThemeProvider } from '@mui/material'
import { SnackbarProvider, useSnackbar } from 'notistack'
import { lazy, type ReactElement, Suspense, useEffect, useMemo } from 'react'
import { Provider } from 'react-redux'
import { createBrowserRouter, Navigate, Outlet, RouterProvider } from 'react-router'
import { useLiveQuery } from './api/shop.ts'
import { Guide } from './features/guide/Guide.tsx'
import { Help } from './features/help/Help.tsx'
import { StopAnywhere } from './features/live/StopAnywhere.tsx'
import { SignInFirst } from './features/people/SignInFirst.tsx'
import { TroubleBoundary } from './features/trouble/TroubleBoundary.tsx'
import { BoardPage } from './routes/BoardPage.tsx'
import { useSelector, useTheme } from './store/hooks.ts'
import { askWhoIsIn } from './store/session.ts'
import { store } from './store/store.ts'
import { makeTheme } from './theme/theme.ts'
import { onWorkerDeath } from './workers/engine.ts'

const ComposePage = lazy(() => import('./routes/ComposePage.tsx'))
const PicturePage = lazy(() => import('./routes/PicturePage.tsx'))
const OutlinePage = lazy(() => import('./routes/OutlinePage.tsx'))
const MeasurePage = lazy(() => import('./routes/MeasurePage.tsx'))
const RunPage = lazy(() => import('./routes/RunPage.tsx'))
const JournalPage = lazy(() => import('./routes/JournalPage.tsx'))
const LibraryPage = lazy(() => import('./routes/LibraryPage.tsx'))
const MaterialsPage = lazy(() => import('./routes/MaterialsPage.tsx'))
const StockPage = lazy(() => import('./routes/StockPage.tsx'))
const MachinesPage = lazy(() => import('./routes/MachinesPage.tsx'))
const PeoplePage = lazy(() => import('./routes/PeoplePage.tsx'))
const waiting = <LinearProgress aria-label="Loading" />

/** A screen that is loaded when it is gone to; what goes wrong in it ends it alone. */
const later = (page: ReactElement, what = 'This screen'): ReactElement => (
  <TroubleBoundary key={what} what={what}>
    <Suspense fallback={waiting}>{page}</Suspense>
  </TroubleBoundary>
)

/** What stands on every screen. */
function Everywhere() {
  const isIn = useSelector((state) => !state.session.signsIn || state.session.person !== null)
  const { enqueueSnackbar } = useSnackbar()
  useEffect(() => void askWhoIsIn(), [])
  useEffect(
    () =>
      onWorkerDeath(() =>
        enqueueSnackbar('Computing stopped by itself, and was started again: nothing is lost.', {
          variant: 'warning',
          key: 'worker',
          preventDuplicate: true,
        }),
      ),
    [enqueueSnackbar],
  )
  // Whoever signs in later begins to listen then.
  useLiveQuery(null, { skip: !isIn })
  return (
    <>
      <Guide />
      <Outlet />
      <StopAnywhere />
      <SignInFirst />
      <Help />
    </>
  )
}

const router = createBrowserRouter([
  {
    element: <Everywhere />,
    children: [
      { path: '/', element: <Navigate to="/jobs" replace /> },
      { path: '/jobs', element: later(<BoardPage />, 'The board') },
      { path: '/jobs/:id/compose', element: later(<ComposePage />, 'Compose') },
      { path: '/jobs/:id/picture/:node?', element: later(<PicturePage />, 'The picture bench') },
      { path: '/jobs/:id/outline/:node?', element: later(<OutlinePage />, 'The outline bench') },
      { path: '/jobs/:id/measure', element: later(<MeasurePage />, 'The measuring bench') },
      { path: '/jobs/:id/run', element: later(<RunPage />, 'The run screen') },
      { path: '/journal', element: later(<JournalPage />, 'The journal') },
      { path: '/library', element: later(<LibraryPage />, 'The library') },
      { path: '/materials', element: later(<MaterialsPage />, 'The materials') },
      { path: '/stock', element: later(<StockPage />, 'The stock') },
      { path: '/machines', element: later(<MachinesPage />, 'The machines') },
      { path: '/people', element: later(<PeoplePage />, 'The list of people') },
      { path: '*', element: <Navigate to="/jobs" replace /> },
    ],
  },
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
