import { plainly, type FinalVerdict } from '#core/lib/verdict.ts'
import { useEffect, useRef, useState } from 'react'
import { withValues } from '#core/cases/steps.ts'
import { commentStep, type Desk } from '#core/runs/contract.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import { useHere } from '#ui/shell/here.ts'
import { withComment } from './desk-attempt.ts'
import css from './Desk.module.css'
import type { useDesk } from './useDesk.ts'

interface Props {
  readonly own: ReturnType<typeof useDesk>
  readonly shown: Desk['preview']
  readonly values: Readonly<Record<string, string>>
  readonly verdictKeys: readonly (readonly [key: string, verdict: FinalVerdict])[]
}

const marked = (html: string, values: Readonly<Record<string, string>>): string =>
  withValues(
    html,
    Object.fromEntries(Object.entries(values).map(([name, value]) => [name, `<mark>${escapeText(value)}</mark>`])),
  )

/** Steps as rungs on a rail; the current one is open and large, with what is expected, what happened, and the verdict keys in it. */
export function StepLadder({ own, shown, values, verdictKeys }: Props) {
  const markOf = (step: number | null) =>
    own.attempt?.marks.find((mark) => mark.row === own.at.row && mark.step === step)
  return (
    <ol className={css['ladder']}>
      {shown.steps.map((step, at) => {
        const mark = markOf(step.id)
        const verdict = mark?.verdict ?? 'Not run'
        const current = at === own.at.step
        return (
          <li
            key={step.id ?? at}
            className={css['rung']}
            data-current={current || undefined}
            aria-current={current ? 'step' : undefined}
          >
            <span className={css['rail']}>
              <Mark
                verdict={current && verdict === 'Not run' ? 'In progress' : verdict}
                size={current ? 18 : 15}
                label={`Step ${at + 1}: ${verdict}`}
              />
            </span>
            {current ? (
              <Open
                at={at}
                step={step}
                values={values}
                own={own}
                verdict={verdict}
                comment={mark?.comment ?? ''}
                verdictKeys={verdictKeys}
                evidence={
                  own.attempt?.evidence.filter((each) => each.step === step.id && each.row === own.at.row).length ?? 0
                }
              />
            ) : (
              <button type="button" className={css['closed']} onClick={() => own.go(at)}>
                <span className="quiet">{at + 1}</span> <Shown inline html={marked(step.action, values)} />
                {mark?.comment && <span className="quiet"> · noted</span>}
              </button>
            )}
          </li>
        )
      })}
    </ol>
  )
}

interface OpenProps extends Pick<Props, 'own' | 'values' | 'verdictKeys'> {
  readonly at: number
  readonly step: Desk['preview']['steps'][number]
  readonly verdict: string
  readonly comment: string
  readonly evidence: number
}

function Open({ at, step, values, own, verdict, comment, verdictKeys, evidence }: OpenProps) {
  const rung = useRef<HTMLDivElement>(null)
  useEffect(() => {
    void rung.current?.scrollIntoView({ block: 'nearest' })
  }, [at])
  const used = Object.entries(values).filter(([name]) =>
    `${step.action}${step.expected}${step.data}`.includes(`{${name}}`),
  )
  return (
    <div ref={rung} className={css['open']}>
      <p className={css['action']}>
        <span className="quiet">{at + 1}</span> <Shown inline html={marked(step.action, values)} />
      </p>
      {step.from !== '' && (
        <p className={css['line']}>
          <span>from</span>
          <span className="quiet">{step.from}</span>
        </p>
      )}
      {step.expected !== '' && (
        <p className={css['line']}>
          <span>should be</span>
          <Shown inline html={marked(step.expected, values)} />
        </p>
      )}
      {step.data !== '' && (
        <p className={css['line']}>
          <span>data</span>
          <Shown inline html={marked(step.data, values)} />
        </p>
      )}
      {used.length > 0 && (
        <p className={css['values']}>
          {used.map(([name, value]) => (
            <span key={name}>
              {name} <b className="key">{value}</b>
            </span>
          ))}
          <span className={css['copies']}>
            <kbd>.</kbd> copies the next value
          </span>
        </p>
      )}
      <Happened key={`${own.at.row}:${step.id}`} own={own} step={step.id} comment={comment} />
      <div className={css['verdicts']} role="group" aria-label="Verdict of this step">
        {verdictKeys.map(([letter, each]) => (
          <button key={each} type="button" aria-pressed={verdict === each} onClick={() => own.mark(plainly(each))}>
            <kbd>{letter}</kbd> <Mark verdict={each} label={false} /> {each}
          </button>
        ))}
        <span className={css['stored']} role="status">
          {evidence > 0 && `${evidence} evidence · `}
          {own.waiting.count > 0 ? 'Storing…' : own.stored}
        </span>
      </div>
    </div>
  )
}

/** What happened, kept as it is typed: in this browser at once, on the server after a pause. */
function useHappened(own: Props['own'], step: number | null, comment: string) {
  const { key } = useHere()
  const { row } = own.at
  const draftName = `rovant.happened.${own.attempt?.id}.${row}.${step}`
  const [text, setText] = useState(comment)
  const sent = useRef(comment)
  useEffect(() => {
    const kept = localStorage.getItem(draftName)
    if (kept !== null && kept !== comment) setText(kept)
  }, [])
  const store = async () => {
    if (text === sent.current || step === null) return
    const attempt = await own.begin()
    if (!attempt) return
    sent.current = text
    try {
      const answer = await call(commentStep, { params: { key, id: attempt.id, row, step }, body: { text } })
      localStorage.removeItem(draftName)
      own.patch((before) => withComment(before, row, step, { text: answer.text, at: answer.storedAt }))
    } catch (error) {
      sent.current = ''
      notify(`${sentenceOf(error)} Your words are kept here.`, { tone: 'problem' })
    }
  }
  useEffect(() => {
    const wait = setTimeout(() => void store(), 900)
    return () => clearTimeout(wait)
  }, [text])
  const type = (typed: string) => {
    setText(typed)
    localStorage.setItem(draftName, typed)
  }
  return { text, type, store: () => void store() }
}

function Happened({ own, step, comment }: { own: Props['own']; step: number | null; comment: string }) {
  const { text, type, store } = useHappened(own, step, comment)
  return (
    <label className={css['happened']}>
      <span>what happened</span>
      <textarea
        data-happened
        rows={1}
        spellCheck
        value={text}
        placeholder="as expected, unless you write it here"
        onChange={(event) => type(event.target.value)}
        onBlur={store}
        onKeyDown={(event) => {
          if (event.key === 'Escape' || (event.key === 'Enter' && !event.shiftKey)) {
            event.preventDefault()
            event.currentTarget.blur()
          }
        }}
      />
    </label>
  )
}
