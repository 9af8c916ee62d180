import { useState } from 'react'
import type { PlanSheet } from '#core/plans/contract.ts'
import { readCase } from '#core/cases/contract.ts'
import { readRequirement } from '#core/requirements/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { useHere } from '#ui/shell/here.ts'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { Part } from '#ui/shell/SheetParts.tsx'
import css from './Plan.module.css'
import type { PartProps } from './PlanSheet.tsx'

import { AddLine, FreeText, Head } from './PlanBits.tsx'

type Risk = PlanSheet['risks'][number]
const saidRisks = (risks: readonly Risk[]) =>
  risks.map(({ title, likelihood, impact, answers }) => ({
    title,
    likelihood,
    impact,
    requirements: answers.filter(({ kind }) => kind === 'requirement').map(({ id }) => id),
    cases: answers.filter(({ kind }) => kind === 'case').map(({ id }) => id),
  }))

/** Why is this tested? The objective, and the risks with what answers each. */
export function WhyPart(props: PartProps) {
  const { of, may, edit } = props
  const [answering, setAnswering] = useState<number | null>(null)
  const put = (risks: readonly Risk[]) => edit({ risks: saidRisks(risks) })
  return (
    <>
      <Head title="Why?">What this plan finds out, and what could go wrong.</Head>
      <RichText
        label="objective"
        html={of.objective}
        placeholder={may ? 'What does this plan find out?' : ''}
        place={`${of.key}.objective`}
        onStore={may ? (objective) => edit({ objective }) : undefined}
      />
      <Part title="Risks">
        {of.risks.length > 0 && (
          <table className={css['table']}>
            <thead>
              <tr>
                <th scope="col" data-end>
                  Weight
                </th>
                <th scope="col">Risk</th>
                <th scope="col">Answered by</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {of.risks.map((risk, at) => (
                <RiskRow
                  key={risk.id}
                  of={risk}
                  may={may}
                  answering={answering === risk.id}
                  onAnswer={() => setAnswering(answering === risk.id ? null : risk.id)}
                  onPut={(to) => put(of.risks.map((each, n) => (n === at ? to : each)))}
                  onRemove={async () => {
                    const before = of.risks
                    if (await put(of.risks.filter((_, n) => n !== at)))
                      notify('The risk is taken away.', { undo: () => void put(before) })
                  }}
                />
              ))}
            </tbody>
          </table>
        )}
        {of.risks.length === 0 && <p className="quiet">No risk is written down.</p>}
        {may && (
          <AddLine
            label="A risk, such as “the new fares are wrong on the quay”"
            action="Add"
            onAdd={(title) => put([...of.risks, { id: 0, title, likelihood: 3, impact: 3, answers: [] }])}
          />
        )}
      </Part>
      <FreeText {...props} part="why" placeholder="Anything else that says why" />
    </>
  )
}

interface RiskRowProps {
  readonly of: Risk
  readonly may: boolean
  readonly answering: boolean
  readonly onAnswer: () => void
  readonly onPut: (to: Risk) => Promise<boolean>
  readonly onRemove: () => Promise<void>
}

const grades = ['1', '2', '3', '4', '5'] as const

function RiskRow({ of, may, answering, onAnswer, onPut, onRemove }: RiskRowProps) {
  const { key } = useHere()
  const grade = (label: string, value: number, set: (to: number) => Risk) => (
    <Choice
      label={label}
      value={String(value)}
      options={grades}
      disabled={!may}
      onChoose={(to) => void onPut(set(Number(to)))}
    />
  )
  return (
    <tr>
      <td data-end>
        <b>{of.likelihood * of.impact}</b>{' '}
        <span className="quiet">
          {grade('Likelihood', of.likelihood, (likelihood) => ({ ...of, likelihood }))} ×{' '}
          {grade('Impact', of.impact, (impact) => ({ ...of, impact }))}
        </span>
      </td>
      <td>{of.title}</td>
      <td>
        {of.answers.map((answer) => (
          <span key={answer.key} title={answer.title}>
            <a href={`/p/${key}/${answer.key}`}>{answer.key}</a>{' '}
            {may && (
              <button
                type="button"
                aria-label={`${answer.key} does not answer it`}
                onClick={() => void onPut({ ...of, answers: of.answers.filter((each) => each !== answer) })}
              >
                ×
              </button>
            )}{' '}
          </span>
        ))}
        {of.answers.length === 0 && <span className="quiet">nothing yet</span>}{' '}
        {may && (
          <Button look="word" onClick={onAnswer}>
            add
          </Button>
        )}
        {answering && <AnswerBox of={of} onPut={onPut} onDone={onAnswer} />}
      </td>
      <td>
        {may && (
          <button type="button" aria-label={`Take away the risk ${of.title}`} onClick={() => void onRemove()}>
            ×
          </button>
        )}
      </td>
    </tr>
  )
}

function AnswerBox({ of, onPut, onDone }: { of: Risk; onPut: RiskRowProps['onPut']; onDone: () => void }) {
  const { key } = useHere()
  const [kind, setKind] = useState<'requirement' | 'case'>('requirement')
  const add = async (refs: string[]) => {
    try {
      const found = await Promise.all(
        refs.map(async (ref) => {
          const { id, title } = await (kind === 'requirement'
            ? call(readRequirement, { params: { key, ref } })
            : call(readCase, { params: { key, ref } }))
          return { kind, id, key: ref, title }
        }),
      )
      if (await onPut({ ...of, answers: [...of.answers, ...found] })) onDone()
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
  return (
    <div>
      <Choice
        label="What answers it"
        value={kind}
        options={[
          { value: 'requirement', label: 'a requirement' },
          { value: 'case', label: 'a case' },
        ]}
        onChoose={setKind}
      />
      <LinkBox key={kind} to={kind} verb="Add" onLink={add} />
    </div>
  )
}
