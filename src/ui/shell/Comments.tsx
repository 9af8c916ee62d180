import { useState } from 'react'
import { addComment, listComments } from '#core/talk/contract.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import { useAnswer, useWrite } from './answers.tsx'
import css from './Comments.module.css'
import { ago } from './People.tsx'
import { useHere } from './here.ts'

/** What people say about an object; what is typed stays until it is stored. */
export function Comments({ about }: { about: string }) {
  const { key } = useHere()
  const [text, setText] = useState('')
  const { data } = useAnswer(listComments, { params: { key }, query: { ref: about } })
  const { attempt, busy } = useWrite(addComment)
  const send = async () => {
    const html = text.split(/\n{2,}/).map((part) => `<p>${escapeText(part).replace(/\n/g, '<br>')}</p>`).join('')
    if (text.trim() !== '' && (await attempt({ params: { key }, body: { ref: about, text: html } }))) setText('')
  }
  return (
    <div className={css['comments']}>
      {data?.rows.map(({ id, person, at, text: html }) => <article key={id}><header><b>{person}</b> <span className="quiet">{ago(at)}</span></header><Shown html={html} /></article>)}
      <textarea aria-label="Comment" placeholder="Say something about it" rows={text === '' ? 1 : 3} value={text} spellCheck onChange={(event) => setText(event.target.value)} onKeyDown={(event) => { if (event.key === 'Enter' && event.ctrlKey) void send() }} />
      {text !== '' && <Button look="main" disabled={busy} onClick={() => void send()}>Comment</Button>}
    </div>
  )
}
