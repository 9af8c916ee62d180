import { daysTo, hourNow } from '#ui/kit/moment.ts'
import { actWords } from '#core/history/acts.ts'
import type { Served } from '#core/lib/question.ts'
import type { ReactNode } from 'react'
import { readKey } from '#core/lib/key.ts'
import { readToday, type Today } from '#core/projects/contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { useKeys } from '#ui/kit/keys.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { scopeIn, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useNextBest } from '#ui/shell/NextBest.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere, useTo } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import css from './Today.module.css'

export const TodayPage = ({ initial, ...shell }: ShellProps & { initial: Served<Today> }) => (
  <Shell {...shell}>
    <TodayView initial={initial} />
  </Shell>
)

/** A person's first page: what waits, whether it fits the day, what changed since yesterday. */
function TodayView({ initial }: { initial: Served<Today> }) {
  const { key } = useHere()
  const { params } = useAddress()
  const asked = { params: { key }, query: scopeIn(params) }
  const { data } = useAnswer(readToday, asked, { served: initial, keep: true })
  return data ? <Day today={data} /> : null
}

function Day({ today }: { today: Today }) {
  const { key, me } = useHere()
  const first = today.queue[0]
  const start = () => location.assign(`/p/${key}/desk/${first?.id}`)
  useKeys(first ? [{ id: 'start', keys: 'x', label: 'execute the first', run: start }] : [])
  const nextBest = useNextBest()
  return (
    <div className={css['today']}>
      <section className={css['main']} aria-label="Your queue">
        <header className={css['top']}>
          <h1>
            Good {greeting()}, {me.name.split(' ')[0]}
          </h1>
          <Load today={today} />
        </header>
        <h2>
          Your queue{' '}
          <span className="quiet">
            {today.queueTotal > 0 &&
              `${counted(today.queueTotal, 'item')}, ${minutesText(today.queueMinutes)}, ${today.queue.some(({ plannedOn }) => plannedOn) ? 'in the order of your days' : 'by due day and importance'}`}
            {today.queueTotal > 0 && (
              <>
                {' '}
                · <a href={`/p/${key}/runs/line?mine`}>what fits today</a>
              </>
            )}
          </span>
        </h2>
        <Queue today={today} />
      </section>
      {nextBest}
      <aside className={css['side']} aria-label="Waiting and changed">
        <Retests of={today.retests} />
        <ToReview of={today.reviews} />
        <Since of={today} />
        {today.sample && (
          <p>
            <a href={`/p/${key}/sample`}>What is in this sample project</a>
          </p>
        )}
      </aside>
    </div>
  )
}

function Queue({ today: { queue, queueTotal } }: { today: Today }) {
  const { key } = useHere()
  return (
    <>
      {queue.length === 0 && (
        <p className={css['empty']}>
          Nothing waits for you. Items are given to people in a run: <a href={`/p/${key}/runs`}>to the runs</a>.
        </p>
      )}
      <ul className={css['queue']}>
        {queue.map((item) => (
          <QueueRow key={item.id} of={item} />
        ))}
      </ul>
      {queueTotal > queue.length && (
        <p className="quiet" style={{ paddingBlock: 8 }}>
          and {queueTotal - queue.length} more in the run
        </p>
      )}
    </>
  )
}

function QueueRow({ of }: { of: Today['queue'][number] }) {
  const { key } = useHere()
  return (
    <li>
      <a href={`/p/${key}/desk/${of.id}`}>
        <Mark verdict={of.verdict} />
        <span className="key quiet">{of.case}</span>
        <span className={css['title']}>{of.title}</span>
        <span className="quiet">{of.environment}</span>
        <span data-importance={of.importance}>{of.importance}</span>
        <span className={css['number']}>{of.minutes} min</span>
        <span className="quiet">{of.plannedOn ? plannedWords(of.plannedOn) : of.dueOn ? dueWords(of.dueOn) : ''}</span>
      </a>
    </li>
  )
}

/** Of the day an item was put on: what is past is left over, and no due day that is missed. */
const plannedWords = (day: string): string => (daysTo(day) < 0 ? 'left over' : dueWords(day))

/** What waits, with how much of it there is; a sentence when nothing does. */
const Waiting = ({
  title,
  count,
  nothing,
  children,
}: {
  title: string
  count: number
  nothing: string
  children: ReactNode
}) => (
  <section>
    <h2>
      {title} <span className="quiet">{count || ''}</span>
    </h2>
    {count === 0 && <p className="quiet">{nothing}</p>}
    <ul>{children}</ul>
  </section>
)

interface RowProps {
  readonly href: string
  readonly of: { readonly ref: string; readonly title: string | null }
  readonly children: ReactNode
}

const Row = ({ href, of, children }: RowProps) => (
  <li>
    <a href={href}>
      <span className="key quiet">{of.ref}</span> {of.title}
    </a>
    <span className={css['note']}>{children}</span>
  </li>
)

function Retests({ of }: { of: Today['retests'] }) {
  const { key } = useHere()
  return (
    <Waiting title="To retest" count={of.length} nothing="No repaired defect waits.">
      {of.map((each) => (
        <Row
          key={each.ref}
          href={each.item === null ? `/p/${key}/${each.ref}` : `/p/${key}/desk/${each.item}?mine=no`}
          of={each}
        >
          {each.severity}, fixed in <span className="key">{each.fixedIn?.replace(/^.*-/, '')}</span>
        </Row>
      ))}
    </Waiting>
  )
}

function ToReview({ of }: { of: Today['reviews'] }) {
  const to = useTo()
  return (
    <Waiting title="To review" count={of.length} nothing="Nothing waits for review.">
      {of.map((each) => (
        <Row
          key={each.ref}
          href={readKey(each.ref)?.kind === 'plan' ? `${to(each.ref)}?version=${each.version}` : to(each.ref)}
          of={each}
        >
          {each.by}, {ago(each.at)}
        </Row>
      ))}
    </Waiting>
  )
}

function Since({ of: { since, changes } }: { of: Today }) {
  const { key } = useHere()
  const counts = [
    [since.results, 'result', 'results'],
    [since.failed, 'failed', 'failed'],
    [since.defects, 'new defect', 'new defects'],
    [since.cases, 'new case', 'new cases'],
  ] as const
  return (
    <section>
      <h2>Since yesterday</h2>
      <p className={css['since']}>
        {counts.map(([n, one, many]) => (
          <span key={one}>
            <b>{n}</b> {n === 1 ? one : many}
          </span>
        ))}
      </p>
      <ul>
        {changes.map((change, index) => (
          <Row key={index} href={readKey(change.ref) ? `/p/${key}/${change.ref}` : `/p/${key}/set-up`} of={change}>
            {change.person ?? 'An import'} {actWords(change.kind, change.action)}, {ago(change.at)}
          </Row>
        ))}
      </ul>
    </section>
  )
}

function greeting(): string {
  const hour = hourNow()
  return hour < 12 ? 'morning' : hour < 18 ? 'afternoon' : 'evening'
}

function dueWords(day: string): string {
  const left = daysTo(day)
  return left < 0 ? `${-left} days over` : left === 0 ? 'today' : left === 1 ? 'tomorrow' : `in ${left} days`
}

/** The queue against the hours of the day: what is done, what still fits, what does not. */
function Load({ today }: { today: Today }) {
  const left = Math.max(0, today.capacityMinutes - today.doneMinutes)
  const fits = Math.min(left, today.queueMinutes)
  const over = today.queueMinutes - fits
  const whole = Math.max(today.capacityMinutes, today.doneMinutes + today.queueMinutes, 1)
  if (today.capacityMinutes === 0)
    return today.queueTotal > 0 ? (
      <p className="quiet">You have no time for this project today: no working day, or you are away.</p>
    ) : null
  return (
    <div className={css['load']}>
      <p>
        <b>{minutesText(today.queueMinutes)}</b> of work{' '}
        {over > 0 ? (
          <>
            for <b>{minutesText(left)}</b> left today:{' '}
            <span className={css['over']}>{minutesText(over)} do not fit</span>
          </>
        ) : (
          <>
            fit in the <b>{minutesText(left)}</b> left today
          </>
        )}
      </p>
      <div
        className={css['bar']}
        role="img"
        aria-label={`${minutesText(today.doneMinutes)} done, ${minutesText(fits)} fit today, ${minutesText(over)} do not`}
      >
        <span style={{ inlineSize: `${(100 * today.doneMinutes) / whole}%` }} data-part="done" />
        <span style={{ inlineSize: `${(100 * fits) / whole}%` }} data-part="fits" />
        <span style={{ inlineSize: `${(100 * over) / whole}%` }} data-part="over" />
      </div>
      <p className="quiet">
        {today.doneToday} done today, {minutesText(today.doneMinutes)}
      </p>
    </div>
  )
}
