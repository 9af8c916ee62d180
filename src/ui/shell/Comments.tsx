import { type KeyboardEvent, useRef, useState } from 'react'
import { addComment, listComments } from '#core/talk/contract.ts'
import type { PlanPart } from '#core/plans/state.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { Button } from '#ui/kit/Button.tsx'
import { KeptNote, useKept } from '#ui/kit/kept.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import { useAnswer, useWrite } from './answers.tsx'
import css from './Comments.module.css'
import { begunName, peopleMeant, withName } from './naming.ts'
import { ago } from './people.ts'
import { useHere } from './here.ts'

interface About {
  readonly about: string
  readonly step?: number | null
  /** Of a plan: one of its parts. */
  readonly part?: PlanPart | null
}

/** What people say about an object, or about one of its steps or parts; what is typed stays until it is stored. `@` names a person, who is told. */
export function Comments({ about, step = null, part = null }: About) {
  const { key } = useHere()
  const { data } = useAnswer(listComments, { params: { key }, query: { ref: about } })
  return (
    <div className={css['comments']}>
      {data?.rows
        .filter((row) => row.step === step && row.part === part)
        .map(({ id, person, at, text: html }) => (
          <article key={id}>
            <header>
              <b>{person}</b> <span className="quiet">{ago(at)}</span>
            </header>
            <Shown html={html} />
          </article>
        ))}
      <Writer about={about} step={step} part={part} />
    </div>
  )
}

interface Written {
  readonly text: string
  readonly caret: number
}

/** Paragraphs, with their lines. */
const htmlOf = (text: string): string =>
  text
    .split(/\n{2,}/)
    .map((part) => `<p>${escapeText(part).replace(/\n/g, '<br>')}</p>`)
    .join('')

/** The people who may be meant where the caret stands, and the one of them that is chosen. */
function useNaming({ text, caret }: Written, onName: (written: Written) => void) {
  const { project, me } = useHere()
  const [at, setAt] = useState(0)
  const people = peopleMeant(project.people, begunName(text, caret), me.id)
  const chosen = people[Math.min(at, people.length - 1)]
  const name = (person: string) => onName(withName(text, caret, person))
  /** Answers whether the key was about names. */
  const hear = (event: KeyboardEvent): boolean => {
    if (!chosen) return false
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? people.length - 1 : 0
    const takes = (event.key === 'Enter' || event.key === 'Tab') && !event.ctrlKey
    if (by > 0) setAt((at + by) % people.length)
    else if (takes) name(chosen.name)
    else return false
    event.preventDefault()
    return true
  }
  return { people, chosen, name, hear, begin: () => setAt(0) }
}

function Writer({ about, step, part }: Required<About>) {
  const { key } = useHere()
  const [text, setText, keeping] = useKept(`comment.${about}.${step ?? part ?? ''}`, '')
  const [caret, setCaret] = useState(0)
  const area = useRef<HTMLTextAreaElement>(null)
  const { attempt, busy } = useWrite(addComment)
  const naming = useNaming({ text, caret }, (next) => {
    setText(next.text)
    setCaret(next.caret)
    area.current?.focus()
  })
  const send = async () => {
    if (text.trim() === '') return
    const done = await attempt({ params: { key }, body: { ref: about, step, part, text: htmlOf(text) } })
    if (!done) return
    keeping.done()
    if (done.told.length > 0) notify(`${done.told.join(' and ')} ${done.told.length === 1 ? 'is' : 'are'} told.`)
  }
  return (
    <>
      <textarea
        ref={area}
        aria-label={step !== null ? 'Comment on this step' : part !== null ? 'Comment on this part' : 'Comment'}
        placeholder="Say something about it; @ names a person"
        rows={text === '' ? 1 : 3}
        value={text}
        // What would be typed on while it is sent would go with it.
        readOnly={busy}
        spellCheck
        onChange={({ target }) => {
          setText(target.value)
          setCaret(target.selectionStart)
          naming.begin()
        }}
        onSelect={({ currentTarget }) => setCaret(currentTarget.selectionStart)}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (!naming.hear(event) && event.key === 'Enter' && event.ctrlKey) void send()
        }}
      />
      <Names of={naming} />
      <KeptNote of={keeping} />
      {text !== '' && (
        <Button look="main" disabled={busy} onClick={() => void send()}>
          Comment
        </Button>
      )}
    </>
  )
}

const Names = ({ of: { people, chosen, name } }: { of: ReturnType<typeof useNaming> }) =>
  people.length === 0 ? null : (
    <ul className={css['names']} role="listbox" aria-label="People">
      {people.map((person) => (
        <li
          key={person.id}
          role="option"
          aria-selected={person.id === chosen?.id}
          onMouseDown={(event) => {
            event.preventDefault()
            name(person.name)
          }}
        >
          {person.name}
        </li>
      ))}
    </ul>
  )
