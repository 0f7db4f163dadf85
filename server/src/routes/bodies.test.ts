import { createServer, request, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import express from 'express'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { fileBody } from './bodies.ts'

/** Files that are taken are held until they are let go. */
let letGo: (() => void)[] = []
let reached = 0
/** Requests whose head is here, and connections that are not there any more. */
let came = 0
let gone = 0
let server: Server

beforeEach(async () => {
  letGo = []
  reached = 0
  came = 0
  gone = 0
  const app = express()
  app.use((_request, response, next) => {
    came++
    response.once('close', () => {
      gone++
    })
    next()
  })
  app.post('/', ...fileBody(10), (_request, response) => {
    reached++
    letGo.push(() => response.status(201).end())
  })
  server = createServer(app)
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
})
afterEach(async () => {
  for (const go of letGo) go()
  server.closeAllConnections()
  await new Promise((resolve) => server.close(resolve))
})

const until = async (met: () => boolean): Promise<void> => {
  for (let tries = 0; !met(); tries++) {
    if (tries > 300) throw new Error('It did not come to that.')
    await new Promise((resolve) => setTimeout(resolve, 10))
  }
}

/** Sends a file; answers with the status, or 0 where the connection ended without one. */
function send(bytes = 1000): { readonly answer: Promise<number>; giveUp(): void } {
  const sent = request({ port: (server.address() as AddressInfo).port, method: 'POST', agent: false })
  const answer = new Promise<number>((resolve) => {
    sent.once('response', (response) => resolve(response.resume().statusCode ?? 0))
    sent.once('error', () => resolve(0))
  })
  sent.end(Buffer.alloc(bytes, 1))
  return { answer, giveUp: () => sent.destroy() }
}

describe('files that come in', () => {
  it('wait for each other, and all arrive', async () => {
    const files = Array.from({ length: 9 }, () => send())
    await until(() => reached === 4)
    await new Promise((resolve) => setTimeout(resolve, 100))
    expect(reached).toBe(4)
    for (let done = 0; done < 9; done++) {
      await until(() => letGo.length > 0)
      letGo.shift()!()
    }
    expect(await Promise.all(files.map(({ answer }) => answer))).toEqual(Array(9).fill(201))
  })

  it('take no room for ever that were given up while they waited', async () => {
    for (let round = 0; round < 3; round++) {
      const [before, ended] = [came, gone]
      const first = Array.from({ length: 4 }, () => send())
      await until(() => letGo.length === 4)
      const impatient = Array.from({ length: 3 }, () => send())
      await until(() => came === before + 7)
      for (const { giveUp } of impatient) giveUp()
      await Promise.all(impatient.map(({ answer }) => answer))
      await until(() => gone === ended + 3)
      for (const go of letGo.splice(0)) go()
      expect(await Promise.all(first.map(({ answer }) => answer))).toEqual(Array(4).fill(201))
    }
    const after = send()
    await until(() => letGo.length === 1)
    letGo.shift()!()
    expect(await after.answer).toBe(201)
  })
})
