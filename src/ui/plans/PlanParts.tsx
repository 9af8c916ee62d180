import { useState } from 'react'
import { listSuites } from '#core/plans/suite-contract.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { counted, minutesText, percent, percentText } from '#core/lib/figures.ts'
import { readCase } from '#core/cases/contract.ts'
import { readRequirement } from '#core/requirements/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { Part } from '#ui/shell/SheetParts.tsx'
import sheet from '#ui/shell/sheet.module.css'
import css from './Plan.module.css'
import type { PartProps } from './PlanSheet.tsx'
import { Ticks } from './Ticks.tsx'

const Head = ({ title, children }: { title: string; children?: React.ReactNode }) => (
  <header className={css['head']}>
    <h1>{title}</h1>
    <p className="quiet">{children}</p>
  </header>
)

const FreeText = ({
  of,
  may,
  edit,
  part,
  placeholder,
}: PartProps & { part: keyof PlanSheet['parts']; placeholder: string }) => (
  <RichText
    label={`words of ${part}`}
    html={of.parts[part] ?? ''}
    placeholder={may ? placeholder : ''}
    place={`${of.key}.${part}`}
    onStore={may ? (html) => edit({ parts: { [part]: html } }) : undefined}
  />
)

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
                <th scope="col" aria-label="Acts" />
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

function AddLine({
  label,
  action,
  onAdd,
}: {
  label: string
  action: string
  onAdd: (text: string) => Promise<boolean>
}) {
  const [text, setText] = useState('')
  const store = async () => {
    if (await onAdd(text.trim())) setText('')
  }
  return (
    <Form className={css['line']} onSend={() => (text.trim() === '' ? undefined : void store())}>
      <TextInput
        type="text"
        aria-label={label}
        placeholder={label}
        value={text}
        maxLength={200}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit" disabled={text.trim() === ''}>
        {action}
      </Button>
    </Form>
  )
}

/** What is tested? Suites, branches in and out, and what none of them touches. */
export function WhatPart(props: PartProps) {
  const { of, may, edit } = props
  const { key } = useHere()
  const { data } = useAnswer(listSuites, { params: { key }, query: { limit: 500 } })
  const environments = Math.max(1, of.environmentList.length)
  return (
    <>
      <Head title="What?">
        {counted(of.cases, 'case')} in {counted(environments, 'environment')}:{' '}
        {counted(of.cases * environments, 'slot')}, one pass takes <b>{minutesText(of.minutes * environments)}</b>.
      </Head>
      <Part
        title="Suites"
        act={
          may && (
            <Pop title="Suites" label="choose suites">
              <Ticks
                legend="Suites"
                all={(data?.rows ?? []).map(({ id, title, cases }) => ({ id, name: title, note: String(cases) }))}
                ticked={of.suiteList.map(({ id }) => id)}
                onTick={(suites) => void edit({ suites })}
              />
            </Pop>
          )
        }
      >
        {of.suiteList.length === 0 && <p className="quiet">It asks for no suite yet.</p>}
        <ul className={sheet['rows']}>
          {of.suiteList.map((suite) => (
            <li key={suite.id}>
              <span />
              <span className="key">{suite.key}</span>
              <a href={`/p/${key}/${suite.key}`}>{suite.title}</a>
              <span className={sheet['note']}>{counted(suite.cases, 'case')}</span>
            </li>
          ))}
        </ul>
      </Part>
      <Branches {...props} />
      {of.unproved.length > 0 && (
        <Part title="Not touched by it">
          <Unfold summary={`${counted(of.unproved.length, 'requirement')} in scope that no suite of it proves`}>
            <ul className={sheet['rows']}>
              {of.unproved.map(({ id, key: ref, title, risk }) => (
                <li key={id}>
                  <span />
                  <span className="key">{ref}</span>
                  <a href={`/p/${key}/${ref}`}>{title}</a>
                  <span className={sheet['note']}>risk {risk ?? 'not given'}</span>
                </li>
              ))}
            </ul>
          </Unfold>
        </Part>
      )}
      <FreeText {...props} part="what" placeholder="Anything else that says what is tested, and what is not" />
    </>
  )
}

type Branch = PlanSheet['branches'][number]

function Branches({ of, may, edit }: PartProps) {
  const { key } = useHere()
  const [adding, setAdding] = useState<'in' | 'out' | null>(null)
  const put = (branches: readonly Branch[]) =>
    edit({ branches: branches.map(({ id, inside, reason }) => ({ id, inside, reason })) })
  const add = async (refs: string[]) => {
    try {
      const found = await Promise.all(refs.map((ref) => call(readRequirement, { params: { key, ref } })))
      const fresh = found.map(({ id, key: ref, title }) => ({
        id,
        key: ref,
        title,
        inside: adding === 'in',
        reason: '',
      }))
      const rest = of.branches.filter(({ id }) => !fresh.some((each) => each.id === id))
      if (await put([...rest, ...fresh])) setAdding(null)
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
  const remove = async (branch: Branch) => {
    const before = of.branches
    if (await put(of.branches.filter((each) => each !== branch)))
      notify(`${branch.key} is no part of the scope any more.`, { undo: () => void put(before) })
  }
  return (
    <Part
      title="Scope by branches"
      act={
        may && (
          <span className={css['line']}>
            <Button look="word" onClick={() => setAdding('in')}>
              a branch in
            </Button>
            <Button look="word" onClick={() => setAdding('out')}>
              a branch out
            </Button>
          </span>
        )
      }
    >
      {adding && <LinkBox to="requirement" verb={adding === 'in' ? 'Take in' : 'Leave out'} onLink={add} />}
      {of.branches.length === 0 && (
        <p className="quiet">All requirements that are testable in the release; criteria are about all of them.</p>
      )}
      <table className={css['table']}>
        <tbody>
          {of.branches.map((branch) => (
            <tr key={branch.id}>
              <td>{branch.inside ? 'in' : 'out'}</td>
              <td>
                <a href={`/p/${key}/${branch.key}`}>
                  <span className="key">{branch.key}</span> {branch.title}
                </a>
              </td>
              <td>
                <Reason
                  of={branch}
                  may={may}
                  onStore={(reason) => put(of.branches.map((each) => (each === branch ? { ...each, reason } : each)))}
                />
              </td>
              <td>
                {may && (
                  <button
                    type="button"
                    aria-label={`${branch.key} is neither in nor out`}
                    onClick={() => void remove(branch)}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Part>
  )
}

function Reason({ of, may, onStore }: { of: Branch; may: boolean; onStore: (reason: string) => Promise<boolean> }) {
  const [text, setText] = useState(of.reason)
  if (!may) return <span className="quiet">{of.reason}</span>
  return (
    <TextInput
      aria-label={`Why ${of.key} is ${of.inside ? 'in' : 'out'}`}
      placeholder="why"
      value={text}
      maxLength={300}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => (text.trim() === of.reason ? undefined : void onStore(text.trim()))}
    />
  )
}

/** Where is it tested? */
export function WherePart(props: PartProps) {
  const { of, may, edit } = props
  const { project } = useHere()
  const all = project.environments.filter(({ isAny }) => !isAny)
  const chosen = all.filter(({ id }) => of.environmentList.some((each) => each.id === id))
  return (
    <>
      <Head title="Where?">
        {chosen.length === 0
          ? 'In any environment: one slot a case, which any of them answers.'
          : `Each case in each of ${counted(chosen.length, 'environment')}.`}
      </Head>
      <Part
        title="Environments"
        act={
          may && (
            <Pop title="Environments" label="choose environments">
              <Ticks
                legend="Environments"
                all={all}
                ticked={chosen.map(({ id }) => id)}
                onTick={(environments) => void edit({ environments })}
              />
            </Pop>
          )
        }
      >
        {chosen.length > 0 && (
          <table className={css['table']}>
            <thead>
              <tr>
                <th scope="col">Environment</th>
                <th scope="col">Stands for</th>
                <th scope="col" data-end>
                  Seats
                </th>
                <th scope="col" data-end>
                  One pass
                </th>
              </tr>
            </thead>
            <tbody>
              {chosen.map(({ id, name, values, seats }) => (
                <tr key={id}>
                  <td>{name}</td>
                  <td className="quiet">
                    {Object.entries(values)
                      .map(([factor, value]) => `${factor} ${value}`)
                      .join(', ')}
                  </td>
                  <td data-end>{seats ?? 'no limit'}</td>
                  <td data-end>{minutesText(of.minutes)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Part>
      <FreeText {...props} part="where" placeholder="Installations, accounts and data that are needed" />
    </>
  )
}

/** Who tests it, and when? People and their parts, milestones, runs. */
export function WhenPart(props: PartProps) {
  const { of, may, edit } = props
  const { project, key } = useHere()
  const put = (people: readonly { id: string; part: string }[]) =>
    edit({ people: people.map(({ id, part }) => ({ id, part })) })
  const has = of.people.reduce((sum, each) => sum + (each.minutes ?? 0), 0)
  const takes = of.minutes * Math.max(1, of.environmentList.length)
  const others = project.people.filter(({ id, ended }) => !ended && !of.people.some((each) => each.id === id))
  return (
    <>
      <Head title="Who and when?">
        {of.dueOn === null ? 'The release has no due day.' : `Due ${dayText(of.dueOn)}.`}{' '}
        {of.people.length > 0 && of.dueOn !== null && (
          <>
            One pass takes <b>{minutesText(takes)}</b> of the <b>{minutesText(has)}</b> there are
            {takes > has ? `: ${minutesText(takes - has)} too much` : ''}.
          </>
        )}
      </Head>
      <Part title="People">
        <table className={css['table']}>
          <tbody>
            {of.people.map((person) => (
              <tr key={person.id}>
                <td>
                  <a href={`/p/${key}/people/${person.id}`}>{person.name}</a>
                </td>
                <td>
                  {may ? (
                    <PartOf
                      of={person}
                      onStore={(part) => put(of.people.map((each) => (each === person ? { ...each, part } : each)))}
                    />
                  ) : (
                    person.part
                  )}
                </td>
                <td data-end>{person.minutes === null ? '' : minutesText(person.minutes)}</td>
                <td>
                  {may && (
                    <button
                      type="button"
                      aria-label={`${person.name} takes no part`}
                      onClick={() => void put(of.people.filter((each) => each !== person))}
                    >
                      ×
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {may && others.length > 0 && (
          <Choice
            label="Somebody else"
            look="box"
            value=""
            options={[
              { value: '', label: 'add somebody…' },
              ...others.map(({ id, name }) => ({ value: id, label: name })),
            ]}
            onChoose={(id) => (id === '' ? undefined : void put([...of.people, { id, part: '' }]))}
          />
        )}
      </Part>
      <Milestones {...props} />
      <Runs of={of.runList} />
      <FreeText {...props} part="when" placeholder="Anything else that says who does what, and when" />
    </>
  )
}

function PartOf({ of, onStore }: { of: PlanSheet['people'][number]; onStore: (part: string) => Promise<boolean> }) {
  const [text, setText] = useState(of.part)
  return (
    <TextInput
      aria-label={`Part of ${of.name}`}
      placeholder="part, such as fares on the phone"
      value={text}
      maxLength={200}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => (text.trim() === of.part ? undefined : void onStore(text.trim()))}
    />
  )
}

function Milestones({ of, may, edit }: PartProps) {
  const [title, setTitle] = useState('')
  const [on, setOn] = useState('')
  const add = async () => {
    if (!(await edit({ milestones: [...of.milestones, { title: title.trim(), on }] }))) return
    setTitle('')
    setOn('')
  }
  return (
    <Part title="Milestones">
      <table className={css['table']}>
        <tbody>
          {of.milestones.map((milestone) => (
            <tr key={`${milestone.on}${milestone.title}`}>
              <td>{dayText(milestone.on)}</td>
              <td>{milestone.title}</td>
              <td>
                {may && (
                  <button
                    type="button"
                    aria-label={`Take away ${milestone.title}`}
                    onClick={() => void edit({ milestones: of.milestones.filter((each) => each !== milestone) })}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {may && (
        <Form className={css['line']} onSend={() => (title.trim() === '' || on === '' ? undefined : void add())}>
          <input
            type="date"
            aria-label="Day of the milestone"
            value={on}
            onChange={(event) => setOn(event.target.value)}
          />
          <TextInput
            type="text"
            aria-label="Milestone"
            placeholder="Milestone, such as the last build is offered"
            value={title}
            maxLength={200}
            onChange={(event) => setTitle(event.target.value)}
          />
          <Button type="submit" disabled={title.trim() === '' || on === ''}>
            Add
          </Button>
        </Form>
      )}
    </Part>
  )
}

function Runs({ of }: { of: PlanSheet['runList'] }) {
  const { key } = useHere()
  return (
    <Part title="Runs">
      {of.length === 0 && <p className="quiet">No run yet.</p>}
      <ul className={sheet['rows']}>
        {of.map((run) => (
          <li key={run.key}>
            <span />
            <span className="key">{run.key}</span>
            <a href={`/p/${key}/${run.key}`}>{run.title}</a>
            <span className={sheet['note']}>
              {run.state}, {percentText(percent(run.done, run.items))} of {run.items}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  )
}
