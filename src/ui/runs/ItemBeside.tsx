import { counted } from '#core/lib/figures.ts'
import { numberIn } from '#core/lib/key.ts'
import { listAttempts } from '#core/runs/attempts-contract.ts'
import type { Desk } from '#core/runs/desk-contract.ts'
import { readDesk } from '#core/runs/desk-contract.ts'
import { severalWords } from '#core/runs/several.ts'
import { waitWords } from '#core/runs/waits.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { sentenceOf } from '#ui/call.ts'
import { go } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { attemptAddress, attemptsOf } from '#ui/shell/attempts.ts'
import { History } from '#ui/shell/History.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ago, shortName } from '#ui/shell/people.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { outageWords } from './items.tsx'
import css from './RunSheet.module.css'

const close = () => go({ params: { item: null } })

/** An item beside the list it was opened from: what is known of it, with its case and its last attempt one key away. */
export function ItemBeside({ id }: { id: number }) {
  const { key } = useHere()
  const { data, error } = useAnswer(readDesk, { params: { key, id }, query: { mine: 'no' } })
  useKeys([{ id: 'close-item', keys: 'Escape', label: 'close the item', quiet: true, run: close }])
  return (
    <aside className={css['side']} data-asked aria-label="The item">
      {error && !data && <p role="alert">{sentenceOf(error)}</p>}
      {data && <Item desk={data} />}
    </aside>
  )
}

function Item({ desk }: { desk: Desk }) {
  const { key } = useHere()
  const { item } = desk
  const last = desk.attempt?.id
  const places = {
    desk: `/p/${key}/desk/${item.id}?mine=no`,
    case: `/p/${key}/${item.case}`,
    last: last === undefined ? null : attemptAddress(key, last),
  }
  useKeys([
    { id: 'item-desk', keys: 'x', label: 'execute it', run: () => location.assign(places.desk) },
    { id: 'item-case', keys: 'c', label: 'its case', run: () => location.assign(places.case) },
    {
      id: 'item-last',
      keys: 'l',
      label: 'its last attempt',
      run: () => (places.last === null ? notify('Nobody has begun it yet.') : location.assign(places.last)),
    },
  ])
  return (
    <>
      <div className={css['teamHead']}>
        <span className="key quiet">{item.case}</span>
        <Button look="word" onClick={close}>
          close
        </Button>
      </div>
      <h2>{item.title}</h2>
      <p>
        <SaidMark verdict={item.verdict} word={item.word} /> {item.word ?? item.verdict} in {item.environment}
        {item.build !== null && (
          <>
            , on <span className="key">{item.build}</span>
          </>
        )}
      </p>
      <p className={css['shape']}>
        <a href={places.desk}>execute</a>
        <a href={places.case}>the case</a>
        {places.last !== null && <a href={places.last}>its last attempt</a>}
      </p>
      <Plain of={desk} />
      <Attempts of={desk} />
      <Kept of={desk} />
      <Defects of={desk.defects} />
      <History about={String(item.id)} />
    </>
  )
}

/** Whose it is and by when, and what stands in its way. */
function Plain({ of: { item } }: { of: Desk }) {
  const notes = [
    item.several === null ? '' : severalWords(item.several, item.several.said),
    waitWords(item.waits, item.verdict),
    item.quarantine === null ? '' : `in quarantine: ${item.quarantine}`,
    item.outage === null ? '' : outageWords(item),
    item.moved ? 'the case was changed since it was put in; its newest version is executed' : '',
    item.spoiled === null ? '' : `spoiled by ${item.spoiled}`,
    item.owed.length === 0 ? '' : `asks for ${item.owed.join(', ')}`,
    item.reasons.length === 0 ? '' : `here because it is ${item.reasons.join(', ')}`,
  ].filter(Boolean)
  return (
    <>
      <p>
        {item.assignee === null ? 'Free to take' : `${item.assignee}’s`}, {item.minutes} min
        {item.dueOn !== null && `, due ${dayText(item.dueOn)}`}.
      </p>
      {notes.length > 0 && (
        <ul className={css['after']}>
          {notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
    </>
  )
}

const shown = 8

/** Every attempt at its case in its environment, in whatever run. */
function Attempts({ of: { item } }: { of: Desk }) {
  const { key } = useHere()
  const filter = JSON.stringify({
    all: [
      { field: 'case', op: 'is', values: [numberIn('case', item.case)] },
      { field: 'environment', op: 'is', values: [item.environment] },
    ],
  })
  const { data } = useAnswer(listAttempts, { params: { key }, query: { filter, limit: shown } })
  if (!data) return null
  return (
    <section aria-label="Attempts">
      <h2>Attempts</h2>
      {data.rows.length === 0 && <p className="quiet">None in {item.environment} yet.</p>}
      <ul className={css['after']}>
        {data.rows.map((row) => (
          <li key={row.id}>
            <SaidMark verdict={row.verdict} word={row.word} />{' '}
            <a className="key" href={attemptAddress(key, row.id)}>
              {row.build}
            </a>{' '}
            {row.person === null ? 'a machine' : shortName(row.person)}{' '}
            <span className="quiet">
              {row.finishedAt === null ? 'goes on' : ago(row.finishedAt)}
              {row.struck !== null && ', struck out'}
              {row.doubt !== null && ', doubted'}
              {row.run !== null && (
                <>
                  , <span className="key">{row.run}</span>
                </>
              )}
            </span>
          </li>
        ))}
        {data.total > data.rows.length && (
          <li>
            <a href={attemptsOf(key, filter)}>all {data.total}</a>
          </li>
        )}
      </ul>
    </section>
  )
}

/** What was kept with its attempt. */
function Kept({ of: { attempt } }: { of: Desk }) {
  if (!attempt || attempt.evidence.length === 0) return null
  return (
    <section aria-label="Evidence">
      <h2>Evidence</h2>
      <p>{counted(attempt.evidence.length, 'file')} of its last attempt:</p>
      <ul className={css['after']}>
        {attempt.evidence.map((file) => (
          <li key={file.id}>
            <a href={file.url}>{file.name}</a>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Defects({ of }: { of: Desk['defects'] }) {
  const { key } = useHere()
  if (of.length === 0) return null
  return (
    <section aria-label="Defects">
      <h2>Defects</h2>
      <ul className={css['after']}>
        {of.map((defect) => (
          <li key={defect.key}>
            <a className="key" href={`/p/${key}/${defect.key}`}>
              {defect.key}
            </a>{' '}
            {defect.title}{' '}
            <span className="quiet">
              {defect.state}
              {!defect.here && ', met elsewhere'}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
