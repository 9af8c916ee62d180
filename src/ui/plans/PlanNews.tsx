import { useEffect, useState } from 'react'
import { actWords } from '#core/history/acts.ts'
import { counted } from '#core/lib/figures.ts'
import { type PlanSheet, type PlanSince, readPlanSince } from '#core/plans/contract.ts'
import type { PlanPart } from '#core/plans/state.ts'
import { dayText, momentText, now } from '#ui/kit/moment.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Plan.module.css'

const day = 86_400_000
/** Whoever comes back within this time looks still. */
const sameLook = 3_600_000

/** When one last looked at a plan in this browser: the look before this one; else a day ago. */
function useLastLook(place: string): number | null {
  const [since, setSince] = useState<number | null>(null)
  useEffect(() => {
    const name = `rovant.looked.${place}`
    const [before = 0, last = 0] = (localStorage.getItem(name) ?? '').split(',').map(Number)
    const at = Date.now()
    const look = last > 0 && at - last < sameLook ? before : last
    localStorage.setItem(name, `${look},${at}`)
    setSince(look > 0 ? look : at - day)
  }, [place])
  return since
}

interface Line {
  readonly text: string
  /** The question whose answer it touches. */
  readonly part: PlanPart
  readonly more: string
}

const named = (all: readonly { readonly key: string; readonly title: string }[]): string =>
  all
    .slice(0, 12)
    .map(({ key, title }) => `${key} ${title}`)
    .join('\n')

function linesOf({ came, went, reworded, builds, away, acts }: PlanSince): Line[] {
  const suspect = reworded.reduce((sum, each) => sum + each.suspect, 0)
  return [
    ...(came.length > 0
      ? [{ text: `${counted(came.length, 'case')} came in`, part: 'what' as const, more: named(came) }]
      : []),
    ...(went.length > 0
      ? [{ text: `${counted(went.length, 'case')} went out`, part: 'what' as const, more: named(went) }]
      : []),
    ...(reworded.length > 0
      ? [
          {
            text: `${reworded
              .map(({ key }) => key)
              .slice(0, 3)
              .join(', ')}${reworded.length > 3 ? ' and others' : ''} reworded: ${counted(suspect, 'case')} suspect`,
            part: 'enough' as const,
            more: named(reworded),
          },
        ]
      : []),
    ...builds.map(({ name, state, at }) => ({
      text: `${name} ${state.toLowerCase()}`,
      part: 'enough' as const,
      more: momentText(at),
    })),
    ...away.map(({ name, startOn, endOn }) => ({
      text: `${name} away ${startOn === endOn ? dayText(startOn) : `${dayText(startOn)} to ${dayText(endOn)}`}`,
      part: 'when' as const,
      more: '',
    })),
    ...(acts.length > 0
      ? [
          {
            text: `${counted(acts.length, 'change')} of the plan by ${[...new Set(acts.map(({ person }) => person ?? 'somebody'))].join(', ')}`,
            part: 'why' as const,
            more: acts.map(({ action, at }) => `${actWords('plan', action)}, ${momentText(at)}`).join('\n'),
          },
        ]
      : []),
  ]
}

/** What changed since one last looked, each leading to the question it touches. */
export function PlanNews({ of, onPart }: { of: PlanSheet; onPart: (part: PlanPart) => void }) {
  const { key } = useHere()
  const since = useLastLook(`${key}.${of.key}`)
  const { data } = useAnswer(
    readPlanSince,
    { params: { key, ref: of.key }, query: { since: since ?? 0 } },
    { enabled: since !== null },
  )
  if (since === null || !data) return null
  const lines = linesOf(data)
  return (
    <section className={css['news']} aria-label="Since you last looked">
      <h2>
        {now() - since > day * 1.5 || now() - since < day * 0.9 ? `Since ${momentText(since)}` : 'Since yesterday'}
      </h2>
      {lines.length === 0 && <p className="quiet">Nothing changed.</p>}
      <ul>
        {lines.map(({ text, part, more }) => (
          <li key={text}>
            <button type="button" title={more} onClick={() => onPart(part)}>
              {text}
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
