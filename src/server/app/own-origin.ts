/** The origin people find this installation at: as it was started with, else what the browser says it asks. */
const ownHost = (request: Request, url: URL): string => {
  const base = process.env['ROVANT_BASE_ADDRESS']
  return base === undefined ? (request.headers.get('host') ?? url.host) : new URL(base).host
}

/** Whether a writing request comes from a page of ours, or from a program that no browser steers. */
export function ownOrigin(request: Request, url: URL): boolean {
  const origin = request.headers.get('origin')
  // Programs with a token send no origin; a browser always does when it writes.
  if (origin === null) return request.headers.has('authorization') || request.headers.get('sec-fetch-site') === null
  return URL.canParse(origin) && new URL(origin).host === ownHost(request, url)
}

export const refusedOrigin = (): Response =>
  Response.json(
    {
      type: 'urn:rovant:not-allowed',
      title: 'Not allowed',
      status: 403,
      detail: 'This request came from another site; nothing was done.',
    },
    { status: 403 },
  )
