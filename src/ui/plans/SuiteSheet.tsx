import type { Served } from '#core/lib/question.ts'
import { useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import { pinCases, readSuite, type SuiteSheet, updateSuite } from '#core/plans/contract.ts'
import { suiteStates } from '#core/plans/state.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Named, Part, TitleHead } from '#ui/shell/SheetParts.tsx'
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
  const { data, error } = useAnswer(readSuite, { params: { key, ref: about } }, { served })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data ? <Sheet of={data} /> : null
}

function Sheet({ of }: { of: SuiteSheet }) {
  const { key } = useHere()
  const edit = useEdit(updateSuite, { key, ref: of.key }, of)
  const set = (body: BodyOf<typeof updateSuite>) => void edit(body)
  return (
    <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
      <TitleHead title={of.title} onStore={(title) => set({ title })} />
      <p className={css['facts']}>
        <span className="key">{of.key}</span> is{' '}
        <Choice label="State" value={of.state} options={suiteStates} onChoose={(state) => set({ state })} />;{' '}
        {counted(of.cases, 'case')}, {minutesText(of.minutes)}
        {of.plans.length > 0 && (
          <>
            ; in <Named refs={of.plans.map((plan) => ({ key: plan.key, text: plan.title }))} />
          </>
        )}
      </p>
      <RichText
        label="objective"
        html={of.objective}
        placeholder="What does this suite find out?"
        place={`${of.key}.objective`}
        onStore={(objective) => edit({ objective })}
      />
      <Pinned of={of} />
      <History about={of.key} />
    </article>
  )
}

/** The cases by hand, in the order they are executed in. */
function Pinned({ of }: { of: SuiteSheet }) {
  const { key } = useHere()
  const pinning = useWrite(pinCases)
  const [adding, setAdding] = useState(false)
  const pin = (body: BodyOf<typeof pinCases>) => pinning.attempt({ params: { key, ref: of.key }, body })
  const move = (at: number, by: number) => {
    const order = of.pinned.map(({ id }) => id)
    const own = order[at]
    if (own !== undefined) void pin({ order: order.toSpliced(at, 1).toSpliced(Math.max(0, at + by), 0, own) })
  }
  const takeOut = async ({ id, key: ref }: PinnedCase) => {
    if (await pin({ remove: [id] })) notify(`${ref} is taken out.`, { undo: () => void pin({ add: [ref] }) })
  }
  const add = (
    <Button look="word" onClick={() => setAdding(!adding)}>
      pin cases
    </Button>
  )
  return (
    <Part title="Pinned cases, in order" act={add}>
      {adding && (
        <LinkBox
          onLink={async (refs) => {
            if (await pin({ add: refs })) setAdding(false)
          }}
        />
      )}
      <ul className={css['rows']}>
        {of.pinned.map((own, at) => (
          <PinnedRow key={own.id} of={own} at={at} onMove={(by) => move(at, by)} onTakeOut={() => void takeOut(own)} />
        ))}
      </ul>
    </Part>
  )
}

type PinnedCase = SuiteSheet['pinned'][number]

function PinnedRow({
  of,
  at,
  onMove,
  onTakeOut,
}: {
  of: PinnedCase
  at: number
  onMove: (by: number) => void
  onTakeOut: () => void
}) {
  const { key } = useHere()
  return (
    <li>
      <span className="quiet">{at + 1}</span>
      <span className="key">{of.key}</span>
      <a href={`/p/${key}/${of.key}`}>{of.title}</a>
      <span className={css['note']}>
        {of.importance}, {of.minutes} min{' '}
        <button type="button" aria-label={`${of.key} up`} onClick={() => onMove(-1)}>
          ↑
        </button>{' '}
        <button type="button" aria-label={`${of.key} down`} onClick={() => onMove(1)}>
          ↓
        </button>
      </span>
      <button type="button" className={css['act']} aria-label={`Take ${of.key} out`} onClick={onTakeOut}>
        ×
      </button>
    </li>
  )
}
