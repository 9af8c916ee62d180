import type { Served } from '#core/lib/question.ts'
import { useState } from 'react'
import { pinCases, readSuite, type SuiteSheet, updateSuite } from '#core/plans/contract.ts'
import { suiteStates } from '#core/plans/state.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'

export function SuiteSheetView({
  about,
  served,
  onClose,
}: {
  about: string
  served: Served<SuiteSheet> | null
  onClose: () => void
}) {
  const { key } = useHere()
  const { data: of, error } = useAnswer(readSuite, { params: { key, ref: about } }, { served })
  const { attempt } = useWrite(updateSuite)
  const pinning = useWrite(pinCases)
  const [adding, setAdding] = useState(false)
  if (error && !of) return <Lost error={error} onClose={onClose} />
  if (!of) return null
  const set = (body: Parameters<typeof attempt>[0]['body']) =>
    void attempt({ params: { key, ref: of.key }, body, version: of.version })
  const pin = (body: Parameters<typeof pinning.attempt>[0]['body']) =>
    pinning.attempt({ params: { key, ref: of.key }, body })
  const move = (at: number, by: number) => {
    const order = of.pinned.map(({ id }) => id)
    const [own] = order.splice(at, 1)
    if (own !== undefined) order.splice(Math.max(0, at + by), 0, own)
    void pin({ order })
  }
  const unpin = async (id: number, ref: string) => {
    if (await pin({ remove: [id] })) notify(`${ref} is taken out.`, { undo: () => void pin({ add: [ref] }) })
  }
  return (
    <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
      <div className={css['head']}>
        <h2>
          <EditText label="Title" value={of.title} onStore={(title) => set({ title })} />
        </h2>
      </div>
      <p className={css['facts']}>
        <span className="key">{of.key}</span> is{' '}
        <Choice label="State" value={of.state} options={suiteStates} onChoose={(state) => set({ state })} />;{' '}
        {counted(of.cases, 'case')}, {minutesText(of.minutes)}
        {of.plans.length > 0 && (
          <>
            ; in{' '}
            {of.plans.map((plan) => (
              <a key={plan.key} href={`/p/${key}/${plan.key}`}>
                {plan.title}
              </a>
            ))}
          </>
        )}
      </p>
      <RichText
        label="objective"
        html={of.objective}
        placeholder="What does this suite find out?"
        onStore={(objective) => set({ objective })}
      />
      <section className={css['part']}>
        <div className={css['partHead']}>
          <h3>Pinned cases, in order</h3>
          <Button look="word" onClick={() => setAdding(!adding)}>
            pin cases
          </Button>
        </div>
        {adding && (
          <LinkBox
            onLink={async (add) => {
              if (await pin({ add })) setAdding(false)
            }}
          />
        )}
        <ul className={css['rows']}>
          {of.pinned.map((own, at) => (
            <li key={own.id}>
              <span className="quiet">{at + 1}</span>
              <span className="key">{own.key}</span>
              <a href={`/p/${key}/${own.key}`}>{own.title}</a>
              <span className={css['note']}>
                {own.importance}, {own.minutes} min{' '}
                <button type="button" aria-label={`${own.key} up`} onClick={() => move(at, -1)}>
                  ↑
                </button>{' '}
                <button type="button" aria-label={`${own.key} down`} onClick={() => move(at, 1)}>
                  ↓
                </button>
              </span>
              <button
                type="button"
                className={css['act']}
                aria-label={`Take ${own.key} out`}
                onClick={() => void unpin(own.id, own.key)}
              >
                ×
              </button>
            </li>
          ))}
        </ul>
      </section>
      <History about={of.key} />
    </article>
  )
}
