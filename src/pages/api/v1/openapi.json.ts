import type { APIRoute } from 'astro'
import { openapi } from '#server/http/openapi.ts'

export const GET: APIRoute = () => Response.json(openapi())
