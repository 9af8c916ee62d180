import type { Served } from '#core/lib/question.ts'
import { lazy, Suspense, useRef, useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import { type CaseSheet, readCase, storeWorkingCopy, updateCase } from '#core/cases/contract.ts'
import { unmergeCase } from '#core/reuse/copy-contract.ts'
import { call } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { RichText } from '#ui/kit/RichText.tsx'
import { scopeIn, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { Attachments } from '#ui/shell/Attachments.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { OwnFields } from '#ui/shell/OwnFields.tsx'
import { Pictures } from '#ui/shell/Pictures.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Named, SheetEnd, TitleHead } from '#ui/shell/SheetParts.tsx'
import css from '#ui/shell/sheet.module.css'
import { CaseFacts } from './CaseFacts.tsx'
import { CaseActs } from './CaseActs.tsx'
import { Proves } from './Proves.tsx'
import { AskReview, CutReason, Reviews } from '#ui/review/Reviews.tsx'
import { Rows } from './Rows.tsx'
import { Setting } from './Setting.tsx'
import { StepTalk } from '#ui/review/StepTalk.tsx'
import { Steps } from './Steps.tsx'
import { Suggestions } from '#ui/review/Suggestions.tsx'
import { type Flush, nothingTyped } from '#ui/shell/sending.ts'
import { Versions } from './Versions.tsx'
import { useVersionActs, useCutOnLeaving } from './version-acts.ts'
import { CaseThread } from './CaseThread.tsx'
import { Results } from './Results.tsx'

const ChosenSteps = lazy(async () => ({ default: (await import('#ui/reuse/ChosenSteps.tsx')).ChosenSteps }))

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

type Asking = 'review' | 'version' | 'back' | null
type VersionActs = ReturnType<typeof useVersionActs>

function Sheet({ of }: { of: CaseSheet }) {
  const { key } = useHere()
  const edit = useEdit(updateCase, { key, ref: of.key }, of)
  const set = (changes: BodyOf<typeof updateCase>) => void edit(changes)
  const [linking, setLinking] = useState(false)
  const [asking, setAsking] = useState<Asking>(null)
  const flush = useRef(nothingTyped)
  const versions = useVersionActs(of, () => flush.current())
  useCutOnLeaving(of)
  useSheetKeys(versions, setAsking, () => setLinking(true))
  return (
    <Pictures about={of.key}>
      <CaseThread of={of} />
      <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
        <TitleHead title={of.title} onStore={(title) => set({ title })}>
          <ReviewActs of={of} versions={versions} onAsk={setAsking} />
        </TitleHead>
        {of.mergedInto !== null && <Merged of={of} />}
        <CaseFacts of={of} onSet={set} />
        <OwnFields
          fields={of.fields}
          type={of.type}
          tags={of.tags}
          values={of.custom}
          onTags={(tags) => set({ tags })}
          onValues={(custom) => set({ custom })}
        />
        <CaseActs of={of} />
        <RichText
          label="objective"
          html={of.objective}
          placeholder="What does this case find out?"
          place={`${of.key}.objective`}
          onStore={(objective) => edit({ objective })}
        />
        <OwnSteps key={of.key} of={of} onReady={(to) => (flush.current = to)} />
        <StandsIn of={of} />
        <Suggestions of={of} />
        <Proves of={of} linking={linking} onLinking={setLinking} />
        <Results of={of} />
        <Versions of={of} />
        <Reviews of={of} />
        <StandsFor of={of} />
        <Attachments about={of.key} />
        <SheetEnd about={of.key} />
      </article>
      <Asked of={of} asking={asking} versions={versions} onClose={() => setAsking(null)} />
    </Pictures>
  )
}

function useSheetKeys(versions: VersionActs, onAsk: (asking: Asking) => void, onLink: () => void): void {
  const { project } = useHere()
  useKeys([
    {
      id: 'cut',
      keys: 'Ctrl+s',
      label: 'cut a version',
      run: () => (project.reasonAsked ? onAsk('version') : void versions.cut('')),
    },
    { id: 'link', keys: 'l', label: 'link', run: onLink },
    {
      id: 'edit',
      keys: 'e',
      label: 'edit steps',
      run: () => document.querySelector<HTMLElement>('[data-step-cell]')?.focus(),
    },
  ])
}

/** What a reviewer answers, or what an author asks. */
function ReviewActs({
  of,
  versions,
  onAsk,
}: {
  of: CaseSheet
  versions: VersionActs
  onAsk: (asking: Asking) => void
}) {
  const { project } = useHere()
  if (of.state === 'In review')
    return (
      <span className={css['row']}>
        <Button onClick={() => onAsk('back')}>Send back</Button>
        {of.wroteIt && <span className="quiet">somebody else approves what you wrote</span>}
        {!of.wroteIt && project.role === 'lead' && (
          <Button look="main" onClick={() => void versions.review('Approved', [], '')}>
            Approve
          </Button>
        )}
      </span>
    )
  const reviewable = of.steps > 0 && (of.state !== 'Approved' || of.unsaved)
  return reviewable ? <Button onClick={() => onAsk('review')}>Ask for review</Button> : null
}

function OwnSteps({ of, onReady }: { of: CaseSheet; onReady: (flush: Flush) => void }) {
  const { key } = useHere()
  return (
    <Steps
      of={{
        key: of.key,
        content: of.content,
        contentStamp: of.contentStamp,
        used: of.used,
        shownBy: 'readCase',
        store: (content, stamp) => call(storeWorkingCopy, { params: { key, ref: of.key }, body: { content, stamp } }),
      }}
      onReady={onReady}
      setting={(draft, change) => <Setting draft={draft} titles={of.needs} onChange={change} />}
      below={(draft, change) => <Rows draft={draft} onChange={change} />}
      chosenActs={(chosen) => (
        <Suspense>
          <ChosenSteps own={of.key} {...chosen} />
        </Suspense>
      )}
      note={(step, at) => <StepTalk of={of} step={step} at={at} />}
    />
  )
}

/** Cases that take their steps from this one. */
const StandsIn = ({ of }: { of: CaseSheet }) =>
  of.usedBy.length === 0 ? null : (
    <p className="quiet">
      Its steps stand in <Named refs={of.usedBy.map(({ key, name, title }) => ({ key, title, note: name }))} />.
    </p>
  )

/** Cases merged into it, and suites that name it. */
const StandsFor = ({ of }: { of: CaseSheet }) => (
  <>
    {of.merged.length > 0 && (
      <p className="quiet">
        Stands for <Named refs={of.merged.map((key) => ({ key }))} />, merged into it; their results stay with them.
      </p>
    )}
    {of.suites.length > 0 && (
      <p className="quiet">
        Pinned to <Named refs={of.suites.map(({ key, title }) => ({ key, text: title }))} />.
      </p>
    )}
  </>
)

/** What a version is asked before it is cut, sent for review or sent back. */
function Asked({
  of,
  asking,
  versions,
  onClose,
}: {
  of: CaseSheet
  asking: Asking
  versions: VersionActs
  onClose: () => void
}) {
  const done = async (work: Promise<boolean>) => {
    const went = await work
    if (went) onClose()
    return went
  }
  if (asking === 'review')
    return (
      <AskReview
        about={of.key}
        said="A version is cut of what it says now. Whoever you name is told; a lead who did not write it can approve."
        label="What changed, and why? (may stay empty)"
        nobody="Ask whoever may"
        onClose={onClose}
        onAsk={(people, why) => done(versions.review('In review', people, why))}
      />
    )
  if (asking === 'back')
    return (
      <CutReason
        place={`back.${of.key}`}
        title="Send back"
        label="What should be changed?"
        action="Send back"
        onClose={onClose}
        onReason={(why) => done(versions.review('Draft', [], why))}
      />
    )
  if (asking !== 'version') return null
  return (
    <CutReason
      place={`cut.${of.key}`}
      title="Cut a version"
      label="What changed, and why?"
      action="Cut it"
      onClose={onClose}
      onReason={(why) => done(versions.cut(why))}
    />
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
