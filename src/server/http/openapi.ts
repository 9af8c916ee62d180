import { z } from 'zod'
import { type Contract, leastRole } from '#core/lib/contract.ts'
import { errorTable } from './errors.ts'
import { version } from './version.ts'

/** The description of the API, made from the schemas that check the requests. */
export function openapi(contracts: readonly Contract[]): { openapi: string } & Readonly<Record<string, unknown>> {
  const paths: Record<string, Record<string, object>> = {}
  for (const contract of contracts) {
    const path = contract.path.replace(/:(\w+)/g, '{$1}')
    paths[path] = { ...paths[path], [contract.method.toLowerCase()]: operation(contract) }
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Rovant', version },
    servers: [{ url: '/api/v1' }],
    paths,
    components: {
      securitySchemes: {
        cookie: { type: 'apiKey', in: 'cookie', name: 'rovant.session_token' },
        token: { type: 'http', scheme: 'bearer' },
      },
      schemas: {
        Problem: {
          type: 'object',
          required: ['type', 'title', 'status', 'detail'],
          properties: {
            type: { enum: Object.keys(errorTable).map((code) => `urn:rovant:${code}`) },
            title: { type: 'string' },
            status: { type: 'integer' },
            detail: { type: 'string' },
            field: {
              type: 'array',
              items: { type: 'object', properties: { field: { type: 'string' }, message: { type: 'string' } } },
            },
            current: {},
          },
        },
      },
    },
  }
}

const writeHeaders = [
  { name: 'Idempotency-Key', in: 'header', schema: { type: 'string' } },
  {
    name: 'Rovant-Job',
    in: 'header',
    description: 'What a long act is called, to ask how far it is and to stop it at /projects/{key}/going/{job}',
    schema: { type: 'string' },
  },
]

function operation(contract: Contract): object {
  const writes = contract.method !== 'GET'
  return {
    operationId: contract.name,
    summary: contract.summary,
    tags: [contract.path.split('/')[3] ?? contract.path.split('/')[1] ?? ''],
    'x-permission': contract.permission,
    'x-least-role': leastRole(contract),
    security: contract.permission === 'open' ? [] : [{ cookie: [] }, { token: [] }],
    parameters: [
      ...parameters(contract.params, 'path'),
      ...parameters(contract.query, 'query'),
      ...(writes ? writeHeaders : []),
      ...(contract.versioned ? [{ name: 'If-Match', in: 'header', required: true, schema: { type: 'integer' } }] : []),
    ],
    ...(writes && {
      requestBody: {
        content: contract.raw
          ? { 'application/octet-stream': {} }
          : { 'application/json': { schema: schemaOf(contract.body, 'input') } },
      },
    }),
    responses: {
      200: {
        description: 'Done',
        content: contract.raw ? { '*/*': {} } : { 'application/json': { schema: schemaOf(contract.output, 'output') } },
      },
      default: {
        description: 'Refused',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  }
}

const schemaOf = (schema: z.ZodType, io: 'input' | 'output') =>
  z.toJSONSchema(schema, { io, unrepresentable: 'any', reused: 'inline', cycles: 'ref' })

function parameters(schema: z.ZodType, place: 'path' | 'query'): object[] {
  const { properties, required } = z
    .object({ properties: z.record(z.string(), z.unknown()).default({}), required: z.array(z.string()).default([]) })
    .parse({ ...schemaOf(schema, 'input') })
  return Object.entries(properties).map(([name, own]) => ({
    name,
    in: place,
    required: place === 'path' || required.includes(name),
    schema: own,
  }))
}
