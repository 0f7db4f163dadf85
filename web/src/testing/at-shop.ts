// Around the tests of one page of the shop: a server that answers what the test says, and a browser without memory.
import { MACHINES, MATERIALS } from '@neotaxis/core'
import { cleanup } from '@testing-library/react'
import { afterEach, beforeEach, vi } from 'vitest'
import { sessionTold } from '../store/session-slice.ts'
import { store } from '../store/store.ts'
import { operatorNamed } from '../store/view-slice.ts'
import { type Asked, fakeServer, fillBrowser, forgetShop } from './fake-server.tsx'

const catalogue = { 'GET /materials': { materials: MATERIALS }, 'GET /machines': { machines: MACHINES } }

/** @returns `serve`: a server with the catalogue, and what the test adds · `sent`: what it was told */
export function atShop() {
  let asked: Asked[] = []
  beforeEach(() => {
    fillBrowser()
    forgetShop()
    store.dispatch(sessionTold({ signsIn: false, person: null, names: [], isNew: false }))
    store.dispatch(operatorNamed(''))
  })
  afterEach(() => {
    cleanup()
    vi.unstubAllGlobals()
    vi.useRealTimers()
  })
  return {
    serve(answers: Parameters<typeof fakeServer>[0]): void {
      asked = fakeServer({ ...catalogue, ...answers })
    },
    sent: () => asked.filter(({ method }) => method !== 'GET'),
  }
}
