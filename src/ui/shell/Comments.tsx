import { type KeyboardEvent, useRef, useState } from 'react'
import { addComment, listComments } from '#core/talk/contract.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import { useAnswer, useWrite } from './answers.tsx'
import css from './Comments.module.css'
import { ago } from './people.ts'
import { useHere } from './here.ts'

/** What people say about an object, or about one of its steps; what is typed stays until it is stored. `@` names a person, who is told. */
export function Comments({ about, step = null }: { about: string; step?: number | null }) {
  const { key } = useHere()
  const { data } = useAnswer(listComments, { params: { key }, query: { ref: about } })
  return (
    <div className={css['comments']}>
      {data?.rows
        .filter((row) => row.step === step)
        .map(({ id, person, at, text: html }) => (
          <article key={id}>
            <header>
              <b>{person}</b> <span className="quiet">{ago(at)}</span>
            </header>
            <Shown html={html} />
          </article>
        ))}
      <Writer about={about} step={step} />
    </div>
  )
}

function Writer({ about, step }: { about: string; step: number | null }) {
  const { key, project, me } = useHere()
  const [text, setText] = useState('')
  const [caret, setCaret] = useState(0)
  const [at, setAt] = useState(0)
  const area = useRef<HTMLTextAreaElement>(null)
  const { attempt, busy } = useWrite(addComment)
  const begun = /(?:^|[\s(])@([\p{L} ]{0,30})$/u.exec(text.slice(0, caret))
  const people = begun
    ? project.people
        .filter(
          ({ id, name }) =>
            id !== me.id && name.toLowerCase().startsWith((begun[1] ?? '').toLowerCase()) && name !== begun[1],
        )
        .slice(0, 6)
    : []
  const send = async () => {
    const html = text
      .split(/\n{2,}/)
      .map((part) => `<p>${escapeText(part).replace(/\n/g, '<br>')}</p>`)
      .join('')
    const done = text.trim() === '' ? null : await attempt({ params: { key }, body: { ref: about, step, text: html } })
    if (!done) return
    setText('')
    if (done.told.length > 0) notify(`${done.told.join(' and ')} ${done.told.length === 1 ? 'is' : 'are'} told.`)
  }
  const name = (person: string) => {
    const start = caret - (begun?.[1]?.length ?? 0)
    const next = `${text.slice(0, start)}${person} ${text.slice(caret)}`
    setText(next)
    setCaret(start + person.length + 1)
    area.current?.focus()
  }
  const hear = (event: KeyboardEvent) => {
    event.stopPropagation()
    const chosen = people[Math.min(at, people.length - 1)]
    if (chosen && (event.key === 'Enter' || event.key === 'Tab') && !event.ctrlKey) {
      event.preventDefault()
      name(chosen.name)
    } else if (chosen && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
      event.preventDefault()
      setAt((at + (event.key === 'ArrowDown' ? 1 : people.length - 1)) % people.length)
    } else if (event.key === 'Enter' && event.ctrlKey) void send()
  }
  return (
    <>
      <textarea
        ref={area}
        aria-label={step === null ? 'Comment' : 'Comment on this step'}
        placeholder="Say something about it; @ names a person"
        rows={text === '' ? 1 : 3}
        value={text}
        spellCheck
        onChange={(event) => {
          setText(event.target.value)
          setCaret(event.target.selectionStart)
          setAt(0)
        }}
        onSelect={(event) => setCaret(event.currentTarget.selectionStart)}
        onKeyDown={hear}
      />
      {people.length > 0 && (
        <ul className={css['names']} role="listbox" aria-label="People">
          {people.map((person, index) => (
            <li
              key={person.id}
              role="option"
              aria-selected={index === Math.min(at, people.length - 1)}
              onMouseDown={(event) => {
                event.preventDefault()
                name(person.name)
              }}
            >
              {person.name}
            </li>
          ))}
        </ul>
      )}
      {text !== '' && (
        <Button look="main" disabled={busy} onClick={() => void send()}>
          Comment
        </Button>
      )}
    </>
  )
}
