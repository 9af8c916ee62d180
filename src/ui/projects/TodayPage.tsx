import { actWords } from '#core/history/acts.ts'
import type { Served } from '#core/lib/question.ts'
import { readKey } from '#core/lib/key.ts'
import { readToday, type Today } from '#core/projects/contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { useKeys } from '#ui/kit/keys.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { scopeIn, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
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
  const { params } = useAddress()
  const first = today.queue[0]
  useKeys(
    first
      ? [
          {
            id: 'start',
            keys: 'x',
            label: 'execute the first',
            run: () => location.assign(`/p/${key}/desk/${first.id}`),
          },
        ]
      : [],
  )
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
            {today.queueTotal === 0
              ? ''
              : `${counted(today.queueTotal, 'item')}, ${minutesText(today.queueMinutes)}, by due day and importance`}
          </span>
        </h2>
        {today.queue.length === 0 && (
          <p className={css['empty']}>
            Nothing waits for you. Items are given to people in a run: <a href={`/p/${key}/runs`}>to the runs</a>.
          </p>
        )}
        <ul className={css['queue']}>
          {today.queue.map((item) => (
            <li key={item.id}>
              <a href={`/p/${key}/desk/${item.id}`}>
                <Mark verdict={item.verdict} />
                <span className="key quiet">{item.case}</span>
                <span className={css['title']}>{item.title}</span>
                <span className="quiet">{item.environment}</span>
                <span data-importance={item.importance}>{item.importance}</span>
                <span className={css['number']}>{item.minutes} min</span>
                <span className="quiet">{item.dueOn ? dueWords(item.dueOn) : ''}</span>
              </a>
            </li>
          ))}
        </ul>
        {today.queueTotal > today.queue.length && (
          <p className="quiet" style={{ paddingBlock: 8 }}>
            and {today.queueTotal - today.queue.length} more in the run
          </p>
        )}
      </section>
      <aside className={css['side']} aria-label="Waiting and changed">
        <section>
          <h2>
            To retest <span className="quiet">{today.retests.length || ''}</span>
          </h2>
          {today.retests.length === 0 && <p className="quiet">No repaired defect waits.</p>}
          <ul>
            {today.retests.map((each) => (
              <li key={each.ref}>
                <a href={each.item === null ? `/p/${key}/${each.ref}` : `/p/${key}/desk/${each.item}?mine=no`}>
                  <span className="key quiet">{each.ref}</span> {each.title}
                </a>
                <span className={css['note']}>
                  {each.severity}, fixed in <span className="key">{each.fixedIn?.replace(/^.*-/, '')}</span>
                </span>
              </li>
            ))}
          </ul>
        </section>
        <section>
          <h2>
            To review <span className="quiet">{today.reviews.length || ''}</span>
          </h2>
          {today.reviews.length === 0 && <p className="quiet">No case waits for review.</p>}
          <ul>
            {today.reviews.map((each) => (
              <li key={each.ref}>
                <a href={`/p/${key}/${each.ref}${scopeSearch(params)}`}>
                  <span className="key quiet">{each.ref}</span> {each.title}
                </a>
                <span className={css['note']}>
                  {each.by}, {ago(each.at)}
                </span>
              </li>
            ))}
          </ul>
        </section>
        <section>
          <h2>Since yesterday</h2>
          <p className={css['since']}>
            <span>
              <b>{today.since.results}</b> results
            </span>
            <span>
              <b>{today.since.failed}</b> failed
            </span>
            <span>
              <b>{today.since.defects}</b> new defects
            </span>
            <span>
              <b>{today.since.cases}</b> new cases
            </span>
          </p>
          <ul>
            {today.changes.map((change, index) => (
              <li key={index}>
                <a href={readKey(change.ref) ? `/p/${key}/${change.ref}` : `/p/${key}/set-up`}>
                  <span className="key quiet">{change.ref}</span> {change.title ?? ''}
                </a>
                <span className={css['note']}>
                  {change.person ?? 'An import'} {actWords(change.kind, change.action)}, {ago(change.at)}
                </span>
              </li>
            ))}
          </ul>
        </section>
      </aside>
    </div>
  )
}

function greeting(): string {
  const hour = new Date().getHours()
  return hour < 12 ? 'morning' : hour < 18 ? 'afternoon' : 'evening'
}

function dueWords(day: string): string {
  const left = Math.round((Date.parse(day) - Date.parse(new Date().toISOString().slice(0, 10))) / 86_400_000)
  return left < 0 ? `${-left} days over` : left === 0 ? 'today' : left === 1 ? 'tomorrow' : `in ${left} days`
}

/** The queue against the hours of the day: what is done, what still fits, what does not. */
function Load({ today }: { today: Today }) {
  const left = Math.max(0, today.capacityMinutes - today.doneMinutes)
  const fits = Math.min(left, today.queueMinutes)
  const over = today.queueMinutes - fits
  const whole = Math.max(today.capacityMinutes, today.doneMinutes + today.queueMinutes, 1)
  if (today.capacityMinutes === 0) return null
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
