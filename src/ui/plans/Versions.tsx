import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { askPlanReview, listPlanVersions, type PlanVersionRow } from '#core/plans/versions-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { clockField, dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { AskReview } from '#ui/review/Reviews.tsx'
import { go } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ago } from '#ui/shell/people.ts'
import { Part } from '#ui/shell/SheetParts.tsx'
import css from './Version.module.css'

const show = (version: number) => go({ params: { version: String(version), part: null, carry: null, with: null } })
const listed = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`

/** A link to a version, which opens in its place. */
function ToVersion({ of, version, children }: { of: PlanSheet; version: number; children: React.ReactNode }) {
  const { key } = useHere()
  return (
    <a
      href={`/p/${key}/${of.key}?version=${version}`}
      onClick={(event) => {
        if (event.ctrlKey || event.metaKey || event.shiftKey) return
        event.preventDefault()
        show(version)
      }}
    >
      {children}
    </a>
  )
}

/** How the plan stands to what people have signed, in a few lines. */
export function SignedState({ of }: { of: PlanSheet }) {
  const { me } = useHere()
  const { asked, signed, frozen } = of
  const mine = asked?.signatures.some(({ id, answer }) => id === me.id && answer === null)
  const waiting = asked?.signatures.filter(({ answer }) => answer === null) ?? []
  return (
    <>
      {asked && (
        <p>
          <ToVersion of={of} version={asked.version}>
            {mine ? `You are asked to sign version ${asked.version}` : `Version ${asked.version} is in review`}
          </ToVersion>
          , {counted(asked.signatures.length - waiting.length, 'signature')} of {asked.signatures.length}
          {waiting.length > 0 && !mine && `; waits for ${listed(waiting.map(({ name }) => name))}`}.
          {asked.changes > 0 && <b> It changed since: {asked.stale}.</b>}
        </p>
      )}
      {signed && (
        <p>
          <ToVersion of={of} version={signed.version}>
            Version {signed.version}
          </ToVersion>{' '}
          was signed by {listed(signed.by)}, {dayText(clockField(signed.at).slice(0, 10))}.{' '}
          {signed.changes > 0 ? (
            <b>
              It is stale: {signed.stale} changed since
              {membersSaid(signed)}.
            </b>
          ) : (
            `It says the same still${membersSaid(signed)}.`
          )}
        </p>
      )}
      {frozen !== null && (
        <p>
          Figures are told by{' '}
          <ToVersion of={of} version={frozen}>
            version {frozen}
          </ToVersion>
          , as it was then.
        </p>
      )}
    </>
  )
}

const membersSaid = ({ came, went }: { came: number; went: number }): string =>
  came + went === 0
    ? ''
    : `; ${[came > 0 ? `${counted(came, 'case')} in` : '', went > 0 ? `${went} out` : ''].filter(Boolean).join(', ')}`

/** Whom to ask to sign the plan as it stands. */
export function PutUp({ of, onClose }: { of: PlanSheet; onClose: () => void }) {
  const { key } = useHere()
  const { attempt } = useWrite(askPlanReview)
  return (
    <AskReview
      about={of.key}
      said={`A version is frozen of what ${of.key} says now and of its ${counted(of.cases, 'case')}. Whoever you name is told, comments on its parts, and signs it or sends it back; it is signed off once all have signed.`}
      label="What should they look at? (may stay empty)"
      nobody={null}
      onClose={onClose}
      onAsk={async (people, note) => {
        const made = await attempt({ params: { key, ref: of.key }, body: { people, note } })
        if (!made) return false
        onClose()
        notify(`Version ${made.version} is put up; ${people.length === 1 ? 'one is' : `${people.length} are`} asked.`)
        return true
      }}
    />
  )
}

/** Versions people were asked about, or that the plan was closed with. */
export function Versions({ of, may }: { of: PlanSheet; may: boolean }) {
  const { key } = useHere()
  const { data } = useAnswer(listPlanVersions, { params: { key, ref: of.key }, query: {} }, { keep: true })
  const [asking, setAsking] = useState(false)
  if (!data) return null
  return (
    <Part
      title="Reviews and signatures"
      act={may ? <Button onClick={() => setAsking(true)}>Ask for a review</Button> : undefined}
    >
      {data.rows.length === 0 && <p className="quiet">Nobody was asked to sign it yet.</p>}
      <ul className={css['versions']}>
        {data.rows.map((row) => (
          <li key={row.version}>
            <ToVersion of={of} version={row.version}>
              Version {row.version}
            </ToVersion>
            <span>{row.state}</span>
            <span className="quiet">{whoSigned(row)}</span>
            <span className="quiet">{ago(row.endedAt ?? row.at)}</span>
          </li>
        ))}
      </ul>
      {asking && <PutUp of={of} onClose={() => setAsking(false)} />}
    </Part>
  )
}

function whoSigned({ signatures, state, note }: PlanVersionRow): string {
  if (state === 'Kept') return note
  const by = (answer: string | null) => signatures.filter((each) => each.answer === answer).map(({ name }) => name)
  const [signed, back, open] = [by('approved'), by('sent back'), by(null)]
  return [
    ...(signed.length > 0 ? [`signed by ${listed(signed)}`] : []),
    ...(back.length > 0 ? [`sent back by ${listed(back)}`] : []),
    ...(open.length > 0 ? [`${listed(open)} did not answer`] : []),
  ].join('; ')
}
