import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import type { CaseSheet } from '#core/cases/contract.ts'
import { decideSuggestion, readSuggestion, startSuggestion, storeSuggestion } from '#core/review/contract.ts'
import { call } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import sheet from '#ui/shell/sheet.module.css'
import { Changes } from '#ui/cases/Versions.tsx'
import css from '#ui/cases/Versions.module.css'
import { Steps } from '#ui/cases/Steps.tsx'

/** Other wordings that people propose: written beside the case, compared with it, taken or declined. */
export function Suggestions({ of }: { of: CaseSheet }) {
  const { key, project } = useHere()
  const starting = useWrite(startSuggestion)
  const [open, setOpen] = useState<number | null>(null)
  const start = async () => {
    const done = await starting.attempt({ params: { key, ref: of.key } })
    if (done) setOpen(done.id)
  }
  const waiting = of.suggestions.filter(({ state }) => state === 'Open')
  if (of.steps === 0 || (of.suggestions.length === 0 && project.role === 'viewer')) return null
  return (
    <section className={sheet['part']} aria-label="Suggestions">
      <div className={sheet['partHead']}>
        <h3>Suggestions</h3>
        {project.role !== 'viewer' && (
          <Button look="word" onClick={() => void start()}>
            suggest changes
          </Button>
        )}
      </div>
      {of.suggestions.length === 0 && open === null && (
        <p className="quiet">None. A suggestion is written beside the case; its owner takes or declines it.</p>
      )}
      <ul className={sheet['files']}>
        {(waiting.length > 0 ? waiting : of.suggestions.slice(0, 3)).map((each) => (
          <li key={each.id}>
            <span>
              {each.note === '' ? 'not sent yet' : `“${each.note}”`} <span className="quiet">on {each.version}</span>
            </span>
            <span className="quiet">
              {shortName(each.by)} {ago(each.at)}, {each.state.toLowerCase()}
            </span>
            <Button look="word" onClick={() => setOpen(open === each.id ? null : each.id)}>
              {open === each.id ? 'close' : each.mine && each.state === 'Open' ? 'write' : 'look'}
            </Button>
          </li>
        ))}
      </ul>
      {open !== null && <Suggestion key={open} id={open} used={of.used} onEnd={() => setOpen(null)} />}
    </section>
  )
}

type Data = OutputOf<typeof readSuggestion>
interface SuggestionProps {
  readonly id: number
  readonly onEnd: () => void
}

function Suggestion({ id, used, onEnd }: SuggestionProps & { used: CaseSheet['used'] }) {
  const { key } = useHere()
  const { data } = useAnswer(readSuggestion, { params: { key, id } }, { keep: true })
  if (!data) return null
  const open = data.state === 'Open'
  const writing = data.mine && open
  return (
    <div className={css['comparison']}>
      {writing && <Writing id={id} of={data} used={used} />}
      {data.comparison.same ? (
        <p className="quiet">
          It says what {data.version} says{writing ? '; change something above' : ''}.
        </p>
      ) : (
        <Changes of={data.comparison} />
      )}
      {writing && !data.comparison.same && <Send id={id} onEnd={onEnd} />}
      {!data.mine && open && <Decide id={id} onEnd={onEnd} />}
    </div>
  )
}

function Writing({ id, of, used }: { id: number; of: Data; used: CaseSheet['used'] }) {
  const { key } = useHere()
  return (
    <Steps
      of={{
        key: `suggestion-${id}`,
        content: of.content,
        contentStamp: of.contentStamp,
        used,
        shownBy: 'readSuggestion',
        store: (content, stamp) => call(storeSuggestion, { params: { key, id }, body: { content, stamp } }),
      }}
    />
  )
}

function Send({ id, onEnd }: SuggestionProps) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(storeSuggestion)
  const [note, setNote, keeping] = useKept(`suggestion.${id}`, '')
  const send = async () => {
    if (!(await attempt({ params: { key, id }, body: { note } }))) return
    keeping.done()
    notify('Sent to the owner and the author.')
    onEnd()
  }
  return (
    <Form style={{ display: 'flex', gap: 8 }} onSend={() => void send()}>
      <TextInput
        aria-label="Why it should change"
        placeholder="Why it should change"
        value={note}
        onChange={(event) => setNote(event.target.value)}
        style={{ flex: 1 }}
      />
      <Button look="main" type="submit" disabled={note.trim() === '' || busy}>
        Send
      </Button>
    </Form>
  )
}

function Decide({ id, onEnd }: SuggestionProps) {
  const { key } = useHere()
  const { attempt } = useWrite(decideSuggestion)
  const decide = async (take: boolean) => {
    const done = await attempt({ params: { key, id }, body: { take } })
    if (!done) return
    const kept = done.kept ? ` What it said before is kept as ${done.kept}.` : ''
    notify(take ? `The working copy says it now.${kept}` : 'Declined; who suggested it is told.')
    onEnd()
  }
  return (
    <p style={{ display: 'flex', gap: 10 }}>
      <Button look="main" onClick={() => void decide(true)}>
        Take it
      </Button>
      <Button onClick={() => void decide(false)}>Decline</Button>
    </p>
  )
}
