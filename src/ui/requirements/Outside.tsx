import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { richText } from '#core/lib/plain-text.ts'
import { fetchOutside, type OutsideIssue, readOutside, type RequirementSheet } from '#core/requirements/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { HoverCard } from '#ui/kit/HoverCard.tsx'
import { Words } from '#ui/kit/Words.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import sheet from '#ui/shell/sheet.module.css'

type Fetched = OutputOf<typeof fetchOutside>

/** The outside reference: what the tracker says of it in a card, and a fetch that shows what changed. */
export function Outside({
  of,
  onSet,
  onFetched,
}: {
  of: RequirementSheet
  onSet: (outsideRef: string) => void
  onFetched: (fetched: Fetched | null) => void
}) {
  const { key, project } = useHere()
  const { data } = useAnswer(readOutside, { params: { key, ref: of.key } }, { enabled: of.outside !== '' })
  const { attempt, busy } = useWrite(fetchOutside)
  const fetch = async () => {
    const done = await attempt({ params: { key, ref: of.key } })
    if (done) onFetched(done)
  }
  const copy = data?.copy ?? null
  return (
    <>
      ; outside{' '}
      {of.outside === '' ? (
        <EditText label="Outside reference" value="" placeholder="none" onStore={onSet} />
      ) : (
        <>
          <HoverCard
            card={
              copy ? (
                <Card of={copy} tracker={data?.tracker ?? ''} />
              ) : (
                <p>
                  {data?.tracker
                    ? `Not fetched from ${data.tracker} yet.`
                    : 'This project is connected to no tracker; a lead can do so in the set-up.'}
                </p>
              )
            }
          >
            {copy?.url || of.outsideUrl ? (
              <a href={copy?.url || of.outsideUrl} rel="noreferrer" target="_blank">
                {of.outside} ↗
              </a>
            ) : (
              <EditText label="Outside reference" value={of.outside} onStore={onSet} />
            )}
          </HoverCard>
          {copy && <span> ({copy.state})</span>}
          {data?.tracker && project.role !== 'viewer' && (
            <>
              {' '}
              <Button look="word" disabled={busy} onClick={() => void fetch()}>
                {busy ? 'asking…' : 'fetch'}
              </Button>
            </>
          )}
        </>
      )}
    </>
  )
}

function Card({ of, tracker }: { of: OutsideIssue; tracker: string }) {
  return (
    <>
      <p>
        <b>{of.title}</b>
      </p>
      <p>
        {of.state},{' '}
        {of.who === '' ? (
          'nobody has it'
        ) : (
          <>
            with <b>{of.who}</b>
          </>
        )}
      </p>
      {of.text !== '' && <p className="quiet">{of.text.length > 240 ? `${of.text.slice(0, 238)}…` : of.text}</p>}
      <p className="quiet">
        {tracker}, fetched {ago(of.fetchedAt)}
        {of.changedAt !== null && `, changed there ${ago(of.changedAt)}`}
      </p>
    </>
  )
}

/** What a fetch brought: what is new at the tracker, and what the requirement says otherwise; its words can be taken over. */
export function FetchedChanges({
  of,
  fetched,
  onTake,
  onClose,
}: {
  of: RequirementSheet
  fetched: Fetched
  onTake: (edit: { title?: string; text?: string }) => void
  onClose: () => void
}) {
  const { copy, changed, differs } = fetched
  const [took, setTook] = useState(false)
  return (
    <section className={sheet['banner']} aria-label="From the tracker" role="region">
      <p>
        {copy.ref} is {copy.state}
        {copy.who !== '' && `, with ${copy.who}`}. {sinceText(fetched)}{' '}
        <Button look="word" onClick={onClose}>
          close
        </Button>
      </p>
      {changed.map(({ field, words }) => (
        <p key={field}>
          <span className="quiet">{field}</span> <Words of={words} />
        </p>
      ))}
      {!differs.same && !took && (
        <Differs
          own={of.key}
          of={differs}
          onTake={() => {
            setTook(true)
            onTake({ title: copy.title, text: richText(copy.text) })
          }}
        />
      )}
    </section>
  )
}

function sinceText({ first, changed }: Fetched): string {
  if (first) return 'This is the first time it was fetched.'
  return changed.length === 0 ? 'Nothing changed there since the last fetch.' : 'Changed there since the last fetch:'
}

const Differs = ({ own, of, onTake }: { own: string; of: Fetched['differs']; onTake: () => void }) => (
  <>
    <p className="quiet">
      {own} says it otherwise (taken out what only {own} says, put in what only the tracker says):
    </p>
    {of.title.some(({ kind }) => kind !== 'same') && (
      <p>
        <Words of={of.title} />
      </p>
    )}
    <p>
      <Words of={of.text} />
    </p>
    <p>
      <Button onClick={onTake}>Take the tracker’s words</Button>{' '}
      <span className="quiet">A new revision; links become suspect.</span>
    </p>
  </>
)
