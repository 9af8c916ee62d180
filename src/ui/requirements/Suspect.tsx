import { compareRevisions, type LinkedCase, type RequirementSheet } from '#core/requirements/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Words } from '#ui/kit/Words.tsx'
import { scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './Suspect.module.css'

/** The requirement changed after somebody confirmed its links: what differs, word by word, and each case to confirm or to open. */
export function Suspect({ of, onConfirm }: { of: RequirementSheet; onConfirm: (link: LinkedCase) => void }) {
  const { key } = useHere()
  const { params } = useAddress()
  const suspect = of.linked.filter((each) => each.suspect)
  const oldest = Math.min(...suspect.map(({ confirmedRevision }) => confirmedRevision))
  const { data } = useAnswer(
    compareRevisions,
    { params: { key, ref: of.key }, query: { from: Number.isFinite(oldest) ? oldest : 1, to: of.revision } },
    { enabled: suspect.length > 0, keep: true },
  )
  const next = suspect[0]
  if (!next) return null
  const slots = suspect.flatMap((each) => each.slots)
  const results = slots.filter(({ attempt }) => attempt !== null).length
  return (
    <section className={css['suspect']} aria-label="Suspect links">
      <h3>{suspect.length === 1 ? 'One link is suspect' : `${suspect.length} links are suspect`}</h3>
      <p className="quiet">
        This requirement changed
        {data && (
          <>
            {' '}
            {ago(data.to.at)} ({shortName(data.to.by)})
          </>
        )}{' '}
        since {suspect.length === 1 ? 'its case was' : 'these cases were'} confirmed against revision {oldest};{' '}
        {results === 0
          ? 'no result hangs on it yet'
          : `${results} standing ${results === 1 ? 'result counts' : 'results count'} as stale until then`}
        .
      </p>
      {data &&
        (data.title.some(({ kind }) => kind !== 'same') ? (
          <p>
            <Words of={data.title} />
          </p>
        ) : null)}
      {data && data.text.length > 0 && (
        <blockquote>
          <Words of={data.text} />
        </blockquote>
      )}
      <ul>
        {suspect.map((each, index) => (
          <li key={each.link}>
            <span className="key">{each.key}</span>{' '}
            <a href={`/p/${key}/${each.key}${scopeSearch(params)}`}>{each.title}</a>{' '}
            <span>
              <Button look={index === 0 ? 'plain' : 'word'} onClick={() => onConfirm(each)}>
                Still proves it
                {index === 0 && (
                  <>
                    {' '}
                    <kbd>k</kbd>
                  </>
                )}
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
