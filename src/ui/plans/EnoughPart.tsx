import { addDays, format } from 'date-fns'
import { useState } from 'react'
import {
  addCriterion,
  changeCriterion,
  type CriterionShown,
  type PlanCriteria,
  readCriteria,
  readShortestWay,
  removeCriterion,
  waiveCriterion,
} from '#core/plans/criteria-contract.ts'
import type { CriterionRule, CriterionSide } from '#core/plans/criteria.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { NewRun } from '#ui/runs/NewRun.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { OutcomeMark } from '#ui/kit/OutcomeMark.tsx'
import { go, scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { CriterionDialog } from './CriterionDialog.tsx'
import css from './Plan.module.css'

type Open =
  | { readonly dialog: 'criterion'; readonly of: CriterionShown | null }
  | { readonly dialog: 'waiver'; readonly of: CriterionShown }
  | { readonly dialog: 'run' }

/** How many are met, in words: `5 of 8 met, 1 waived`. */
export const tallyWords = ({ met, of, waived }: PlanCriteria['exit']): string =>
  `${met} of ${of} met${waived > 0 ? `, ${waived} waived` : ''}`

export function useCriteria(ref: string) {
  const { key } = useHere()
  const query = scopeIn(useParams(...scopeNames))
  return useAnswer(readCriteria, { params: { key, ref }, query }, { keep: true })
}

/** When is it enough? The criteria, what is missing to each, and the shortest way there. */
export function EnoughPart({ of, may }: { of: PlanSheet; may: boolean }) {
  const { key } = useHere()
  const { data, error } = useCriteria(of.key)
  const [open, setOpen] = useState<Open | null>(null)
  const [at, setAt] = useState<number | null>(null)
  const acts = useCriterionActs(of)
  const query = scopeIn(useParams(...scopeNames))
  const way = useAnswer(readShortestWay, { params: { key, ref: of.key }, query }, { keep: true }).data
  const current = data?.criteria.find(({ id }) => id === at) ?? data?.criteria[0]
  useKeys([
    ...(may
      ? [{ id: 'criterion', keys: 'n', label: 'a criterion', run: () => setOpen({ dialog: 'criterion', of: null }) }]
      : []),
    ...(may && current
      ? [{ id: 'waive', keys: 'w', label: 'waive', run: () => setOpen({ dialog: 'waiver', of: current }) }]
      : []),
    ...(way && way.total > 0
      ? [{ id: 'way-run', keys: 'o', label: 'open the way as a run', run: () => setOpen({ dialog: 'run' }) }]
      : []),
  ])
  if (error && !data) return <p role="alert">{error.message}</p>
  if (!data) return null
  const side = (of: CriterionSide) => data.criteria.filter((each) => each.side === of)
  return (
    <>
      <header className={css['head']}>
        <h1>When is it enough?</h1>
        <p className="quiet">
          {data.exit.of > 0 && <>Exit {tallyWords(data.exit)}</>}
          {data.exit.of > 0 && data.entry.of > 0 && '; '}
          {data.entry.of > 0 && <>entry {tallyWords(data.entry)}</>}
        </p>
        {may && <Button onClick={() => setOpen({ dialog: 'criterion', of: null })}>Add a criterion</Button>}
      </header>
      {data.criteria.length === 0 && (
        <p className="quiet">
          No criterion yet. Say what has to hold before this plan is done, such as no open Critical defect, or all cases
          that are High or above executed on the newest build; it is told from the data from then on.
        </p>
      )}
      {(['exit', 'entry'] as const).map((each) => (
        <Criteria
          key={each}
          side={each}
          criteria={side(each)}
          may={may}
          onAt={setAt}
          onOpen={setOpen}
          onRemove={(own) => void acts.remove(own)}
          onUnwaive={(own) => void acts.waive(own, { until: null, reason: '' })}
          onPlace={(own, before) => void acts.place(own, before)}
        />
      ))}
      <Way of={of} onRun={() => setOpen({ dialog: 'run' })} />
      {open?.dialog === 'criterion' && (
        <CriterionDialog of={open.of} onStore={(said) => acts.store(open.of, said)} onClose={() => setOpen(null)} />
      )}
      {open?.dialog === 'waiver' && (
        <Waive of={open.of} onStore={(said) => acts.waive(open.of, said)} onClose={() => setOpen(null)} />
      )}
      {open?.dialog === 'run' && way && (
        <NewRun
          plan={{
            id: of.id,
            title: 'Shortest way to go',
            releaseId: of.releaseId,
            environments: [],
            unapproved: [],
          }}
          slots={way.slots}
          onClose={() => setOpen(null)}
        />
      )}
    </>
  )
}

function useCriterionActs(of: PlanSheet) {
  const { key } = useHere()
  const adding = useWrite(addCriterion)
  const changing = useWrite(changeCriterion)
  const removing = useWrite(removeCriterion)
  const waiving = useWrite(waiveCriterion)
  const params = { key, ref: of.key }
  const at = (criterion: number) => ({ ...params, criterion })
  return {
    /** Puts one before another, or last. */
    place: (own: CriterionShown, before: number | null) => changing.attempt({ params: at(own.id), body: { before } }),
    store: async (before: CriterionShown | null, said: { side: CriterionSide; rule: CriterionRule }) => {
      if (before) {
        if (!(await changing.attempt({ params: at(before.id), body: said }))) return false
        const back = { side: before.side, rule: before.rule }
        notify('The criterion is changed.', {
          undo: () => void changing.attempt({ params: at(before.id), body: back }),
        })
        return true
      }
      const made = await adding.attempt({ params, body: said })
      if (!made) return false
      notify('The criterion is added.', { undo: () => void removing.attempt({ params: at(made.id), query: {} }) })
      return true
    },
    remove: async (own: CriterionShown) => {
      if (await removing.attempt({ params: at(own.id), query: {} }))
        notify('The criterion is taken away.', {
          undo: () => void removing.attempt({ params: at(own.id), query: { undo: 'yes' } }),
        })
    },
    waive: async (own: CriterionShown, said: { until: string | null; reason: string }): Promise<boolean> => {
      if (!(await waiving.attempt({ params: at(own.id), body: said }))) return false
      const { waiver } = own
      const back = waiver ? { until: waiver.until, reason: waiver.reason } : { until: null, reason: '' }
      notify(said.until === null ? 'The waiver is ended.' : `Waived until ${dayText(said.until)}.`, {
        undo: () => void waiving.attempt({ params: at(own.id), body: back }),
      })
      return true
    },
  }
}

interface CriteriaOf {
  readonly side: CriterionSide
  readonly criteria: readonly CriterionShown[]
  readonly may: boolean
  readonly onAt: (id: number) => void
  readonly onOpen: (open: Open) => void
  readonly onRemove: (of: CriterionShown) => void
  readonly onUnwaive: (of: CriterionShown) => void
  readonly onPlace: (of: CriterionShown, before: number | null) => void
}

function Criteria({ side, criteria, ...rest }: CriteriaOf) {
  if (criteria.length === 0) return null
  return (
    <section aria-label={side === 'exit' ? 'Exit criteria' : 'Entry criteria'}>
      {side === 'entry' && <h2 style={{ fontSize: 17, marginBlockEnd: 4 }}>Before a run is opened</h2>}
      <ul className={css['criteria']}>
        {criteria.map((own, at) => (
          <Criterion
            key={own.id}
            of={own}
            up={at === 0 ? undefined : criteria[at - 1]?.id}
            down={at === criteria.length - 1 ? undefined : (criteria[at + 2]?.id ?? null)}
            {...rest}
          />
        ))}
      </ul>
    </section>
  )
}

/** Leads from one row to the next by the arrows. */
function step(from: HTMLElement, by: number): void {
  const rows = [...document.querySelectorAll<HTMLElement>('[data-criterion]')]
  rows[rows.indexOf(from) + by]?.focus()
}

function Criterion({
  of,
  may,
  onAt,
  onOpen,
  onRemove,
  onUnwaive,
  onPlace,
  up,
  down,
}: Omit<CriteriaOf, 'side' | 'criteria'> & {
  of: CriterionShown
  /** Before which it stands one higher or lower; `null`: last. */
  up: number | null | undefined
  down: number | null | undefined
}) {
  const address = useMissing(of.missing)
  return (
    <li
      tabIndex={0}
      data-criterion
      data-outcome={of.outcome}
      onFocus={() => onAt(of.id)}
      onKeyDown={(event) => {
        if (event.target !== event.currentTarget) return
        if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
          event.preventDefault()
          const to = event.key === 'ArrowUp' ? up : down
          if (event.altKey) return may && to !== undefined ? onPlace(of, to) : undefined
          step(event.currentTarget, event.key === 'ArrowDown' ? 1 : -1)
        }
        if (event.key === 'Enter' && address !== null) go({ path: address.path, params: { filter: address.filter } })
      }}
    >
      <OutcomeMark of={of.outcome} />
      {may ? (
        <Button look="word" onClick={() => onOpen({ dialog: 'criterion', of })}>
          {sentenceOf(of)}
        </Button>
      ) : (
        <span>{sentenceOf(of)}</span>
      )}
      <span className={css['figure']}>{of.outcome === 'waived' ? 'waived' : of.figureText}</span>
      <span className={css['note']}>
        {of.waiver?.holds && of.outcome === 'waived' ? (
          <>
            {of.waiver.by} until {dayText(of.waiver.until)}: {of.waiver.reason}; {of.figureText}, {of.wanted}
          </>
        ) : (
          <>
            {of.outcome === 'undecidable' ? 'nothing to count; ' : ''}
            {of.wanted}
          </>
        )}
        {of.missing.total > 0 && address && (
          <>
            ,{' '}
            <a href={`${address.path}?filter=${encodeURIComponent(address.filter)}`} title={firstOf(of)}>
              {rowsWords(of.missing)}
            </a>
          </>
        )}
      </span>
      {may && (
        <span className={css['acts']}>
          {of.waiver?.holds ? (
            <Button look="word" onClick={() => onUnwaive(of)}>
              end the waiver
            </Button>
          ) : (
            of.outcome === 'not met' && (
              <Button look="word" onClick={() => onOpen({ dialog: 'waiver', of })}>
                waive
              </Button>
            )
          )}
          <button type="button" aria-label={`Take away: ${of.words}`} onClick={() => onRemove(of)}>
            ×
          </button>
        </span>
      )}
    </li>
  )
}

/** What is asked stands beside the figure. */
const sentenceOf = ({ words }: CriterionShown): string => words.replace(/: at least [\d.]+ %$/, '')

const firstOf = ({ missing }: CriterionShown): string =>
  missing.first.map(({ key, title }) => `${key} ${title}`).join('\n')

const nouns = { requirements: 'requirement', cases: 'case', defects: 'defect', runs: 'run', slots: 'item' } as const
const rowsWords = ({ of, total }: CriterionShown['missing']): string => counted(total, nouns[of])

/** The list that shows exactly what is missing. */
function useMissing(missing: CriterionShown['missing']): { path: string; filter: string } | null {
  const { key } = useHere()
  if (missing.ids.length === 0) return null
  const station = missing.of === 'slots' ? 'cases' : missing.of
  return {
    path: `/p/${key}/${station}`,
    filter: JSON.stringify({ field: 'id', op: 'is', values: missing.ids }),
  }
}

function Waive({
  of,
  onStore,
  onClose,
}: {
  of: CriterionShown
  onStore: (said: { until: string; reason: string }) => Promise<boolean>
  onClose: () => void
}) {
  const [reason, setReason] = useState(of.waiver?.reason ?? '')
  const [until, setUntil] = useState(() => of.waiver?.until ?? format(addDays(new Date(), 7), 'yyyy-MM-dd'))
  const sound = reason.trim() !== '' && until !== ''
  return (
    <Dialog title="Waive a criterion" onClose={onClose}>
      <p>
        {of.words}: {of.figureText}.
      </p>
      <Form
        onSend={() =>
          sound ? void onStore({ until, reason: reason.trim() }).then((done) => done && onClose()) : undefined
        }
      >
        <Field label="Why it need not hold">
          {(id) => (
            <TextInput id={id} value={reason} maxLength={500} onChange={(event) => setReason(event.target.value)} />
          )}
        </Field>
        <Field label="Until the end of">
          {(id) => <TextInput id={id} type="date" value={until} onChange={(event) => setUntil(event.target.value)} />}
        </Field>
        <Button look="main" type="submit" disabled={!sound}>
          Waive it
        </Button>
      </Form>
    </Dialog>
  )
}

const shownFirst = 8

/** The cheapest items that would meet what testing can still meet, and what it cannot mend. */
function Way({ of, onRun }: { of: PlanSheet; onRun: () => void }) {
  const { key, project } = useHere()
  const [all, setAll] = useState(false)
  const query = scopeIn(useParams(...scopeNames))
  const { data, settled } = useAnswer(readShortestWay, { params: { key, ref: of.key }, query }, { keep: true })
  if (!data || (data.total === 0 && data.cannot.length === 0)) return null
  const items = all ? data.items : data.items.slice(0, shownFirst)
  return (
    <div className={css['below']} aria-busy={!settled}>
      <section>
        <h2>Shortest way to go</h2>
        {data.total === 0 ? (
          <p className="quiet">No test would meet another criterion.</p>
        ) : (
          <p>
            <b>
              {counted(data.total, 'item')}, {minutesText(data.minutes)}
            </b>{' '}
            meet {counted(data.meets.length, 'more criterion', 'more criteria')}, if they pass
            {data.exact ? '; nothing shorter does' : ''}.
          </p>
        )}
        <ul className={css['items']}>
          {items.map((item) => (
            <li key={`${item.case}:${item.environment}`}>
              <Mark verdict={item.verdict} stale={item.stale} />
              <span className="key quiet">{item.key}</span>
              <a href={`/p/${key}/${item.key}`}>{item.title}</a>
              <span className={css['note']}>{item.environmentName}</span>
              <span className={css['note']}>{item.why}</span>
              <span>{minutesText(item.minutes)}</span>
            </li>
          ))}
        </ul>
        {data.total > 0 && (
          <p className={css['line']}>
            {data.total > items.length && !all && (
              <Button look="word" onClick={() => setAll(true)}>
                and {data.total - items.length} more
              </Button>
            )}
            {project.role === 'lead' && (
              <Button look="word" onClick={onRun}>
                open as a run
              </Button>
            )}
          </p>
        )}
      </section>
      {data.cannot.length > 0 && (
        <section>
          <h2>Testing cannot mend</h2>
          <ul className={css['cannot']}>
            {data.cannot.map(({ id, words, missing }) => (
              <li key={id}>
                <p>{words}</p>
                {missing.first.slice(0, 3).map((row) => (
                  <div key={`${row.key}${row.detail}`}>
                    <a href={`/p/${key}/${row.key}`}>
                      <span className="key">{row.key}</span>
                    </a>{' '}
                    {row.title} <span className="quiet">{row.detail}</span>
                  </div>
                ))}
                {missing.total > 3 && <div className="quiet">and {missing.total - 3} more</div>}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}
