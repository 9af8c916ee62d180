import { compareRevisions, type LinkedCase, type RequirementSheet } from '#core/requirements/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Words } from '#ui/kit/Words.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import { useHere, useTo } from '#ui/shell/here.ts'
import css from './Suspect.module.css'

/** The requirement changed after somebody confirmed its links: what differs, word by word, and each case to confirm or to open. */
export function Suspect({ of, onConfirm }: { of: RequirementSheet; onConfirm: (link: LinkedCase) => void }) {
  const suspect = of.linked.filter((each) => each.suspect)
  if (suspect.length === 0) return null
  return (
    <section className={css['suspect']} aria-label="Suspect links">
      <h3>{suspect.length === 1 ? 'One link is suspect' : `${suspect.length} links are suspect`}</h3>
      <WhatChanged of={of} suspect={suspect} />
      <ul>
        {suspect.map((each, index) => (
          <SuspectRow key={each.link} of={each} first={index === 0} onConfirm={() => onConfirm(each)} />
        ))}
      </ul>
    </section>
  )
}

function WhatChanged({ of, suspect }: { of: RequirementSheet; suspect: readonly LinkedCase[] }) {
  const { key } = useHere()
  const from = Math.min(...suspect.map(({ confirmedRevision }) => confirmedRevision))
  const { data } = useAnswer(
    compareRevisions,
    { params: { key, ref: of.key }, query: { from, to: of.revision } },
    { keep: true },
  )
  return (
    <>
      <p className="quiet">
        This requirement changed{data && ` ${ago(data.to.at)} (${shortName(data.to.by)})`} since{' '}
        {suspect.length === 1 ? 'its case was' : 'these cases were'} confirmed against revision {from};{' '}
        {resultsText(suspect)}.
      </p>
      {data?.title.some(({ kind }) => kind !== 'same') && (
        <p>
          <Words of={data.title} />
        </p>
      )}
      {data && data.text.length > 0 && (
        <blockquote>
          <Words of={data.text} />
        </blockquote>
      )}
    </>
  )
}

function resultsText(suspect: readonly LinkedCase[]): string {
  const results = suspect.flatMap(({ slots }) => slots).filter(({ attempt }) => attempt !== null).length
  if (results === 0) return 'no result hangs on it yet'
  return `${results} standing ${results === 1 ? 'result counts' : 'results count'} as stale until then`
}

/** The first is confirmed by key. */
function SuspectRow({ of, first, onConfirm }: { of: LinkedCase; first: boolean; onConfirm: () => void }) {
  const to = useTo()
  return (
    <li>
      <span className="key">{of.key}</span> <a href={to(of.key)}>{of.title}</a>{' '}
      <span>
        <Button look={first ? 'plain' : 'word'} onClick={onConfirm}>
          Still proves it
          {first && (
            <>
              {' '}
              <kbd>k</kbd>
            </>
          )}
        </Button>
      </span>
    </li>
  )
}
