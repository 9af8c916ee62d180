import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { pinned } from '#core/plans/members.ts'
import { suiteOrders } from '#core/plans/source.ts'
import {
  excludeCases,
  listMembers,
  pinCases,
  placeMembers,
  readSuiteNotYet,
  type SuiteMember,
  type SuiteSheet,
} from '#core/plans/suite-contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { ago } from '#ui/shell/people.ts'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Part } from '#ui/shell/SheetParts.tsx'
import sheet from '#ui/shell/sheet.module.css'
import css from './Plans.module.css'
import { sourceLabels } from '#core/plans/source-words.ts'

const orderWords = {
  hand: 'by hand',
  outline: 'by the requirement outline',
  importance: 'by importance',
  risk: 'by risk',
  folder: 'by folder',
} as const

interface Props {
  readonly of: SuiteSheet
  readonly may: boolean
  readonly onOrder: (by: SuiteSheet['orderedBy']) => void
}

/** The cases of a suite now, in order, each with what it is in by. */
export function Members({ of, may, onOrder }: Props) {
  const [leaving, setLeaving] = useState<SuiteMember | null>(null)
  const { rows, more } = useMembers(of)
  const acts = useMemberActs(of, rows)
  const label = sourceLabels(of.sources)
  const notYet = useNotYet(of)
  const waits = new Set(notYet?.rows.map(({ id }) => id))
  const order = (
    <span className="quiet">
      <Choice
        label="Order"
        value={of.orderedBy}
        options={suiteOrders.map((value) => ({ value, label: orderWords[value] }))}
        disabled={!may}
        onChoose={onOrder}
      />
    </span>
  )
  return (
    <Part title={`${counted(of.cases, 'case')}, ${minutesText(of.minutes)}`} act={order}>
      <ol className={css['members']}>
        {rows.map((own, at) =>
          waits.has(own.id) ? null : (
            <Row
              key={own.id}
              of={own}
              at={at}
              by={own.by.map(label).join(', ')}
              moving={may && of.orderedBy === 'hand'}
              may={may}
              onMove={(by) => void acts.move(at, by)}
              onTakeOut={() => (own.by.join() === String(pinned) ? void acts.unpin(own) : setLeaving(own))}
            />
          ),
        )}
      </ol>
      {rows.length < of.cases && (
        <Button look="word" onClick={more}>
          {of.cases - rows.length} more
        </Button>
      )}
      {notYet && <NotYet of={notYet} />}
      {leaving && <LeaveOut of={of} own={leaving} onClose={() => setLeaving(null)} />}
      <Left of={of} may={may} />
    </Part>
  )
}

/** What of it waits for a later iteration or release than one looks at. */
function useNotYet(of: SuiteSheet) {
  const { key } = useHere()
  const query = scopeIn(useParams(...scopeNames))
  return useAnswer(readSuiteNotYet, { params: { key, ref: of.key }, query }, { keep: true }).data
}

function NotYet({ of: { rows, total } }: { of: OutputOf<typeof readSuiteNotYet> }) {
  const { key } = useHere()
  if (total === 0) return null
  return (
    <Unfold summary={`${counted(total, 'case')} cannot be tested yet in what you look at`} className={css['news']}>
      <ul className={css['members']}>
        {rows.map((row) => (
          <li key={row.id}>
            <span />
            <span className="key">{row.key}</span>
            <a href={`/p/${key}/${row.key}`}>{row.title}</a>
            <span />
            <span className={sheet['note']}>{row.from}</span>
          </li>
        ))}
      </ul>
      {total > rows.length && <p className="quiet">and {total - rows.length} more</p>}
    </Unfold>
  )
}

/** The first come with the sheet, further ones as they are asked for; another sheet begins again. */
function useMembers(of: SuiteSheet) {
  const { key } = useHere()
  const [further, setFurther] = useState<{ of: SuiteSheet; rows: readonly SuiteMember[] }>({ of, rows: [] })
  const rows = further.of === of ? [...of.members, ...further.rows] : of.members
  const more = async () => {
    try {
      const query = { cursor: rows.length, limit: 500 }
      const answer = await call(listMembers, { params: { key, ref: of.key }, query })
      setFurther({ of, rows: [...rows.slice(of.members.length), ...answer.rows] })
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
  return { rows, more: () => void more() }
}

function useMemberActs(of: SuiteSheet, rows: readonly SuiteMember[]) {
  const { key } = useHere()
  const placing = useWrite(placeMembers)
  const pinning = useWrite(pinCases)
  const params = { key, ref: of.key }
  return {
    move: async (at: number, by: number) => {
      const order = rows.map(({ id }) => id)
      const own = order[at]
      if (own === undefined || at + by < 0) return
      const to = order.toSpliced(at, 1).toSpliced(at + by, 0, own)
      await placing.attempt({ params, body: { order: to } })
    },
    unpin: async ({ id, key: ref }: SuiteMember) => {
      if (await pinning.attempt({ params, body: { remove: [id] } }))
        notify(`${ref} is taken out.`, { undo: () => void pinning.attempt({ params, body: { add: [ref] } }) })
    },
  }
}

interface RowProps {
  readonly of: SuiteMember
  readonly at: number
  readonly by: string
  readonly moving: boolean
  readonly may: boolean
  readonly onMove: (by: number) => void
  readonly onTakeOut: () => void
}

function Row({ of, at, by, moving, may, onMove, onTakeOut }: RowProps) {
  const { key } = useHere()
  return (
    <li>
      <span className="quiet">{at + 1}</span>
      <span className="key">{of.key}</span>
      <a
        href={`/p/${key}/${of.key}`}
        title={of.why ?? undefined}
        onKeyDown={(event) => {
          if (!moving || !event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return
          event.preventDefault()
          onMove(event.key === 'ArrowUp' ? -1 : 1)
        }}
      >
        {of.title}
      </a>
      <span className={sheet['note']} title={of.why ?? undefined}>
        {by}
      </span>
      <span className={sheet['note']}>
        {of.importance}, {of.minutes} min
      </span>
      {may && (
        <span className={css['acts']}>
          {moving && (
            <>
              <button type="button" aria-label={`${of.key} up`} onClick={() => onMove(-1)}>
                ↑
              </button>
              <button type="button" aria-label={`${of.key} down`} onClick={() => onMove(1)}>
                ↓
              </button>
            </>
          )}
          <button type="button" aria-label={`Take ${of.key} out`} onClick={onTakeOut}>
            ×
          </button>
        </span>
      )}
    </li>
  )
}

/** A case that a source brings is left out with a reason; the source may bring it again for ever. */
function LeaveOut({ of, own, onClose }: { of: SuiteSheet; own: SuiteMember; onClose: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(excludeCases)
  const [reason, setReason, keeping] = useKept(`${of.key}.leave.${own.key}`, '')
  const params = { key, ref: of.key }
  const store = async () => {
    if (!(await attempt({ params, body: { add: [own.id], reason } }))) return
    keeping.done()
    onClose()
    notify(`${own.key} is left out.`, { undo: () => void attempt({ params, body: { remove: [own.id] } }) })
  }
  return (
    <Dialog title={`Leave ${own.key} out`} onClose={onClose} kept={keeping}>
      <p className="quiet">
        It is in by {own.by.map(sourceLabels(of.sources)).join(' and ')}; left out, it stays out whatever these bring.
      </p>
      <Form onSend={() => (reason.trim() === '' ? undefined : void store())}>
        <Field label="Why">
          {(id) => (
            <TextInput id={id} value={reason} maxLength={300} onChange={(event) => setReason(event.target.value)} />
          )}
        </Field>
        <Button look="main" type="submit" disabled={busy || reason.trim() === ''}>
          Leave it out
        </Button>
      </Form>
    </Dialog>
  )
}

/** What is left out, why, and by whom. */
function Left({ of, may }: { of: SuiteSheet; may: boolean }) {
  const { key } = useHere()
  const { attempt } = useWrite(excludeCases)
  const params = { key, ref: of.key }
  const letIn = async ({ id, key: ref, reason }: SuiteSheet['exclusions'][number]) => {
    if (await attempt({ params, body: { remove: [id] } }))
      notify(`${ref} is in again, if anything brings it.`, {
        undo: () => void attempt({ params, body: { add: [id], reason } }),
      })
  }
  if (of.exclusions.length === 0) return null
  return (
    <>
      <h4 className={css['small']}>Left out</h4>
      <ul className={css['left']}>
        {of.exclusions.map((own) => (
          <li key={own.id}>
            <span className="key quiet">{own.key}</span>
            <span>
              <a href={`/p/${key}/${own.key}`}>{own.title}</a>
              <br />
              <span className="quiet">
                {own.reason}; {own.by ?? 'somebody'}, {ago(own.at)}
              </span>
            </span>
            {may && (
              <span className={css['acts']}>
                <Button look="word" onClick={() => void letIn(own)}>
                  let in
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
    </>
  )
}
