import { useMemo, useSyncExternalStore } from 'react'

/** What the page was asked for on the server: the same text until the browser takes over. */
let served = { path: '/', search: '' }
const hearers = new Set<() => void>()

export const serveAddress = (path: string, search: string): void => {
  served = { path, search }
}

function subscribe(hear: () => void): () => void {
  hearers.add(hear)
  window.addEventListener('popstate', hear)
  return () => {
    hearers.delete(hear)
    window.removeEventListener('popstate', hear)
  }
}

/** An address that is shown by the page and not yet by the browser: telling it takes longer than drawing a letter, so it comes after. */
let ahead: string | null = null
const here = (): string => ahead ?? `${location.pathname}${location.search}`
const parts = (address: string): readonly [path: string, search: string] => {
  const at = address.indexOf('?')
  return at < 0 ? [address, ''] : [address.slice(0, at), address.slice(at)]
}
function tellBrowser(): void {
  if (ahead !== null) history.replaceState(null, '', ahead)
  ahead = null
}
if (typeof window !== 'undefined') {
  window.addEventListener('pagehide', tellBrowser)
  // Back has left the place that was to be written.
  window.addEventListener('popstate', () => {
    ahead = null
  })
}

export interface Address {
  readonly path: string
  readonly params: URLSearchParams
}

/** The address of this page; it alone restores the view. */
export function useAddress(): Address {
  const full = useSyncExternalStore(subscribe, here, () => `${served.path}${served.search}`)
  const [path, search] = parts(full)
  return { path, params: new URLSearchParams(search) }
}

/** Some of the address's parameters: who reads only these is not drawn again when others change, as they do with every letter of a filter. */
export function useParams(...names: readonly string[]): URLSearchParams {
  const text = useSyncExternalStore(
    subscribe,
    () => only(parts(here())[1], names),
    () => only(served.search, names),
  )
  return useMemo(() => new URLSearchParams(text), [text])
}

/** The path of this page without its parameters. */
export const usePath = (): string =>
  useSyncExternalStore(
    subscribe,
    () => parts(here())[0],
    () => served.path,
  )

function only(search: string, names: readonly string[]): string {
  const all = new URLSearchParams(search)
  return new URLSearchParams(
    names.flatMap((name): [string, string][] => (all.has(name) ? [[name, all.get(name) ?? '']] : [])),
  ).toString()
}

export type ParamChanges = Readonly<Record<string, string | null>>

/** The address with some of its parameters changed; `null` takes one out. */
function withParams(params: URLSearchParams, changes: ParamChanges): string {
  const next = new URLSearchParams(params)
  for (const [name, value] of Object.entries(changes)) {
    if (value === null || value === '') next.delete(name)
    else next.set(name, value)
  }
  return next.size > 0 ? `?${next}` : ''
}

/** Goes to another address on this page; Back leads to the one before unless `replace` says otherwise. */
export function go(to: { readonly path?: string; readonly params?: ParamChanges }, replace = false): void {
  const [path, search] = parts(here())
  const address = `${to.path ?? path}${withParams(new URLSearchParams(search), to.params ?? {})}`
  if (address === here()) return
  if (replace) {
    ahead = address
    setTimeout(tellBrowser)
  } else {
    tellBrowser()
    history.pushState(null, '', address)
  }
  for (const hear of hearers) hear()
}

export const scopeNames = ['release', 'iteration', 'build', 'environment', 'asOf'] as const

/** The scope an address names, as the API asks for it. */
export function scopeIn(params: URLSearchParams): {
  release?: string
  iteration?: string
  build?: string
  environment?: string
  asOf?: number
} {
  const named = Object.fromEntries(
    scopeNames.flatMap((name) => (params.has(name) ? [[name, params.get(name) ?? '']] : [])),
  )
  const { asOf, ...rest } = named
  return asOf === undefined ? rest : { ...rest, asOf: Number(asOf) }
}

/** Only the scope's part of an address, to carry it to another page. */
export function scopeSearch(params: URLSearchParams): string {
  const kept = new URLSearchParams(
    scopeNames.flatMap((name): [string, string][] => (params.has(name) ? [[name, params.get(name) ?? '']] : [])),
  )
  return kept.size > 0 ? `?${kept}` : ''
}
