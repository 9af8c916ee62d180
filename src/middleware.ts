import { defineMiddleware } from 'astro:middleware'
import { ownOrigin, refusedOrigin } from '#server/app/own-origin.ts'
import { pageAsker, wantsFactorFirst } from '#server/app/page-person.ts'
import { withPolicy } from '#server/app/page-policy.ts'

const reading = ['GET', 'HEAD', 'OPTIONS']
/** Pages for whoever cannot be signed in yet. */
const withoutSignIn = ['/sign-in', '/set-up', '/password', '/forgotten', '/sso/begin', '/sso/back']

/** Every request: writing only from our own origin, pages only for people signed in, a strict content policy on all. */
export const onRequest = defineMiddleware(async (context, next) => {
  const { request, url } = context
  if (!reading.includes(request.method) && !ownOrigin(request, url)) return refusedOrigin()
  if (url.pathname.startsWith('/api/') || url.pathname === '/healthz') return next()
  const asker = await pageAsker(request)
  if (!asker && !withoutSignIn.includes(url.pathname))
    return context.redirect(`/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`)
  if (asker && wantsFactorFirst(asker, url)) return context.redirect('/me')
  context.locals.asker = asker
  return withPolicy(await next())
})
