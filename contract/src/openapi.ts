import type Joi from 'joi'
import { ENDPOINTS, type Endpoint } from './endpoints.ts'
import { PATHS, type PathName } from './paths.ts'
import { refusalSchema } from './refusal.ts'
import { id, sha256 } from './words.ts'

type Json = { readonly [key: string]: unknown }

/** A schema of Joi as JSON Schema (2020-12). */
export function jsonSchema(schema: Joi.Schema): Json {
  const { jsonSchema: as } = schema['~standard'] as unknown as { jsonSchema: { input(options: { target: string }): Json } }
  return as.input({ target: 'draft-2020-12' })
}

const json = (schema: Joi.Schema): Json => ({ 'application/json': { schema: jsonSchema(schema) } })
const FILE = { 'application/octet-stream': { schema: { type: 'string', format: 'binary' } } }

function goodAnswer({ status, answer, file, summary }: Endpoint): Json {
  if (file)
    return { [status ?? 200]: { description: summary, content: { [file]: { schema: { type: 'string', format: 'binary' } } } } }
  if (answer) return { [status ?? 200]: { description: summary, content: json(answer) } }
  return { [status ?? 204]: { description: 'Done' } }
}

function operation(name: PathName): Json {
  const { path, bytes } = PATHS[name]
  const endpoint: Endpoint = ENDPOINTS[name]
  const inPath = [...path.matchAll(/:(\w+)/g)].map(([, key]) => ({
    name: key,
    in: 'path',
    required: true,
    schema: jsonSchema(key === 'sha256' ? sha256 : id),
  }))
  const asked = endpoint.query ? (jsonSchema(endpoint.query) as { properties?: Record<string, Json>; required?: string[] }) : {}
  const inQuery = Object.entries(asked.properties ?? {}).map(([key, schema]) => ({
    name: key,
    in: 'query',
    required: asked.required?.includes(key) ?? false,
    schema,
  }))
  const parameters = [...inPath, ...inQuery]
  const content = bytes ? FILE : endpoint.body && json(endpoint.body)
  return {
    operationId: name,
    summary: endpoint.summary,
    tags: [path.split('/')[1].replace('.json', '')],
    ...(parameters.length > 0 && { parameters }),
    ...(content && { requestBody: { required: true, content } }),
    responses: { ...goodAnswer(endpoint), default: { $ref: '#/components/responses/Refusal' } },
  }
}

/** The whole interface as OpenAPI 3.1, made from what server and page use. */
export function openApi(): Json {
  const paths: Record<string, Record<string, Json>> = {}
  for (const name of Object.keys(PATHS) as PathName[]) {
    const { method, path } = PATHS[name]
    const key = path.replace(/:(\w+)/g, '{$1}')
    paths[key] = { ...paths[key], [method.toLowerCase()]: operation(name) }
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Neotaxis',
      version: '1',
      description: 'Requests that change something are JSON, or the bytes of a file. A refusal says why, in one sentence.',
    },
    servers: [{ url: '/api' }],
    paths,
    components: { responses: { Refusal: { description: 'It cannot be done', content: json(refusalSchema) } } },
  }
}
