import { wordsAfter } from '#core/lib/figures.ts'
import css from './ResultBar.module.css'
import { markColour } from './Mark.tsx'

const order = ['Passed', 'Inconclusive', 'Failed', 'Blocked', 'In progress'] as const

interface Tallies {
  readonly verdicts: Readonly<Record<string, number>>
  readonly stale: Readonly<Record<string, number>>
  readonly slots: number
  /** How many of them are in which of the project's own words. */
  readonly words?: Readonly<Record<string, number>>
}

interface BarProps extends Tallies {
  readonly width?: number | string
  /** What a click on a part does; by keyboard the same is to be had beside the bar. */
  readonly onPart?: (verdict: string) => void
}

/** Proportions of verdicts as one thin bar, hatched where stale; what nobody has run stays empty. */
export function ResultBar({ verdicts, stale, slots, words = {}, width = 120, onPart }: BarProps) {
  const parts = order
    .flatMap((verdict) => {
      const old = stale[verdict] ?? 0
      return [
        { verdict, n: (verdicts[verdict] ?? 0) - old, old: false },
        { verdict, n: old, old: true },
      ]
    })
    .filter(({ n }) => n > 0)
  const own = wordsAfter(words)
  return (
    <span
      className={css['bar']}
      style={{ inlineSize: width }}
      role="img"
      aria-label={
        parts.length === 0
          ? slots > 0
            ? 'not run'
            : 'no case'
          : parts.map(({ verdict, n, old }) => `${n} ${verdict}${old ? ' stale' : ''}`).join(', ') +
            ` of ${slots}${own}`
      }
      title={own === '' ? undefined : own.slice(2)}
    >
      {slots > 0 &&
        parts.map(({ verdict, n, old }) => (
          <span
            key={`${verdict}${old}`}
            className={[old && css['stale'], onPart && css['part']].filter(Boolean).join(' ') || undefined}
            title={onPart && `${n} ${verdict}`}
            onClick={onPart && (() => onPart(verdict))}
            style={{
              inlineSize: `${(100 * n) / slots}%`,
              color: markColour(verdict),
              background: old ? undefined : 'currentColor',
            }}
          />
        ))}
    </span>
  )
}
