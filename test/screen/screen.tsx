import { QueryClientProvider } from '@tanstack/react-query'
import { cleanup, configure, fireEvent, render, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { readMe } from '#core/people/contract.ts'
import { readProject } from '#core/projects/contract.ts'
import { newClient } from '#ui/shell/answers.tsx'
import { HereContext } from '#ui/shell/here.ts'
import { listenForKeys } from '#ui/kit/keys.ts'
import { Notices } from '#ui/kit/notices.tsx'
import type { Shop } from '#test/app.ts'

// A part of the interface in front of the real server, both in this process. Nothing is drawn; what is decided, said and sent is real.

// What is not found is named, without all of the page.
configure({ getElementError: (message) => new Error((message ?? '').split('\n')[0]) })

interface Network {
  /** Everything asked of the server, as `PUT /projects/SHOP/…`, in its order. */
  readonly sent: string[]
  /** Answers before the server does, when it answers something; a stand-in for a line that is down or slow. */
  between: (asked: string, answer: () => Promise<Response>) => Promise<Response>
}

/** The network from here to the server of the shop, as a person. */
export function network(shop: Shop, person: string): Network {
  const line: Network = { sent: [], between: (_, answer) => answer() }
  window.setTimeout = setTimer
  globalThis.fetch = async (address, init = {}) => {
    const url = new URL(String(address), location.href)
    const path = `${url.pathname.replace('/api/v1', '')}${url.search}`
    const method = init.method ?? 'GET'
    const answer = async (): Promise<Response> => {
      const body = init.body instanceof Blob ? new Uint8Array(await init.body.arrayBuffer()) : init.body
      const headers = Object.fromEntries(new Headers(init.headers))
      const said = typeof body === 'string' ? new TextEncoder().encode(body) : (body ?? undefined)
      const told = await shop.ask(method, path, said, { ...headers, 'x-test-person': person })
      const text = typeof told.body === 'string' ? told.body : JSON.stringify(told.body)
      return new Response(text, { status: told.status, headers: told.headers })
    }
    line.sent.push(`${method} ${path}`)
    return line.between(`${method} ${path}`, answer)
  }
  return line
}

/** The line is down: nothing is reached until `between` is set again. */
export const lineDown = async (): Promise<Response> => {
  throw new TypeError('fetch failed')
}

export interface Screen extends ReturnType<typeof render> {
  readonly user: ReturnType<typeof userEvent.setup>
  readonly line: Network
  /** Shows something else in the same place, as a newer answer would. */
  readonly show: (next: ReactNode) => void
}

/** A whole page, or a part of one. */
export type Shown = Omit<Screen, 'show'>

/** Shows a part of the interface to a person of the shop. */
export async function screenOf(shop: Shop, person: string, part: ReactNode): Promise<Screen> {
  const as = shop.as(person)
  const [me, project] = [await as.ask(readMe), await as.ask(readProject)]
  const line = network(shop, person)
  const client = newClient()
  const whole = (inside: ReactNode) => (
    <QueryClientProvider client={client}>
      <HereContext value={{ me, project, key: project.key, streaming: true }}>
        {inside}
        <Notices />
      </HereContext>
    </QueryClientProvider>
  )
  const shown = render(whole(part))
  const unlisten = listenForKeys()
  leaveWith(() => {
    unlisten()
    cleanup()
    client.clear()
  })
  return { ...shown, user: userEvent.setup(), line, show: (next) => shown.rerender(whole(next)) }
}

/** Ticks rows of a list, each by a word that stands in it. */
export async function tickRows(screen: Shown, ...words: string[]): Promise<void> {
  for (const each of words) {
    const row = (await screen.findByText(each, undefined, { timeout: 20_000 })).closest<HTMLElement>('[role=row]')
    if (!row) throw new Error(`${each} has no row`)
    fireEvent.click(within(row).getByRole('checkbox'))
  }
}

let leave: () => void = () => undefined
/** What is to be done when the screen is closed. */
export const leaveWith = (work: () => void): void => {
  leave = work
}

const setTimer = window.setTimeout

function closeShown(): void {
  leave()
  leaveWith(() => undefined)
}

/** Closes what is shown as a browser does: it tries nothing again later. What is kept in the browser stays. */
export function closeTab(): void {
  closeShown()
  window.setTimeout = (() => 0) as unknown as typeof setTimer
}

/** Closes what is shown; each test begins with an empty page and nothing kept in the browser. */
export function closeScreen(address = '/p/SHOP'): void {
  for (const button of document.querySelectorAll('[aria-label="Close notice"]')) fireEvent.click(button)
  closeShown()
  window.setTimeout = setTimer
  localStorage.clear()
  sessionStorage.clear()
  history.replaceState(null, '', address)
}
