import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addressOf,
  ENDPOINTS,
  type Endpoint,
  jsonSchema,
  misshapen,
  openApi,
  PATHS,
  type PathName,
  wrongAnswer,
} from './index.ts'

const NAMES = Object.keys(PATHS) as PathName[]

describe('addresses', () => {
  it('are each one thing only', () => {
    const all = NAMES.map((name) => `${PATHS[name].method} ${PATHS[name].path}`)
    expect(new Set(all).size).toBe(all.length)
    expect(Object.keys(ENDPOINTS).sort()).toEqual([...NAMES].sort())
  })

  it('have their places filled in, whatever stands there, and what is asked beside them', () => {
    expect(addressOf('job', { id: 'a_b-C' })).toBe('/jobs/a_b-C')
    expect(addressOf('jobs', {}, { search: 'tide & ebb', since: undefined })).toBe('/jobs?search=tide+%26+ebb')
    expect(() => addressOf('certify', { id: 'a' })).toThrow('machine')
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        const address = addressOf('job', { id: text })
        expect(address.split('/')).toHaveLength(3)
        expect(decodeURIComponent(address.slice('/jobs/'.length))).toBe(text)
      }),
    )
  })
})

describe('an answer', () => {
  it('that does not hold what it should is told by what is missing', () => {
    expect(misshapen('jobs', { jobs: [] })).toBeUndefined()
    expect(misshapen('jobs', [])).toContain('“jobs”')
    expect(misshapen('jobs', { jobs: {} })).toContain('“jobs”')
    expect(misshapen('jobs', null)).toContain('nothing')
    expect(misshapen('job', { id: 'x', revision: '3', document: {}, edits: [] })).toContain('“revision”')
    expect(misshapen('job', { id: 'x', revision: 3, document: [], edits: [] })).toContain('“document”')
    expect(misshapen('stopMachine', undefined)).toBeUndefined()
  })

  it('holds what the page looks for, by the schema that the server keeps', () => {
    for (const name of NAMES) {
      const { holds } = PATHS[name]
      const { answer }: Endpoint = ENDPOINTS[name]
      if (!holds) continue
      const told = JSON.stringify(jsonSchema(answer!))
      for (const key of Object.keys(holds)) expect(told, `${name}: ${key}`).toContain(`"${key}"`)
    }
  })

  it('is checked whole where tests look', () => {
    expect(wrongAnswer('startRun', { id: 'r1' })).toBeUndefined()
    expect(wrongAnswer('startRun', { id: 'no such name!' })).toContain('id')
    expect(wrongAnswer('startRun', {})).toContain('required')
  })
})

describe('the description', () => {
  const told = openApi() as {
    openapi: string
    paths: Record<
      string,
      Record<
        string,
        {
          operationId: string
          parameters?: { name: string; in: string; required: boolean }[]
          requestBody?: object
          responses: object
        }
      >
    >
  }

  it('names every address once, with its places, and says what is sent and answered', () => {
    const operations = Object.values(told.paths).flatMap((path) => Object.values(path))
    expect(operations.map(({ operationId }) => operationId).sort()).toEqual([...NAMES].sort())
    for (const [path, methods] of Object.entries(told.paths))
      for (const { parameters = [], responses } of Object.values(methods)) {
        const places = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name)
        expect(parameters.filter((one) => one.in === 'path').map(({ name }) => name)).toEqual(places)
        expect(Object.keys(responses)).toHaveLength(2)
      }
    expect(told.paths['/jobs/{id}/edits'].get.parameters).toContainEqual(
      expect.objectContaining({ name: 'since', in: 'query', required: true }),
    )
    expect(told.paths['/assets'].post.requestBody).toMatchObject({ content: { 'application/octet-stream': {} } })
  })

  it('is plain JSON', () => {
    expect(JSON.parse(JSON.stringify(told))).toEqual(told)
    expect(JSON.stringify(told)).not.toContain('undefined')
  })
})
