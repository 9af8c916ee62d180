import { counted } from '#core/lib/figures.ts'
import { wordDiff } from '#core/lib/word-diff.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { type DefinitionChange, sayingLine } from '#core/plans/definition.ts'
import { type PlanPart, planParts, questions } from '#core/plans/state.ts'
import {
  answerPlanReview,
  listPlanVersions,
  type PlanVersion,
  type PlanVersionRow,
  readPlanVersion,
} from '#core/plans/versions-contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Field } from '#ui/kit/Field.tsx'
import { KeptNote, useKept } from '#ui/kit/kept.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { fullMomentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { Words } from '#ui/kit/Words.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { Comments } from '#ui/shell/Comments.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ago } from '#ui/shell/people.ts'
import { Part } from '#ui/shell/SheetParts.tsx'
import { Head } from './PlanBits.tsx'
import { PrintPlan } from './PrintPlan.tsx'
import css from './Version.module.css'

/** With what a version is compared where nothing is said: the one signed before it, else the plan as it stands. */
const usual = (of: PlanSheet, version: number): string =>
  of.signed && of.signed.version < version ? String(of.signed.version) : 'now'

/** A version of a plan: who signed it, what it changes, and, for whoever is asked, the answer. */
export function VersionPart({ of, version }: { of: PlanSheet; version: number }) {
  const { key } = useHere()
  const compared = useParams('with').get('with') ?? usual(of, version)
  const query = compared === 'now' ? {} : { with: Number(compared) }
  const { data, error } = useAnswer(readPlanVersion, { params: { key, ref: of.key, version }, query }, { keep: true })
  if (error && !data) return <p role="alert">{sentenceOf(error)}</p>
  if (!data) return <p className="quiet">Reading version {version}…</p>
  return (
    <>
      <Head title={`Version ${data.version}`}>
        <b>{data.state}</b>
        {data.endedAt !== null && ` ${fullMomentText(data.endedAt)}`}
        {data.state === 'Kept' ? ` (${data.note})` : `, put up by ${data.by ?? 'somebody'} ${ago(data.at)}`};{' '}
        {counted(data.cases, 'case')}. <PrintPlan of={of} version={data.version} />
      </Head>
      {data.state !== 'Kept' && data.note !== '' && <p>{data.note}</p>}
      <Signatures of={data.signatures} />
      {of.asked?.version === data.version && of.asked.changes > 0 && (
        <p role="status" className={css['moved']}>
          The plan changed after it was put up ({of.asked.stale}), so it cannot be signed any more: it has to be put up
          again, or sent back.
        </p>
      )}
      {data.mine !== 'no' && <Answering of={of} version={data} />}
      <Compared of={of} version={data} compared={compared} />
    </>
  )
}

const answerWords = { approved: 'signed', 'sent back': 'sent it back' } as const

function Signatures({ of }: { of: PlanVersionRow['signatures'] }) {
  if (of.length === 0) return null
  return (
    <table className={css['signatures']} aria-label="Who was asked">
      <tbody>
        {of.map(({ id, name, answer, words, at }) => (
          <tr key={id} data-answer={answer}>
            <th scope="row">{name}</th>
            <td>{answer === null ? <span className="quiet">has not answered</span> : answerWords[answer]}</td>
            <td>{words}</td>
            <td className="quiet">{at === null ? '' : fullMomentText(at)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What an answer has made of a version. */
function answered(plan: string, version: number, state: PlanVersion['state']): string {
  if (state === 'Sent back') return `Version ${version} is sent back.`
  return state === 'Signed off'
    ? `Signed: all who were asked have, and ${plan} is signed off.`
    : 'Signed. The others are still to answer; until then you can change yours.'
}

/** Signing, or sending back with what is missing; what is typed stays until it is answered. */
function Answering({ of, version }: { of: PlanSheet; version: PlanVersion }) {
  const { key } = useHere()
  const [words, setWords, keeping] = useKept(`sign.${of.key}.${version.version}`, '')
  const { attempt, busy } = useWrite(answerPlanReview)
  const answer = async (said: 'approved' | 'sent back') => {
    if (busy) return
    const params = { key, ref: of.key, version: version.version }
    const done = await attempt({ params, body: { answer: said, words } })
    if (!done) return
    keeping.done()
    notify(answered(of.key, version.version, said === 'sent back' ? 'Sent back' : done.state))
  }
  useKeys([
    { id: 'sign', keys: 's', label: 'sign', run: () => void answer('approved') },
    { id: 'send-back', keys: 'b', label: 'send back', run: () => void answer('sent back') },
  ])
  return (
    <section className={css['answer']} aria-label="Your answer">
      <p>
        {version.mine === 'asked' ? (
          <b>You are asked to sign this version.</b>
        ) : (
          'You have answered; until all have, you can change it.'
        )}{' '}
        What you sign is what it says below, with its {counted(version.cases, 'case')}.
      </p>
      <Field label="Words with your answer (asked for when you send it back)">
        {(id) => (
          <textarea
            id={id}
            rows={2}
            maxLength={2000}
            value={words}
            readOnly={busy}
            onChange={(event) => setWords(event.target.value)}
            // Esc leaves the words for the keys of the page, and the page stays.
            onKeyDown={(event) => {
              event.stopPropagation()
              if (event.key === 'Escape') event.currentTarget.blur()
            }}
          />
        )}
      </Field>
      <KeptNote of={keeping} />
      <p className={css['acts']}>
        <Button look="main" disabled={busy} onClick={() => void answer('approved')}>
          Sign version {version.version}
        </Button>
        <Button disabled={busy} onClick={() => void answer('sent back')}>
          Send it back
        </Button>
      </p>
    </section>
  )
}

/** What differs between it and another, part by part, with what people say of each part. */
function Compared({ of, version, compared }: { of: PlanSheet; version: PlanVersion; compared: string }) {
  const { comparison } = version
  const older = compared === 'now' || Number(compared) > version.version
  const n = comparison.changes.length
  // Where nothing was signed before, and nothing has moved, there is nothing to compare: it is read as a whole.
  const isFirst = version.state === 'In review' && version.signedBefore === null && compared === 'now' && n === 0
  return (
    <>
      {isFirst ? (
        <p className="quiet">Nothing was signed before it: this is all that it says.</p>
      ) : (
        <p className={css['with']}>
          <span>{older ? 'From this version to' : 'From'}</span>
          <OtherVersion of={of} version={version.version} value={compared} />
          {!older && <span>to this one</span>}
          <span className="quiet">
            {n === 0 ? 'nothing of what it says' : counted(n, 'change')}
            {comparison.cameTotal > 0 && `, ${counted(comparison.cameTotal, 'case')} in`}
            {comparison.wentTotal > 0 && `, ${comparison.wentTotal} out`}
          </span>
        </p>
      )}
      {planParts.map((part) => (
        <Part key={part} title={questions[part]}>
          {isFirst ? (
            <Says of={version.definition.filter((each) => each.part === part)} />
          ) : (
            <>
              <Changes of={comparison.changes.filter((each) => each.part === part)} />
              {part === 'what' && <Members of={comparison} />}
              <Whole of={version} part={part} />
            </>
          )}
          <Comments about={of.key} part={part} />
        </Part>
      ))}
    </>
  )
}

function OtherVersion({ of, version, value }: { of: PlanSheet; version: number; value: string }) {
  const { key } = useHere()
  const { data } = useAnswer(listPlanVersions, { params: { key, ref: of.key }, query: {} })
  const others = (data?.rows ?? []).filter((each) => each.version !== version)
  return (
    <Choice
      label="Compared with"
      value={value}
      options={[
        { value: 'now', label: 'the plan as it stands' },
        ...others.map((each) => ({
          value: String(each.version),
          label: `version ${each.version}, ${each.state.toLowerCase()}`,
        })),
      ]}
      onChoose={(to) => go({ params: { with: to } }, true)}
    />
  )
}

function Changes({ of }: { of: readonly DefinitionChange[] }) {
  if (of.length === 0) return <p className="quiet">Unchanged.</p>
  return (
    <ul className={css['changes']}>
      {of.map(({ kind, name, before, after }) => (
        <li key={`${kind}${name}`}>
          <span className="quiet">{kind}</span>
          <span>
            {name !== '' && (before === null ? <ins>{name}</ins> : after === null ? <del>{name}</del> : <b>{name}</b>)}{' '}
            {(before ?? '') + (after ?? '') !== '' && <Words of={wordDiff(before ?? '', after ?? '')} />}
          </span>
          <span className="quiet">{before === null ? 'new' : after === null ? 'gone' : 'changed'}</span>
        </li>
      ))}
    </ul>
  )
}

function Says({ of }: { of: PlanVersion['definition'] }) {
  if (of.length === 0) return <p className="quiet">Nothing is said.</p>
  return (
    <ul className={css['changes']}>
      {of.map(({ kind, name, said }, at) => (
        <li key={at}>
          <span className="quiet">{kind}</span>
          <span>
            {name !== '' && <b>{name}</b>} {said}
          </span>
        </li>
      ))}
    </ul>
  )
}

function Members({ of }: { of: PlanVersion['comparison'] }) {
  return (
    <>
      <Told title="in" rows={of.came} total={of.cameTotal} />
      <Told title="out" rows={of.went} total={of.wentTotal} />
    </>
  )
}

function Told({ title, rows, total }: { title: string; rows: PlanVersion['comparison']['came']; total: number }) {
  const { key } = useHere()
  if (total === 0) return null
  return (
    <Unfold summary={`${counted(total, 'case')} ${title}`}>
      <ul className={css['cases']}>
        {rows.map((row) => (
          <li key={row.key}>
            <span className="key">{row.key}</span> <a href={`/p/${key}/${row.key}`}>{row.title}</a>
          </li>
        ))}
      </ul>
      {total > rows.length && <p className="quiet">and {total - rows.length} more</p>}
    </Unfold>
  )
}

function Whole({ of, part }: { of: PlanVersion; part: PlanPart }) {
  const own = of.definition.filter((each) => each.part === part)
  if (own.length === 0) return null
  return (
    <Unfold summary={`all that version ${of.version} says here`}>
      <ul className={css['whole']}>
        {own.map((each, at) => (
          <li key={at}>{sayingLine(each)}</li>
        ))}
      </ul>
    </Unfold>
  )
}
