import { fixSignal, type Signal, signalsOf } from '#core/cases/signals.ts'
import { Button } from '#ui/kit/Button.tsx'
import type { Draft } from './draft.ts'
import css from './Steps.module.css'

/** What the case would be better for, with a fix where there is one; it never stands in the way. */
export function Signals({
  draft,
  plain,
  onFix,
  onGo,
}: {
  draft: Draft
  plain: boolean
  onFix: (content: ReturnType<typeof fixSignal>) => void
  onGo: (step: number) => void
}) {
  // A routine has no rows: whoever inserts it gives the values.
  const signals = signalsOf(draft).filter(
    ({ kind }) => !plain || (kind !== 'missing value' && kind !== 'unused parameter'),
  )
  if (signals.length === 0) return null
  return (
    <ul className={css['signals']} aria-label="What would make this case better">
      {signals.slice(0, 5).map((signal) => (
        <li key={`${signal.kind}${signal.sentence}`}>
          {signal.sentence}.{' '}
          {signal.fix !== null ? (
            <Button look="word" onClick={() => onFix(fixSignal(draft, signal))}>
              {signal.fix}
            </Button>
          ) : (
            goTo(signal, onGo)
          )}
        </li>
      ))}
    </ul>
  )
}

const goTo = ({ step }: Signal, onGo: (step: number) => void) =>
  step === null ? null : (
    <Button look="word" onClick={() => onGo(step)}>
      write it
    </Button>
  )
