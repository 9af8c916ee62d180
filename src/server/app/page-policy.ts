const header = 'content-security-policy'

const rest = [
  "default-src 'self'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' data: blob:",
  "worker-src 'self' blob:",
  "object-src 'none'",
  "base-uri 'none'",
  "frame-ancestors 'none'",
  "form-action 'self'",
]

/**
 * The content policy of a page. Which scripts may run inside it the framework says, which knows its own few by their hashes; nothing
 * of what the page shows is looked at for that, so that nothing in it can pass for one of them.
 */
export function withPolicy(response: Response): Response {
  if (!(response.headers.get('content-type') ?? '').startsWith('text/html')) return response
  const said = response.headers.get(header) ?? ''
  const scripts = /script-src [^;]*/.exec(said)?.[0] ?? "script-src 'self'"
  response.headers.set(header, [...rest, scripts].join('; '))
  return response
}
