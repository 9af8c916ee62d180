import { type ReactNode, Suspense, useSyncExternalStore } from 'react'

const never = () => () => undefined

/**
 * A part whose program is large and loaded for it alone. The server sends the words in its place: what it would send for the part
 * is a script inside the page, and none may run there.
 */
export function Drawn({ meanwhile, children }: { meanwhile: ReactNode; children: ReactNode }) {
  const inBrowser = useSyncExternalStore(
    never,
    () => true,
    () => false,
  )
  return inBrowser ? <Suspense fallback={meanwhile}>{children}</Suspense> : meanwhile
}
