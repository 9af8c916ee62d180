import type { APIRoute } from 'astro'
import { services } from '#server/app/services.ts'
import { healthOf } from '#server/installation/read-health.ts'

export const GET: APIRoute = () => {
  const health = healthOf(services().data)
  return Response.json(health, { status: health.ok ? 200 : 503 })
}
