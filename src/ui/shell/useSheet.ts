import { type Keyed, keyOf, readKey } from '#core/lib/key.ts'
import { go, useParams, usePath } from './address.ts'
import { useHere } from './here.ts'
import { useKeys } from '#ui/kit/keys.ts'

/** Keys go to the list again, once what was closed is gone. */
export const focusList = (): void => {
  requestAnimationFrame(() => document.querySelector<HTMLElement>('[role=grid]')?.focus())
}

/** Which object's sheet is open beside a list, from the address `/p/FERRY/RQ-4`; Esc closes, Shift+Enter widens. */
export function useSheet(kinds: readonly Keyed[], station: string) {
  const { key } = useHere()
  const path = usePath()
  const params = useParams('full')
  const at = readKey(path.split('/').at(-1) ?? '')
  const ref = at && kinds.includes(at.kind) ? keyOf(at.kind, at.number) : null
  const full = params.get('full') === 'yes'
  const base = `/p/${key}`
  const open = (to: string, wide = false) => go({ path: `${base}/${to}`, params: { full: wide ? 'yes' : null } })
  const close = () => {
    go({ path: `${base}/${station}`, params: { full: null } })
    focusList()
  }
  useKeys(
    ref === null
      ? []
      : [
          { id: 'sheet-close', keys: 'Escape', label: 'close the sheet', quiet: true, run: close },
          {
            id: 'sheet-full',
            keys: 'Shift+Enter',
            label: full ? 'list beside the sheet' : 'sheet in full width',
            quiet: true,
            run: () => go({ params: { full: full ? null : 'yes' } }),
          },
        ],
  )
  return { ref, full, open, close }
}

/** Page Up and Page Down lead through the objects of the list while a sheet is open. */
export function usePaging<T extends { key: string }>(
  rows: readonly T[],
  ref: string | null,
  open: (to: string) => void,
): void {
  const at = rows.findIndex(({ key }) => key === ref)
  const step = (by: number) => () => {
    const next = rows[at + by]
    if (next) open(next.key)
  }
  useKeys(
    ref === null
      ? []
      : [
          { id: 'sheet-next', keys: 'PageDown', label: 'next object', quiet: true, run: step(1) },
          { id: 'sheet-previous', keys: 'PageUp', label: 'previous object', quiet: true, run: step(-1) },
        ],
  )
}
