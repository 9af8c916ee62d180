import { useSyncExternalStore } from 'react'

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

const here = (): string => `${location.pathname}${location.search}`

export interface Address {
  readonly path: string
  readonly params: URLSearchParams
}

/** The address of this page; it alone restores the view. */
export function useAddress(): Address {
  const full = useSyncExternalStore(subscribe, here, () => `${served.path}${served.search}`)
  const [path = '/', search = ''] = full.split('?', 2)
  return { path, params: new URLSearchParams(search) }
}

export type ParamChanges = Readonly<Record<string, string | null>>

/** The address with some of its parameters changed; `null` takes one out. */
export function withParams(params: URLSearchParams, changes: ParamChanges): string {
  const next = new URLSearchParams(params)
  for (const [name, value] of Object.entries(changes)) {
    if (value === null || value === '') next.delete(name)
    else next.set(name, value)
  }
  return next.size > 0 ? `?${next}` : ''
}

/** Goes to another address on this page; Back leads to the one before unless `replace` says otherwise. */
export function go(to: { readonly path?: string; readonly params?: ParamChanges }, replace = false): void {
  const address = `${to.path ?? location.pathname}${withParams(new URLSearchParams(location.search), to.params ?? {})}`
  if (address === here()) return
  if (replace) history.replaceState(null, '', address)
  else history.pushState(null, '', address)
  for (const hear of hearers) hear()
}

const scopeNames = ['release', 'iteration', 'build', 'environment', 'asOf'] as const

/** The scope an address names, as the API asks for it. */
export function scopeIn(params: URLSearchParams): { release?: string; iteration?: string; build?: string; environment?: string; asOf?: number } {
  const named = Object.fromEntries(scopeNames.flatMap((name) => (params.has(name) ? [[name, params.get(name) ?? '']] : [])))
  const { asOf, ...rest } = named
  return asOf === undefined ? rest : { ...rest, asOf: Number(asOf) }
}

/** Only the scope's part of an address, to carry it to another page. */
export function scopeSearch(params: URLSearchParams): string {
  const kept = new URLSearchParams(scopeNames.flatMap((name): [string, string][] => (params.has(name) ? [[name, params.get(name) ?? '']] : [])))
  return kept.size > 0 ? `?${kept}` : ''
}
