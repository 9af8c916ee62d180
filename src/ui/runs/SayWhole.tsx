import { Dialog } from '#ui/kit/Dialog.tsx'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import css from './Desk.module.css'
import type { Sayable } from './sayable.ts'

/** All that may be said of the whole item, each by its key. */
export function SayWhole({
  all,
  onSay,
  onClose,
}: {
  all: readonly Sayable[]
  onSay: (of: Sayable) => void
  onClose: () => void
}) {
  return (
    <Dialog title="The whole item is" onClose={onClose}>
      <div
        role="group"
        aria-label="Verdict of the whole item"
        className={css['verdicts']}
        onKeyDown={(event) => {
          const of = all.find(({ key }) => key === event.key.toLowerCase())
          if (!of || event.ctrlKey || event.metaKey || event.altKey) return
          event.preventDefault()
          onSay(of)
        }}
      >
        {all.map((of, at) => (
          <button key={of.label} type="button" data-first={at === 0 || undefined} onClick={() => onSay(of)}>
            <kbd>{of.key}</kbd> <SaidMark verdict={of.verdict} word={of.word} label={false} /> {of.label}
          </button>
        ))}
      </div>
    </Dialog>
  )
}
