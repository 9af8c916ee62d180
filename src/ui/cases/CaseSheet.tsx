import type { Served } from '#core/lib/question.ts'
import { useState } from 'react'
import { type CaseSheet, readCase, storeWorkingCopy, updateCase } from '#core/cases/contract.ts'
import { automations, importances } from '#core/cases/case.ts'
import { unmergeCase } from '#core/reuse/copy-contract.ts'
import { call } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { RichText } from '#ui/kit/RichText.tsx'
import { scopeIn, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { Attachments } from '#ui/shell/Attachments.tsx'
import { Comments } from '#ui/shell/Comments.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { OwnFields } from '#ui/shell/OwnFields.tsx'
import { Pictures } from '#ui/shell/Pictures.tsx'
import { peopleOptions } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'
import { CaseActs } from './CaseActs.tsx'
import { ChosenSteps } from '#ui/reuse/ChosenSteps.tsx'
import { Proves } from './Proves.tsx'
import { AskReview, CutReason, Reviews } from '#ui/review/Reviews.tsx'
import { Rows } from './Rows.tsx'
import { Setting } from './Setting.tsx'
import { StepTalk } from '#ui/review/StepTalk.tsx'
import { Steps } from './Steps.tsx'
import { Suggestions } from '#ui/review/Suggestions.tsx'
import { Versions } from './Versions.tsx'
import { useVersionActs, useCutOnLeaving } from './version-acts.ts'
import { CaseThread } from './CaseThread.tsx'
import { Results } from './Results.tsx'

export function CaseSheetView({
  about,
  served,
  onClose,
}: {
  about: string
  served: Served<CaseSheet> | null
  onClose: () => void
}) {
  const { key } = useHere()
  const { params } = useAddress()
  const { data, error } = useAnswer(
    readCase,
    { params: { key, ref: about }, query: scopeIn(params) },
    { served, keep: true },
  )
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data && data.key === about ? <Sheet of={data} /> : null
}

function Sheet({ of }: { of: CaseSheet }) {
  const { key, project } = useHere()
  const set = useEdit(updateCase, { key, ref: of.key }, of.version)
  const [linking, setLinking] = useState(false)
  const [asking, setAsking] = useState<'review' | 'version' | 'back' | null>(null)
  const versions = useVersionActs(of)
  useCutOnLeaving(of)
  useKeys([
    {
      id: 'cut',
      keys: 'Ctrl+s',
      label: 'cut a version',
      run: () => (project.reasonAsked ? setAsking('version') : void versions.cut('')),
    },
    { id: 'link', keys: 'l', label: 'link', run: () => setLinking(true) },
    {
      id: 'edit',
      keys: 'e',
      label: 'edit steps',
      run: () => document.querySelector<HTMLElement>('[data-step-cell]')?.focus(),
    },
  ])
  return (
    <Pictures about={of.key}>
      <CaseThread of={of} />
      <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
        <div className={css['head']}>
          <h2>
            <EditText label="Title" value={of.title} onStore={(title) => void set({ title })} />
          </h2>
          {of.state === 'In review' ? (
            <span style={{ display: 'flex', gap: 8 }}>
              <Button onClick={() => setAsking('back')}>Send back</Button>
              <Button look="main" onClick={() => void versions.review('Approved', [], '')}>
                Approve
              </Button>
            </span>
          ) : (
            of.steps > 0 &&
            (of.state !== 'Approved' || of.unsaved) && (
              <Button onClick={() => setAsking('review')}>Ask for review</Button>
            )
          )}
        </div>
        {of.mergedInto !== null && <Merged of={of} />}
        <p className={css['facts']}>
          <b>{of.state}</b> {of.versionName && <span className="key">{of.versionName}</span>}
          {of.unsaved && ' with a newer working copy'}; importance{' '}
          <Choice
            label="Importance"
            value={of.importance}
            options={importances}
            onChoose={(importance) => void set({ importance })}
          />
          ; owner{' '}
          <Choice
            label="Owner"
            value={of.ownerId ?? ''}
            options={peopleOptions(project)}
            onChoose={(ownerId) => void set({ ownerId: ownerId || null })}
          />
          ; estimate{' '}
          <EditText
            label="Estimate in minutes"
            value={of.estimate === null ? '' : String(of.estimate)}
            placeholder="open"
            onStore={(value) => void set({ estimate: /^[1-9]\d*$/.test(value) ? Number(value) : null })}
          />{' '}
          min;{' '}
          <Choice
            label="Automation"
            value={of.automation}
            options={automations}
            onChoose={(automation) => void set({ automation })}
          />
          ; component{' '}
          <EditText
            label="Component"
            value={of.component}
            placeholder="none"
            onStore={(component) => void set({ component })}
          />
          {of.folder && (
            <>
              ; in folder <b>{of.folder}</b>
            </>
          )}
          {of.retired && of.mergedInto === null && (
            <>
              ; <b>retired</b>{' '}
              <Button look="word" onClick={() => void set({ retired: false })}>
                bring back
              </Button>
            </>
          )}
        </p>
        <OwnFields
          fields={of.fields}
          type={of.type}
          tags={of.tags}
          values={of.custom}
          onTags={(tags) => void set({ tags })}
          onValues={(custom) => void set({ custom })}
        />
        <CaseActs of={of} />
        <RichText
          label="objective"
          html={of.objective}
          placeholder="What does this case find out?"
          onStore={(objective) => void set({ objective })}
        />
        <Steps
          key={of.key}
          of={{
            key: of.key,
            content: of.content,
            contentStamp: of.contentStamp,
            used: of.used,
            shownBy: 'readCase',
            store: (content, stamp) =>
              call(storeWorkingCopy, { params: { key, ref: of.key }, body: { content, stamp } }),
          }}
          setting={(draft, change) => <Setting draft={draft} titles={of.needs} onChange={change} />}
          below={(draft, change) => <Rows draft={draft} onChange={change} />}
          chosenActs={(chosen) => <ChosenSteps own={of.key} {...chosen} />}
          note={(step, at) => <StepTalk of={of} step={step} at={at} />}
        />
        {of.usedBy.length > 0 && (
          <p className="quiet">
            Its steps stand in{' '}
            {of.usedBy.map((user, index) => (
              <span key={user.key}>
                {index > 0 && ', '}
                <a href={`/p/${key}/${user.key}`} title={user.title}>
                  {user.key}
                </a>{' '}
                ({user.name})
              </span>
            ))}
            .
          </p>
        )}
        <Suggestions of={of} />
        <Proves of={of} linking={linking} onLinking={setLinking} />
        <Results of={of} />
        <Versions of={of} />
        <Reviews of={of} />
        {of.merged.length > 0 && (
          <p className="quiet">
            Stands for{' '}
            {of.merged.map((ref, index) => (
              <span key={ref}>
                {index > 0 && ', '}
                <a href={`/p/${key}/${ref}`}>{ref}</a>
              </span>
            ))}
            , merged into it; their results stay with them.
          </p>
        )}
        {of.suites.length > 0 && (
          <p className="quiet">
            Pinned to{' '}
            {of.suites.map((suite, index) => (
              <span key={suite.key}>
                {index > 0 && ', '}
                <a href={`/p/${key}/${suite.key}`}>{suite.title}</a>
              </span>
            ))}
            .
          </p>
        )}
        <Attachments about={of.key} />
        <section className={css['part']}>
          <h3>Comments</h3>
          <Comments about={of.key} />
        </section>
        <History about={of.key} />
      </article>
      {asking === 'review' && (
        <AskReview
          of={of}
          onClose={() => setAsking(null)}
          onAsk={async (people, why) => {
            if (await versions.review('In review', people, why)) setAsking(null)
          }}
        />
      )}
      {asking === 'version' && (
        <CutReason
          title="Cut a version"
          label="What changed, and why?"
          action="Cut it"
          onClose={() => setAsking(null)}
          onReason={async (why) => {
            await versions.cut(why)
            setAsking(null)
          }}
        />
      )}
      {asking === 'back' && (
        <CutReason
          title="Send back"
          label="What should be changed?"
          action="Send back"
          onClose={() => setAsking(null)}
          onReason={async (why) => {
            if (await versions.review('Draft', [], why)) setAsking(null)
          }}
        />
      )}
    </Pictures>
  )
}

function Merged({ of }: { of: CaseSheet }) {
  const { key, project } = useHere()
  const { attempt } = useWrite(unmergeCase)
  return (
    <p className={css['banner']}>
      Merged into{' '}
      <a href={`/p/${key}/${of.mergedInto ?? ''}`} className="key">
        {of.mergedInto}
      </a>
      , which has its links now; its own results and versions stay here.{' '}
      {project.role === 'lead' && (
        <Button look="word" onClick={() => void attempt({ params: { key, ref: of.key } })}>
          take the merge back
        </Button>
      )}
    </p>
  )
}
