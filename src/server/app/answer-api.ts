import findMyWay from 'find-my-way'
import { Refusal } from '#core/lib/refusal.ts'
import { answerRoute } from '#server/http/answer.ts'
import type { Incoming } from '#server/http/asked.ts'
import { problemOf } from '#server/http/errors.ts'
import type { Route } from '#server/http/route.ts'
import type { Services } from '#server/http/services.ts'
import { routes } from './routes.ts'

const base = '/api/v1'
const methods = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const

type Found = { readonly route: Route; readonly params: Incoming['params'] }

/** Finds the endpoint of a method and a path below `/api/v1`; `null` when there is none. */
export function routerOf(all: readonly Route[]): (method: string, path: string) => Found | null {
  const router = findMyWay({ maxParamLength: 500, ignoreTrailingSlash: true })
  const byHandler = new Map<unknown, Route>()
  for (const route of all) {
    const handler = () => undefined
    byHandler.set(handler, route)
    router.on(route.contract.method, route.contract.path, handler)
  }
  return (method, path) => {
    const wanted = methods.find((each) => each === (method === 'HEAD' ? 'GET' : method))
    const found = wanted && router.find(wanted, path)
    const route = found && byHandler.get(found.handler)
    return found && route ? { route, params: found.params } : null
  }
}

const find = routerOf(routes)

/** Answers anything asked below `/api`: by the endpoint of its method and path, or by a problem that says there is none. */
export async function answerApi(services: Services, asked: Omit<Incoming, 'params'>): Promise<Response> {
  const { method } = asked.request
  const path = asked.url.pathname.startsWith(`${base}/`) ? asked.url.pathname.slice(base.length) : null
  const found = path === null ? null : find(method, path)
  if (found) return answerRoute(services, found.route, { ...asked, params: found.params })
  const known = path === null ? [] : methods.filter((each) => find(each, path) !== null)
  return problemOf(
    known.length > 0
      ? new Refusal('wrong-method', `${asked.url.pathname} is asked with ${known.join(', ')}, not with ${method}.`)
      : new Refusal(
          'not-found',
          `There is no ${asked.url.pathname} here; ${base}/openapi.json says what can be asked.`,
        ),
    services.logError,
  )
}
