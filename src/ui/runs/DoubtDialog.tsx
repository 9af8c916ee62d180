import { useEffect, useState } from 'react'
import type { ScopeQuery } from '#core/lib/shapes.ts'
import { counted, minutesText, percentText } from '#core/lib/figures.ts'
import { doubtAttempts, type DoubtTold, liftDoubt, tellDoubt } from '#core/runs/attempts-contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { dayText, momentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { scopeIn, useParams, scopeNames } from '#ui/shell/address.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { useGoing } from '#ui/shell/going.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './Doubt.module.css'
import { NewRun } from './NewRun.tsx'

/** What rests on some attempts, the run that would settle it, and the act that doubts them. */
export function DoubtDialog({ ids, onClose }: { ids: readonly number[]; onClose: () => void }) {
  const { project } = useHere()
  const scope = scopeIn(useParams(...scopeNames))
  const { data, error } = useTold(ids, scope)
  const doubt = useDoubt(ids, onClose)
  const [reason, setReason] = useState('')
  const [repairing, repair] = useState(false)
  if (repairing && data)
    return (
      <NewRun
        plan={null}
        known={{
          title: `What is doubted, ${dayText(new Date().toISOString().slice(0, 10))}`,
          build: project.builds.at(-1)?.id ?? 0,
          releaseId: project.builds.at(-1)?.release ?? 0,
        }}
        slots={data.repair.map((slot) => ({ case: slot.case, environment: slot.environment }))}
        onClose={onClose}
      />
    )
  return (
    <Dialog title={`Not to believe ${counted(ids.length, 'attempt')}`} onClose={onClose} wide>
      {error && !data && <p role="alert">{sentenceOf(error)}</p>}
      {!data && !error && <p className="quiet">Looking what rests on {ids.length === 1 ? 'it' : 'them'} …</p>}
      {data && <Told of={data} onRepair={() => repair(true)} />}
      {project.role === 'lead' && (
        <Form
          onSend={async () => {
            if (reason.trim() !== '') await doubt(reason.trim())
          }}
        >
          <Field
            label="For what reason?"
            hint="It is dated, stands wherever they weigh, and can be lifted; verdicts stay readable and are not current meanwhile."
          >
            {(id) => (
              <TextInput id={id} maxLength={500} value={reason} onChange={(event) => setReason(event.target.value)} />
            )}
          </Field>
          <Button look="main" type="submit" disabled={reason.trim() === ''}>
            Doubt {ids.length === 1 ? 'it' : 'them'}
          </Button>
        </Form>
      )}
    </Dialog>
  )
}

/** What rests on them, in the scope one looks at. */
function useTold(ids: readonly number[], scope: ScopeQuery) {
  const { key } = useHere()
  const [told, setTold] = useState<{ data?: DoubtTold; error?: Error }>({})
  useEffect(() => {
    const stop = new AbortController()
    call(tellDoubt, { params: { key }, query: scope, body: { ids: [...ids] }, signal: stop.signal }).then(
      (data) => setTold({ data }),
      (error: Error) => {
        if (!stop.signal.aborted) setTold({ error })
      },
    )
    return () => stop.abort()
  }, [ids.join()])
  return told
}

function useDoubt(ids: readonly number[], onDone: () => void) {
  const { key } = useHere()
  const doubting = useWrite(doubtAttempts)
  const lifting = useWrite(liftDoubt)
  const going = useGoing()
  return async (reason: string) => {
    const done = await going(`Doubting ${counted(ids.length, 'attempt')} …`, (job) =>
      doubting.attempt({ params: { key }, body: { ids: [...ids], reason }, job }),
    )
    if (!done) return
    notify(done.stopped ?? `${counted(done.attempts, 'attempt')} doubted: kept, and no longer current.`, {
      undo: () => void lifting.attempt({ params: { key, id: done.id } }),
    })
    onDone()
  }
}

function Told({ of, onRepair }: { of: DoubtTold; onRepair: () => void }) {
  const nothing = of.slotCount === 0 && of.defects.length === 0
  if (nothing) return <p>Nothing rests on {of.attempts === 1 ? 'it' : 'them'} in what you look at.</p>
  const { before, after } = of.passing
  return (
    <div className={css['told']}>
      <p>
        <b>{counted(of.slotCount, 'slot')}</b> would be answered otherwise
        {before !== null && after !== null && (
          <>
            ; passing would go from <b>{percentText(Math.floor(before * 100))}</b> to{' '}
            <b>{percentText(Math.floor(after * 100))}</b>
          </>
        )}
        .
      </p>
      {of.repair.length > 0 && (
        <p>
          {counted(of.repair.length, 'item')}, {minutesText(of.minutes)}, would settle it.{' '}
          <Button onClick={onRepair}>Open the run</Button>
        </p>
      )}
      <div className={css['lists']}>
        <Slots of={of} />
        <div>
          <Requirements of={of} />
          <Rest of={of} />
        </div>
      </div>
    </div>
  )
}

const Slots = ({ of: { slots, slotCount } }: { of: DoubtTold }) => (
  <section>
    <h3>Slots</h3>
    <ul className={css['slots']}>
      {slots.map((slot, at) => (
        <li key={at}>
          <Mark verdict={slot.from} /> <span className="quiet">→</span> <Mark verdict={slot.to} />
          <span>
            <span className="key quiet">{slot.key}</span> {slot.title}
            <span className="quiet">
              {' '}
              · {slot.environment}
              {slot.by !== null && `; then ${slot.by} counts`}
            </span>
          </span>
        </li>
      ))}
      {slotCount > slots.length && <li className="quiet">and {slotCount - slots.length} more</li>}
    </ul>
  </section>
)

function Requirements({ of: { requirements, requirementCount } }: { of: DoubtTold }) {
  const { key } = useHere()
  if (requirementCount === 0) return null
  const more = requirementCount - requirements.length
  return (
    <section>
      <h3>Requirements</h3>
      <ul>
        {requirements.map((each) => (
          <li key={each.key}>
            <a href={`/p/${key}/${each.key}`}>{each.key}</a> {each.title}{' '}
            <span className="quiet">
              {each.from} → {each.to}
            </span>
          </li>
        ))}
        {more > 0 && <li className="quiet">and {more} more</li>}
      </ul>
    </section>
  )
}

function Rest({ of: { criteria, signOffs, defects } }: { of: DoubtTold }) {
  const { key } = useHere()
  return (
    <>
      {criteria.length > 0 && (
        <section>
          <h3>Criteria</h3>
          <ul>
            {criteria.map((each, at) => (
              <li key={at}>
                {each.said} <span className="quiet">{`${each.from} → ${each.to}`}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {signOffs.length > 0 && (
        <section>
          <h3>Signed since</h3>
          <ul>
            {signOffs.map((each, at) => (
              <li key={at}>
                <a href={`/p/${key}/${each.plan}?version=${each.version}`}>{each.title}</a>{' '}
                <span className="quiet">
                  version {each.version}, {each.person} {momentText(each.at)}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {defects.length > 0 && (
        <section>
          <h3>Defects closed by nothing else</h3>
          <ul>
            {defects.map((each) => (
              <li key={each.key}>
                <a href={`/p/${key}/${each.key}`}>{each.key}</a> {each.title}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  )
}
