import { useState } from 'react'
import { commaList } from '#core/lib/comma-list.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { type BuildSheet as Sheet, readBuild, tellTouched, updateBuild } from '#core/projects/builds-contract.ts'
import { readRequirement } from '#core/requirements/contract.ts'
import { NewRun } from '#ui/runs/NewRun.tsx'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { useUndoable } from '#ui/shell/undoable.ts'
import css from './SetUp.module.css'

type Touches = Sheet['touches']
const said = (touches: Touches) =>
  touches && { components: touches.components, requirements: touches.requirements.map(({ id }) => id) }

/** A build: what it makes stale and how that is answered, what it touches and repairs, and whether its smoke suite has passed. */
export function BuildSheet({ id, onClose }: { id: number; onClose: () => void }) {
  const { key, project } = useHere()
  const { data, error } = useAnswer(readBuild, { params: { key, id } }, { keep: true })
  const [opening, setOpening] = useState(false)
  if (error && !data)
    return (
      <Dialog title="A build" onClose={onClose}>
        <p role="alert">{sentenceOf(error)}</p>
      </Dialog>
    )
  if (!data) return null
  const lead = project.role === 'lead'
  return (
    <Dialog title={`Build ${data.name}`} onClose={onClose}>
      <p className="quiet">
        Of release {data.release}, {data.state === 'Intake' ? 'in intake since' : `${data.state.toLowerCase()},`}{' '}
        {momentText(data.offeredAt)}.
      </p>
      <Effect of={data} lead={lead} onRun={() => setOpening(true)} />
      <TouchesPart of={data} lead={lead} />
      <Smoke of={data} lead={lead} />
      <Notes of={data} lead={lead} />
      <Repairs of={data} />
      {opening && (
        <NewRun
          plan={null}
          known={{ title: `What ${data.name} made stale`, build: data.id, releaseId: data.releaseId }}
          slots={data.effect.slots}
          onClose={() => setOpening(false)}
        />
      )}
    </Dialog>
  )
}

interface PartProps {
  readonly of: Sheet
  readonly lead: boolean
}

function Effect({ of, lead, onRun }: PartProps & { onRun: () => void }) {
  const { stale, spared, minutes } = of.effect
  const makes = of.state === 'Offered' ? 'makes' : 'would make'
  return (
    <section className={css['buildPart']}>
      <p>
        {stale === 0 ? (
          `It ${makes} nothing stale.`
        ) : (
          <>
            It {makes} <b>{counted(stale, 'result')}</b> stale that {stale === 1 ? 'was' : 'were'} current; answering{' '}
            {stale === 1 ? 'it' : 'them'} takes <b>{minutesText(minutes)}</b>.
          </>
        )}
        {spared > 0 && (
          <span className="quiet">
            {' '}
            {counted(spared, 'result')} {spared === 1 ? 'stays' : 'stay'} current because it says that it does not touch{' '}
            {spared === 1 ? 'it' : 'them'}.
          </span>
        )}
      </p>
      {lead && stale > 0 && <Button onClick={onRun}>Open a run of these items</Button>}
    </section>
  )
}

/** What it touches: everything, or components and branches; said by hand or by changed paths. */
function TouchesPart({ of, lead }: PartProps) {
  const { key } = useHere()
  const store = useUndoable(updateBuild, { key, id: of.id })
  const [adding, setAdding] = useState<'branch' | 'paths' | null>(null)
  const { touches } = of
  const put = (next: NonNullable<ReturnType<typeof said>> | null, told: string) =>
    store({ touches: next }, told, { touches: said(touches) })
  const now = said(touches) ?? { components: [], requirements: [] }
  const add = async (more: Partial<typeof now>) => {
    const both = (own: 'components' | 'requirements') => [...new Set<unknown>([...now[own], ...(more[own] ?? [])])]
    const next = { components: both('components').map(String), requirements: both('requirements').map(Number) }
    if (await put(next, `What ${of.name} touches is stored.`)) setAdding(null)
  }
  return (
    <section className={css['buildPart']}>
      <h3>What it touches</h3>
      <p>
        {touches === null ? 'Nobody said it, so everything.' : touchesWords(touches)}{' '}
        {lead && touches !== null && (
          <Button look="word" onClick={() => void put(null, `${of.name} touches everything.`)}>
            everything
          </Button>
        )}
      </p>
      {lead && (
        <>
          <p>
            components:{' '}
            <EditText
              label="Components it touches"
              placeholder="none named"
              value={(touches?.components ?? []).join(', ')}
              onStore={(text) =>
                void put({ ...now, components: commaList(text) }, `What ${of.name} touches is stored.`)
              }
            />
          </p>
          <AddMore onAdd={setAdding} />
        </>
      )}
      {adding === 'branch' && (
        <LinkBox
          to="requirement"
          verb="Add"
          onLink={async (refs) => {
            const requirements = await idsOfRequirements(key, refs)
            if (requirements) await add({ requirements })
          }}
        />
      )}
      {adding === 'paths' && <FromPaths onTold={(components) => add({ components })} />}
    </section>
  )
}

const AddMore = ({ onAdd }: { onAdd: (what: 'branch' | 'paths') => void }) => (
  <p className={css['rowActs']}>
    <Button look="word" onClick={() => onAdd('branch')}>
      a requirement
    </Button>
    <Button look="word" onClick={() => onAdd('paths')}>
      from changed paths
    </Button>
  </p>
)

/** Ids of requirements by their keys; one that is not there is said. */
async function idsOfRequirements(key: string, refs: readonly string[]): Promise<number[] | null> {
  try {
    return (await Promise.all(refs.map((ref) => call(readRequirement, { params: { key, ref } })))).map(({ id }) => id)
  } catch (problem) {
    notify(sentenceOf(problem), { tone: 'problem' })
    return null
  }
}

function touchesWords({ components, requirements }: NonNullable<Touches>): string {
  const all = [...components, ...requirements.map(({ key, title }) => `${key} ${title}`)]
  return all.length === 0
    ? 'Nothing at all: no result grows stale by it.'
    : `${all.join(', ')}; what proves nothing of these stays current.`
}

/** A list of changed paths, or a file of them, read by the project’s table. */
function FromPaths({ onTold }: { onTold: (components: string[]) => Promise<void> }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(tellTouched)
  const [text, setText] = useState('')
  const [unknown, setUnknown] = useState<readonly string[]>([])
  const read = async () => {
    const told = await attempt({ params: { key }, body: { paths: text } })
    if (!told) return
    setUnknown(told.unknown)
    if (told.unknownTotal === 0) await onTold(told.components)
  }
  return (
    <Form className={css['text']} onSend={() => void read()}>
      <textarea
        aria-label="Changed paths"
        placeholder={'src/fares/age.ts\nsrc/deck/lanes.ts'}
        rows={4}
        value={text}
        spellCheck={false}
        onChange={(event) => setText(event.target.value)}
      />
      <span className={css['rowActs']}>
        <Button type="submit" disabled={busy || text.trim() === ''}>
          Read them
        </Button>
        <label>
          or a file{' '}
          <input
            type="file"
            accept="text/plain,.txt,.diff"
            onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
          />
        </label>
      </span>
      {unknown.length > 0 && (
        <p role="alert">
          The table of paths does not know {unknown.slice(0, 5).join(', ')}
          {unknown.length > 5 ? ' and others' : ''}: nobody can say that they touch nothing. Add them to the table, or
          take them out here.
        </p>
      )}
    </Form>
  )
}

function Smoke({ of, lead }: PartProps) {
  const { key } = useHere()
  const { smoke } = of
  if (of.state !== 'Intake' && !smoke) return null
  return (
    <section className={css['buildPart']}>
      <h3>Smoke suite</h3>
      {smoke === null ? (
        <p className="quiet">None is named; a build can be offered at once.</p>
      ) : (
        <p>
          <b>
            {smoke.passed} of {smoke.of}
          </b>{' '}
          of <a href={`/p/${key}/${smoke.suite.key}`}>{smoke.suite.title}</a> have passed on it.
        </p>
      )}
      {smoke && smoke.missing.length > 0 && (
        <Unfold
          summary={`${counted(smoke.missing.length, 'case')} that ${smoke.missing.length === 1 ? 'has' : 'have'} not`}
        >
          <ul>
            {smoke.missing.map(({ id, key: ref, title }) => (
              <li key={id}>
                <span className="key">{ref}</span> <a href={`/p/${key}/${ref}`}>{title}</a>
              </li>
            ))}
          </ul>
        </Unfold>
      )}
      {lead && of.state === 'Intake' && <OfferIt of={of} />}
    </section>
  )
}

/** Offers a build that is in intake; where its smoke suite has not passed, with why. */
function OfferIt({ of }: Pick<PartProps, 'of'>) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(updateBuild)
  const [reason, setReason] = useState('')
  const { smoke } = of
  const offer = async () => {
    const done = await attempt({
      params: { key, id: of.id },
      body: { state: 'Offered', ...(reason.trim() !== '' && { reason: reason.trim() }) },
    })
    if (done)
      notify(`${of.name} is offered for testing.`, {
        undo: () => void attempt({ params: { key, id: of.id }, body: { state: 'Intake' } }),
      })
  }
  return (
    <Form className={css['add']} onSend={() => void offer()}>
      {smoke && smoke.missing.length > 0 && (
        <TextInput
          aria-label="Why it is offered all the same"
          placeholder="why it is offered all the same"
          value={reason}
          maxLength={500}
          onChange={(event) => setReason(event.target.value)}
        />
      )}
      <Button type="submit" disabled={busy}>
        Offer it
      </Button>
    </Form>
  )
}

function Notes({ of, lead }: PartProps) {
  const { key } = useHere()
  const store = useUndoable(updateBuild, { key, id: of.id })
  if (!lead && of.notes === '') return null
  return (
    <section className={css['buildPart']}>
      <h3>Notes</h3>
      {lead ? (
        <EditText
          label="Notes"
          placeholder="what is new in it"
          value={of.notes}
          onStore={(notes) => void store({ notes }, 'The notes are stored.', { notes: of.notes })}
        />
      ) : (
        <p>{of.notes}</p>
      )}
    </section>
  )
}

function Repairs({ of }: { of: Sheet }) {
  const { key } = useHere()
  if (of.repairs.length === 0) return null
  return (
    <section className={css['buildPart']}>
      <h3>What it repairs</h3>
      <ul>
        {of.repairs.map(({ id, key: ref, title, state }) => (
          <li key={id}>
            <span className="key">{ref}</span> <a href={`/p/${key}/${ref}`}>{title}</a>{' '}
            <span className="quiet">{state}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
