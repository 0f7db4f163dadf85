import { lazy, Suspense } from 'react'
import { useSelector } from '../../store/hooks.ts'

const SignIn = lazy(() => import('./SignIn.tsx'))

/** Where operators sign in and nobody has, that comes first: it lies over whatever screen is open. */
export function SignInFirst() {
  const isOut = useSelector(({ session }) => session.signsIn && session.person === null)
  return isOut ? (
    <Suspense fallback={null}>
      <SignIn />
    </Suspense>
  ) : null
}
