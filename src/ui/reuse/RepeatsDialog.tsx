import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { extractRoutine } from '#core/reuse/contract.ts'
import { findAlike, findRepeats } from '#core/reuse/repeat-contract.ts'
import { mergeCases, unmergeCase } from '#core/reuse/copy-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Repeats.module.css'

/** What is written more than once: steps that could be a routine, and whole cases that say nearly the same. */
export function RepeatsDialog({ own, onClose }: { own?: string; onClose: () => void }) {
  const [what, setWhat] = useState<'steps' | 'cases'>('steps')
  return (
    <Dialog
      title={own === undefined ? 'What is written more than once' : `Where the steps of ${own} stand too`}
      onClose={onClose}
      wide
    >
      {own === undefined && (
        <p className={css['tabs']} role="radiogroup" aria-label="What to look for">
          <label>
            <input type="radio" name="what" checked={what === 'steps'} onChange={() => setWhat('steps')} /> steps that
            cases repeat word for word
          </label>
          <label>
            <input type="radio" name="what" checked={what === 'cases'} onChange={() => setWhat('cases')} /> cases that
            say nearly the same
          </label>
        </p>
      )}
      {what === 'steps' ? <RepeatedSteps own={own} /> : <AlikeCases />}
    </Dialog>
  )
}

type Repeat = OutputOf<typeof findRepeats>['rows'][number]

function RepeatedSteps({ own }: { own: string | undefined }) {
  const { key } = useHere()
  const { data } = useAnswer(findRepeats, {
    params: { key },
    query: { ...(own !== undefined && { ref: own }), limit: 20 },
  })
  if (!data) return <p className="quiet">Comparing the steps of all cases…</p>
  if (data.rows.length === 0)
    return <p className="quiet">No two steps in a row stand in more than one case. That is as it should be.</p>
  return (
    <>
      <p role="status">
        <b>{data.total}</b> {data.total === 1 ? 'run' : 'runs'} of steps {data.total === 1 ? 'stands' : 'stand'} in more
        than one case{data.total > data.rows.length && `; the ${data.rows.length} that save most are shown`}.
      </p>
      <ul className={css['found']} tabIndex={0} aria-label="Repeated steps">
        {data.rows.map((row) => (
          <RepeatRow key={`${row.length}${row.places[0]?.case ?? ''}${row.places[0]?.at ?? 0}`} of={row} />
        ))}
      </ul>
    </>
  )
}

function RepeatRow({ of }: { of: Repeat }) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(extractRoutine)
  const [title, setTitle] = useState('')
  const [first, ...also] = of.places
  const make = async () => {
    if (!first) return
    const done = await attempt({
      params: { key },
      body: {
        title,
        length: of.length,
        from: { case: first.case, at: first.at },
        also: also.map(({ case: ref, at }) => ({ case: ref, at })),
      },
    })
    if (done)
      notify(`${done.key} ${title} stands in ${done.cases} cases now; what each said before is one of its versions.`)
  }
  return (
    <li>
      <ol>
        {of.steps.map((step, index) => (
          <li key={index}>
            {step.action}
            {step.expected !== '' && <span className="quiet"> ⇒ {step.expected}</span>}
          </li>
        ))}
      </ol>
      <div>
        <p>
          in{' '}
          {of.places.slice(0, 12).map((place, index) => (
            <span key={place.case}>
              {index > 0 && ', '}
              <a href={`/p/${key}/${place.case}`} title={`${place.title}, from step ${place.at + 1}`}>
                {place.case}
              </a>
            </span>
          ))}
          {of.places.length > 12 && ` and ${of.places.length - 12} more`};{' '}
          <span className="quiet">
            {of.saved > 0
              ? `a routine saves ${of.saved} steps of writing`
              : 'a routine saves no writing, but one place to change'}
          </span>
        </p>
        {project.role !== 'viewer' && (
          <form
            className={css['make']}
            onSubmit={(event) => {
              event.preventDefault()
              if (title.trim() !== '') void make()
            }}
          >
            <TextInput
              aria-label={`Name of a routine for ${of.steps[0]?.action ?? ''}`}
              placeholder="What they do, as one would say it"
              value={title}
              onChange={(event) => setTitle(event.target.value)}
            />
            <Button
              type="submit"
              disabled={title.trim() === '' || busy}
            >{`Make a routine in ${of.places.length} cases`}</Button>
          </form>
        )}
      </div>
    </li>
  )
}

type Group = OutputOf<typeof findAlike>['rows'][number]

function AlikeCases() {
  const { key } = useHere()
  const [atLeast, setAtLeast] = useState('0.6')
  const { data } = useAnswer(
    findAlike,
    { params: { key }, query: { atLeast: Number(atLeast), limit: 30 } },
    { keep: true },
  )
  return (
    <>
      <p role="status">
        Cases of which{' '}
        <Choice
          label="How alike"
          value={atLeast}
          options={[
            { value: '0.9', label: 'nine tenths' },
            { value: '0.75', label: 'three quarters' },
            { value: '0.6', label: 'three fifths' },
            { value: '0.45', label: 'nearly half' },
          ]}
          onChoose={setAtLeast}
        />{' '}
        of what their words tell is the same:{' '}
        {data ? (
          <b>{data.total === 0 ? 'none' : `${data.total} ${data.total === 1 ? 'group' : 'groups'}`}</b>
        ) : (
          'comparing…'
        )}
        {data &&
          !data.whole &&
          ', and more than could be compared: so much is alike here that a higher share tells more'}
        .
      </p>
      <ul className={css['found']} tabIndex={0} aria-label="Cases that are alike">
        {data?.rows.map((row) => (
          <GroupRow key={row.cases.map((each) => each.key).join()} of={row} />
        ))}
      </ul>
    </>
  )
}

/** One of them is kept; it takes the links of those ticked. The one with the most results is proposed. */
function GroupRow({ of }: { of: Group }) {
  const { key, project } = useHere()
  const merging = useWrite(mergeCases)
  const undoing = useWrite(unmergeCase)
  const best = [...of.cases].sort((a, b) => b.attempts - a.attempts || b.links - a.links || b.steps - a.steps)[0]
  const [keep, setKeep] = useState(best?.key ?? '')
  // Of two, the other one goes; of more, a person says which.
  const [ticked, setTicked] = useState<readonly string[]>(of.cases.length === 2 ? of.cases.map((each) => each.key) : [])
  const drop = of.cases.map((each) => each.key).filter((each) => each !== keep && ticked.includes(each))
  const merge = async () => {
    const done = await merging.attempt({ params: { key }, body: { keep, drop } })
    if (done)
      notify(
        `${keep} stands for ${done.dropped.join(', ')} now and took ${done.links} ${done.links === 1 ? 'link' : 'links'}.`,
        {
          undo: () => {
            for (const ref of done.dropped) void undoing.attempt({ params: { key, ref } })
          },
        },
      )
  }
  return (
    <li>
      <table className={css['alike']}>
        <thead>
          <tr>
            <th>keep</th>
            <th>merge</th>
            <th>{Math.floor(of.likeness * 100)} % alike</th>
            <th>steps</th>
            <th>links</th>
            <th>results</th>
          </tr>
        </thead>
        <tbody>
          {of.cases.map((each) => (
            <tr key={each.key}>
              <td>
                <input
                  type="radio"
                  name={`keep-${of.cases[0]?.key ?? ''}`}
                  aria-label={`Keep ${each.key}`}
                  checked={keep === each.key}
                  onChange={() => setKeep(each.key)}
                />
              </td>
              <td>
                <input
                  type="checkbox"
                  aria-label={`Merge ${each.key}`}
                  disabled={keep === each.key}
                  checked={drop.includes(each.key)}
                  onChange={(event) =>
                    setTicked(event.target.checked ? [...ticked, each.key] : ticked.filter((own) => own !== each.key))
                  }
                />
              </td>
              <td>
                <a href={`/p/${key}/${each.key}`}>
                  <span className="key">{each.key}</span> {each.title}
                </a>
              </td>
              <td>{each.steps}</td>
              <td>{each.links}</td>
              <td>{each.attempts}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {of.more > 0 && <p className="quiet">and {of.more} more that hang together with these</p>}
      {project.role === 'lead' && (
        <p>
          <Button disabled={drop.length === 0 || merging.busy} onClick={() => void merge()}>
            {drop.length === 0 ? 'Tick what is to be merged' : `Merge ${drop.join(', ')} into ${keep}`}
          </Button>
        </p>
      )}
    </li>
  )
}
