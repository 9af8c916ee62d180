import { useState } from 'react'
import { readPrice } from '#core/plans/asks-contract.ts'
import { listSuites } from '#core/plans/suite-contract.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { readRequirement } from '#core/requirements/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { Part } from '#ui/shell/SheetParts.tsx'
import sheet from '#ui/shell/sheet.module.css'
import css from './Plan.module.css'
import type { PartProps } from './PlanSheet.tsx'
import { Ticks } from './Ticks.tsx'

import { FreeText, Head } from './PlanBits.tsx'

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
      <NotYet of={of} />
      <FreeText {...props} part="what" placeholder="Anything else that says what is tested, and what is not" />
    </>
  )
}

/** Cases that cannot be tested yet in the release and iteration of the plan. */
function NotYet({ of }: { of: PlanSheet }) {
  const { key } = useHere()
  const { data } = useAnswer(readPrice, { params: { key, ref: of.key }, query: {} }, { keep: true })
  if (!data || data.notYetTotal === 0) return null
  return (
    <Part title="Not testable yet">
      <Unfold summary={`${counted(data.notYetTotal, 'case')} left out of slots and runs until what they test is there`}>
        <ul className={sheet['rows']}>
          {data.notYet.map(({ id, key: ref, title, from }) => (
            <li key={id}>
              <span />
              <span className="key">{ref}</span>
              <a href={`/p/${key}/${ref}`}>{title}</a>
              <span className={sheet['note']}>{from}</span>
            </li>
          ))}
        </ul>
      </Unfold>
    </Part>
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
      const inside = adding === 'in'
      const fresh = found.map(({ id, key: ref, title }) => ({ id, key: ref, title, inside, reason: '' }))
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
            <BranchRow
              key={branch.id}
              of={branch}
              may={may}
              onReason={(reason) => put(of.branches.map((each) => (each === branch ? { ...each, reason } : each)))}
              onRemove={() => void remove(branch)}
            />
          ))}
        </tbody>
      </table>
    </Part>
  )
}

interface BranchRowProps {
  readonly of: Branch
  readonly may: boolean
  readonly onReason: (reason: string) => Promise<boolean>
  readonly onRemove: () => void
}

function BranchRow({ of, may, onReason, onRemove }: BranchRowProps) {
  const { key } = useHere()
  return (
    <tr>
      <td>{of.inside ? 'in' : 'out'}</td>
      <td>
        <a href={`/p/${key}/${of.key}`}>
          <span className="key">{of.key}</span> {of.title}
        </a>
      </td>
      <td>
        <Reason of={of} may={may} onStore={onReason} />
      </td>
      <td>
        {may && (
          <button type="button" aria-label={`${of.key} is neither in nor out`} onClick={onRemove}>
            ×
          </button>
        )}
      </td>
    </tr>
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
