import { useState } from 'react'
import { dayAfter } from '#core/lib/days.ts'
import { type CriterionShown } from '#core/plans/criteria-contract.ts'
import type { CriterionSide } from '#core/plans/criteria.ts'
import { counted } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { dayText, todayIn } from '#ui/kit/moment.ts'
import { OutcomeMark } from '#ui/kit/OutcomeMark.tsx'
import { go } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './Plan.module.css'

/** What is opened from a row. */
export type CriterionOpen =
  | { readonly dialog: 'criterion'; readonly of: CriterionShown | null }
  | { readonly dialog: 'waiver'; readonly of: CriterionShown }
  | { readonly dialog: 'run' }

interface CriteriaOf {
  readonly side: CriterionSide
  readonly criteria: readonly CriterionShown[]
  readonly may: boolean
  readonly onAt: (id: number) => void
  readonly onOpen: (open: CriterionOpen) => void
  readonly onRemove: (of: CriterionShown) => void
  readonly onUnwaive: (of: CriterionShown) => void
  readonly onPlace: (of: CriterionShown, before: number | null) => void
}

/** Criteria of one side, each a row with its figure and what is missing. */
export function Criteria({ side, criteria, ...rest }: CriteriaOf) {
  if (criteria.length === 0) return null
  return (
    <section className={css['entry']} aria-label={side === 'exit' ? 'Exit criteria' : 'Entry criteria'}>
      {side === 'entry' && <h3>Before a run is opened</h3>}
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
      <Note of={of} address={address} />
      {may && <Acts of={of} onOpen={onOpen} onRemove={onRemove} onUnwaive={onUnwaive} />}
    </li>
  )
}

/** What is asked, who waived it, and the way to what is missing. */
const Note = ({ of, address }: { of: CriterionShown; address: ReturnType<typeof useMissing> }) => (
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
)

function Acts({
  of,
  onOpen,
  onRemove,
  onUnwaive,
}: Pick<CriteriaOf, 'onOpen' | 'onRemove' | 'onUnwaive'> & { of: CriterionShown }) {
  return (
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

/** Says why a criterion need not hold, and until when. */
export function Waive({
  of,
  onStore,
  onClose,
}: {
  of: CriterionShown
  onStore: (said: { until: string; reason: string }) => Promise<boolean>
  onClose: () => void
}) {
  const { project } = useHere()
  const [reason, setReason] = useState(of.waiver?.reason ?? '')
  const [until, setUntil] = useState(() => of.waiver?.until ?? dayAfter(todayIn(project), 7))
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
