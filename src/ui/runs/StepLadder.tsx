import { useEffect, useRef } from 'react'
import { withValues } from '#core/cases/steps.ts'
import type { Desk } from '#core/runs/desk-contract.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import css from './Desk.module.css'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { Happened } from './Happened.tsx'
import type { Sayable } from './sayable.ts'
import type { useDesk } from './useDesk.ts'

interface Props {
  readonly own: ReturnType<typeof useDesk>
  readonly shown: Desk['preview']
  readonly values: Readonly<Record<string, string>>
  readonly ofSteps: readonly Sayable[]
}

const marked = (html: string, values: Readonly<Record<string, string>>): string =>
  withValues(
    html,
    Object.fromEntries(Object.entries(values).map(([name, value]) => [name, `<mark>${escapeText(value)}</mark>`])),
  )

/** Steps as rungs on a rail; the current one is open and large, with what is expected, what happened, and the verdict keys in it. */
export function StepLadder({ own, shown, values, ofSteps }: Props) {
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
              {mark?.word ? (
                <SaidMark verdict={verdict} word={mark.word} size={current ? 18 : 15} />
              ) : (
                <Mark
                  verdict={current && verdict === 'Not run' ? 'In progress' : verdict}
                  size={current ? 18 : 15}
                  label={`Step ${at + 1}: ${verdict}`}
                />
              )}
            </span>
            {current ? (
              <Open
                at={at}
                step={step}
                values={values}
                own={own}
                label={mark?.word ?? verdict}
                comment={mark?.comment ?? ''}
                ofSteps={ofSteps}
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

interface OpenProps extends Pick<Props, 'own' | 'values' | 'ofSteps'> {
  readonly at: number
  readonly step: Desk['preview']['steps'][number]
  /** The verdict it has, as it is called here. */
  readonly label: string
  readonly comment: string
  readonly evidence: number
}

/** What is to be known at the step, a line each. */
const Lines = ({ step, values }: Pick<OpenProps, 'step' | 'values'>) => (
  <>
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
    {step.evidence && (
      <p className={css['line']}>
        <span>asks for</span>
        <span className="quiet">evidence: a picture or a file of what you see (v)</span>
      </p>
    )}
  </>
)

function Open({ at, step, values, own, label, comment, ofSteps, evidence }: OpenProps) {
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
      <Lines step={step} values={values} />
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
        {ofSteps.map((of) => (
          <button key={of.label} type="button" aria-pressed={label === of.label} onClick={() => own.mark(of.said)}>
            <kbd>{of.key}</kbd> <SaidMark verdict={of.verdict} word={of.word} label={false} /> {of.label}
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
