import { Refusal } from '#core/lib/refusal.ts'
import { storingFor } from '#server/http/answer.ts'
import { comeBack, leaveForSignOn } from '#server/people/single-sign-on.ts'
import { ownPath } from './own-path.ts'
import { services } from './services.ts'

const cookieName = 'rovant.sign-on'

/** Lax, so that it comes along when the provider leads back; gone after ten minutes. */
const cookieOf = (value: string, seconds: number): string =>
  `${cookieName}=${value}; Path=/sso; HttpOnly; SameSite=Lax; Max-Age=${seconds}${process.env['ROVANT_TLS'] === '1' ? '; Secure' : ''}`

const goTo = (location: string, cookies: readonly string[] = []): Response => {
  const headers = new Headers({ location })
  for (const cookie of cookies) headers.append('set-cookie', cookie)
  return new Response(null, { status: 303, headers })
}

/** Why nobody was signed in, on the page where one begins again. */
function refused(error: unknown): Response {
  if (!(error instanceof Refusal)) throw error
  // Sealed: whoever makes a link could else let this page say what they like.
  return goTo(`/sign-in?refused=${services().seal.close(error.sentence)}`)
}

export async function leaveForProvider(url: URL): Promise<Response> {
  try {
    const { address, pending } = await leaveForSignOn(services(), ownPath(url.searchParams.get('to') ?? '/'))
    return goTo(address, [cookieOf(pending, 600)])
  } catch (error) {
    return refused(error)
  }
}

export async function backFromProvider(request: Request, url: URL, address: string): Promise<Response> {
  const own = services()
  const pending = new RegExp(`(?:^|;\\s*)${cookieName}=([^;]+)`).exec(request.headers.get('cookie') ?? '')?.[1]
  try {
    const door = { services: own, address, request, store: storingFor(own, address) }
    const { to, answer } = await comeBack(door, { search: url.search, pending })
    return goTo(ownPath(to), [...answer.headers.getSetCookie(), cookieOf('', 0)])
  } catch (error) {
    return refused(error)
  }
}
