import { defineMiddleware } from 'astro:middleware'
import { ownOrigin, refusedOrigin } from '#server/app/own-origin.ts'
import { personAsking } from '#server/app/page-person.ts'
import { withPolicy } from '#server/app/page-policy.ts'

const reading = ['GET', 'HEAD', 'OPTIONS']

/** Every request: writing only from our own origin, pages only for people signed in, a strict content policy on all. */
export const onRequest = defineMiddleware(async (context, next) => {
  const { request, url } = context
  if (!reading.includes(request.method) && !ownOrigin(request, url)) return refusedOrigin()
  if (url.pathname.startsWith('/api/') || url.pathname === '/healthz') return next()
  const person = await personAsking(request.headers)
  if (!person && !['/sign-in', '/set-up'].includes(url.pathname))
    return context.redirect(`/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`)
  context.locals.person = person
  return withPolicy(await next())
})
