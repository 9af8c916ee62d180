import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { extractRoutine } from '#core/reuse/contract.ts'
import { findAlike, findRepeats } from '#core/reuse/repeat-contract.ts'
import { mergeCases, unmergeCase } from '#core/reuse/copy-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Named } from '#ui/shell/SheetParts.tsx'
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

const mostNamed = 12

function RepeatRow({ of }: { of: Repeat }) {
  const { project } = useHere()
  const { places, saved } = of
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
          <Named
            refs={places
              .slice(0, mostNamed)
              .map((place) => ({ key: place.case, title: `${place.title}, from step ${place.at + 1}` }))}
          />
          {places.length > mostNamed && ` and ${places.length - mostNamed} more`};{' '}
          <span className="quiet">
            {saved > 0
              ? `a routine saves ${saved} steps of writing`
              : 'a routine saves no writing, but one place to change'}
          </span>
        </p>
        {project.role !== 'viewer' && <MakeRoutine of={of} />}
      </div>
    </li>
  )
}

function MakeRoutine({ of: { places, length, steps } }: { of: Repeat }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(extractRoutine)
  const [title, setTitle] = useState('')
  const make = async () => {
    const [from, ...also] = places.map((place) => ({ case: place.case, at: place.at }))
    if (!from || title.trim() === '') return
    const done = await attempt({ params: { key }, body: { title, length, from, also } })
    if (done)
      notify(`${done.key} ${title} stands in ${done.cases} cases now; what each said before is one of its versions.`)
  }
  return (
    <Form className={css['make']} onSend={() => void make()}>
      <TextInput
        aria-label={`Name of a routine for ${steps[0]?.action ?? ''}`}
        placeholder="What they do, as one would say it"
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <Button type="submit" disabled={title.trim() === '' || busy}>
        {`Make a routine in ${places.length} cases`}
      </Button>
    </Form>
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

/** The one with the most results is proposed to stay. */
const bestOf = (cases: Group['cases']): string =>
  [...cases].sort((a, b) => b.attempts - a.attempts || b.links - a.links || b.steps - a.steps)[0]?.key ?? ''

/** Which of a group is kept, and which go into it: of two the other one; of more, those a person says. */
function useMerging({ cases }: Group) {
  const { key } = useHere()
  const merging = useWrite(mergeCases)
  const undoing = useWrite(unmergeCase)
  const keys = cases.map((each) => each.key)
  const [keep, setKeep] = useState(() => bestOf(cases))
  const [ticked, setTicked] = useState<readonly string[]>(cases.length === 2 ? keys : [])
  const drop = keys.filter((each) => each !== keep && ticked.includes(each))
  const tick = (ref: string, on: boolean) => setTicked(on ? [...ticked, ref] : ticked.filter((own) => own !== ref))
  const merge = async () => {
    const done = await merging.attempt({ params: { key }, body: { keep, drop } })
    if (!done) return
    notify(`${keep} stands for ${done.dropped.join(', ')} now and took ${counted(done.links, 'link')}.`, {
      undo: () => {
        for (const ref of done.dropped) void undoing.attempt({ params: { key, ref } })
      },
    })
  }
  return { keep, setKeep, drop, tick, merge: () => void merge(), busy: merging.busy }
}
type Merging = ReturnType<typeof useMerging>

/** One of them is kept; it takes the links of those ticked. */
function GroupRow({ of }: { of: Group }) {
  const { project } = useHere()
  const merging = useMerging(of)
  const { keep, drop, merge, busy } = merging
  return (
    <li>
      <table className={css['alike']}>
        <thead>
          <tr>
            {['keep', 'merge', `${Math.floor(of.likeness * 100)} % alike`, 'steps', 'links', 'results'].map((head) => (
              <th key={head}>{head}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {of.cases.map((each) => (
            <AlikeRow key={each.key} of={each} group={of.cases[0]?.key ?? ''} merging={merging} />
          ))}
        </tbody>
      </table>
      {of.more > 0 && <p className="quiet">and {of.more} more that hang together with these</p>}
      {project.role === 'lead' && (
        <p>
          <Button disabled={drop.length === 0 || busy} onClick={merge}>
            {drop.length === 0 ? 'Tick what is to be merged' : `Merge ${drop.join(', ')} into ${keep}`}
          </Button>
        </p>
      )}
    </li>
  )
}

function AlikeRow({
  of,
  group,
  merging: { keep, setKeep, drop, tick },
}: {
  of: Group['cases'][number]
  group: string
  merging: Merging
}) {
  const { key } = useHere()
  return (
    <tr>
      <td>
        <input
          type="radio"
          name={`keep-${group}`}
          aria-label={`Keep ${of.key}`}
          checked={keep === of.key}
          onChange={() => setKeep(of.key)}
        />
      </td>
      <td>
        <input
          type="checkbox"
          aria-label={`Merge ${of.key}`}
          disabled={keep === of.key}
          checked={drop.includes(of.key)}
          onChange={(event) => tick(of.key, event.target.checked)}
        />
      </td>
      <td>
        <a href={`/p/${key}/${of.key}`}>
          <span className="key">{of.key}</span> {of.title}
        </a>
      </td>
      <td>{of.steps}</td>
      <td>{of.links}</td>
      <td>{of.attempts}</td>
    </tr>
  )
}
