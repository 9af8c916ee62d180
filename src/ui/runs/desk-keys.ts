import { type Binding, useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'
import type { DeskActs } from './useDeskActs.ts'
import type { Sayable } from './sayable.ts'
import type { useDesk } from './useDesk.ts'

type Own = ReturnType<typeof useDesk>

/** The whole of an execution without the mouse. */
export function useDeskKeys(
  own: Own,
  acts: DeskActs,
  {
    values,
    ofSteps,
    ofItems,
    toRun,
  }: { values: Readonly<Record<string, string>>; toRun: string } & Record<'ofSteps' | 'ofItems', readonly Sayable[]>,
): void {
  const { me } = useHere()
  const quiet = (id: string, keys: string, label: string, run: () => void): Binding => ({
    id: `desk-${id}`,
    keys,
    label,
    quiet: true,
    run,
  })
  const shown = (id: string, keys: string, label: string, run: () => void): Binding => ({
    id: `desk-${id}`,
    keys,
    label,
    run,
  })
  const { row, step } = own.at
  useKeys([
    ...ofSteps.map((of) => shown(of.label, of.key, of.label.toLowerCase(), () => own.mark(of.said))),
    ...ofItems.flatMap((of) =>
      of.word === null
        ? [
            quiet(`all-${of.label}`, `Shift+${of.key}`, `whole item ${of.label.toLowerCase()}`, () =>
              acts.markWhole(of),
            ),
          ]
        : [],
    ),
    quiet('whole', 'w', 'whole item, in any word', () => acts.ask('whole')),
    shown('next', 'Enter', 'next', () => {
      if (own.next()) return
      if (own.attempt?.final && me.afterVerdict === 'run') location.assign(toRun)
      else acts.nextItem()
    }),
    quiet('up', 'ArrowUp', 'step up', () => own.go(step - 1)),
    quiet('down', 'ArrowDown', 'step down', () => own.go(step + 1)),
    quiet('row-left', 'ArrowLeft', 'data row before', () => own.go(step, row - 1)),
    quiet('row-right', 'ArrowRight', 'data row after', () => own.go(step, row + 1)),
    shown('comment', 'c', 'comment', () => document.querySelector<HTMLElement>('[data-happened]')?.focus()),
    shown('evidence', 'v', 'evidence', acts.chooseFile),
    shown('defect', 'd', 'defect', () => acts.ask('defect')),
    shown('copy', '.', 'copy value', () => void copyNext(values)),
    shown('undo', 'u', 'undo', own.undo),
    quiet('next-item', 'PageDown', 'next item', acts.nextItem),
    quiet('previous-item', 'PageUp', 'previous item', acts.previousItem),
    quiet('again', 'r', 'run it again', acts.again),
  ])
}

let copied = -1
/** Copies the next data value; where the browser gives no clipboard (no TLS), it says the value instead. */
async function copyNext(values: Readonly<Record<string, string>>): Promise<void> {
  const entries = Object.entries(values)
  if (entries.length === 0) return notify('This row has no data values.')
  copied = (copied + 1) % entries.length
  const [name = '', value = ''] = entries[copied] ?? []
  try {
    await navigator.clipboard.writeText(value)
    notify(`${name} is copied: ${value}`)
  } catch {
    notify(`The browser gives no clipboard without TLS. ${name}: ${value}`)
  }
}
