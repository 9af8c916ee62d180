import type { APIRoute } from 'astro'
import { readHealth } from '#server/installation/read-health.ts'

export const GET: APIRoute = () => Response.json(readHealth())
