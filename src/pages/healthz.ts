import type { APIRoute } from 'astro'
import { version } from '#server/http/version.ts'

export const GET: APIRoute = () => Response.json({ ok: true, version })
