import { type ReactNode, useState } from 'react'
import { counted, minutesText } from '#core/lib/figures.ts'
import type { CarryGroup } from '#core/plans/carry.ts'
import { type Carry, carryPlan, readCarry, takeCarryBack } from '#core/plans/carry-contract.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { go } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Part } from '#ui/shell/SheetParts.tsx'
import sheet from '#ui/shell/sheet.module.css'
import css from './Plan.module.css'
import { Head } from './PlanBits.tsx'

const words: Readonly<Record<CarryGroup, string>> = {
  retired: 'Retired or deleted',
  'basis gone': 'What they proved is dropped or gone',
  failing: 'Failing at the end',
  'not executed': 'Not executed everywhere',
  'basis changed': 'Worded anew since the result',
  'still holds': 'Passed everywhere, and nothing changed',
}

/** What is taken over, said of a group or of a single case. */
interface Decided {
  readonly groups: Readonly<Partial<Record<CarryGroup, boolean>>>
  readonly rows: Readonly<Record<number, boolean>>
}

const isTaken = (decided: Decided, { group, carried }: Carry['groups'][number], id: number): boolean =>
  group !== 'retired' && (decided.rows[id] ?? decided.groups[group] ?? carried)

/** A plan made into that of the next release: what became of each case, and what is taken over. */
export function CarryPart({ of, may }: { of: PlanSheet; may: boolean }) {
  const { key } = useHere()
  const { data, error } = useAnswer(readCarry, { params: { key, ref: of.key } }, { keep: true })
  const [decided, setDecided] = useState<Decided>({ groups: {}, rows: {} })
  if (error && !data) return <p role="alert">{sentenceOf(error)}</p>
  if (!data) return <p className="quiet">Reading what became of its cases…</p>
  const taken = data.groups.flatMap((group) => group.rows.filter(({ id }) => isTaken(decided, group, id)))
  return (
    <>
      <Head title="Carry over">
        {counted(
          data.groups.reduce((sum, { total }) => sum + total, 0),
          'case',
        )}{' '}
        of {of.title}, as they stood on {data.build ?? 'no build: none was offered'}. Taken over: <b>{taken.length}</b>,{' '}
        {minutesText(taken.reduce((sum, { minutes }) => sum + minutes, 0))}.
      </Head>
      {data.groups.map((group) => (
        <Group key={group.group} of={group} may={may} decided={decided} onDecide={setDecided} />
      ))}
      {data.uncovered.length > 0 && <Uncovered of={data.uncovered} />}
      {may && <Make of={of} cases={taken.map(({ id }) => id)} />}
    </>
  )
}

interface GroupProps {
  readonly of: Carry['groups'][number]
  readonly may: boolean
  readonly decided: Decided
  readonly onDecide: (decided: Decided) => void
}

function Group({ of, may, decided, onDecide }: GroupProps) {
  const { key } = useHere()
  if (of.total === 0) return null
  const taken = of.rows.filter(({ id }) => isTaken(decided, of, id)).length
  const all = (on: boolean) =>
    onDecide({
      groups: { ...decided.groups, [of.group]: on },
      rows: Object.fromEntries(
        Object.entries(decided.rows).filter(([id]) => !of.rows.some((row) => row.id === Number(id))),
      ),
    })
  return (
    <Part
      title={words[of.group]}
      act={
        may &&
        of.group !== 'retired' && (
          <span className={css['line']}>
            <Button look="word" onClick={() => all(true)}>
              take all<span className="hidden"> of: {words[of.group]}</span>
            </Button>
            <Button look="word" onClick={() => all(false)}>
              leave all<span className="hidden"> of: {words[of.group]}</span>
            </Button>
          </span>
        )
      }
    >
      <Rows
        summary={`${counted(of.total, 'case')}, ${minutesText(of.minutes)}: ${takenWords(taken, of.total)}`}
        few={of.total <= fewRows}
      >
        <ul className={sheet['rows']}>
          {of.rows.map((row) => (
            <li key={row.id}>
              <input
                type="checkbox"
                aria-label={`Take ${row.key} over`}
                checked={isTaken(decided, of, row.id)}
                disabled={!may || of.group === 'retired'}
                onChange={(event) =>
                  onDecide({ ...decided, rows: { ...decided.rows, [row.id]: event.target.checked } })
                }
              />
              <span className="key">{row.key}</span>
              <a href={`/p/${key}/${row.key}`}>{row.title}</a>
              <span className={sheet['note']}>{row.why}</span>
            </li>
          ))}
        </ul>
        {of.rows.length < of.total && <p className="quiet">The first {of.rows.length} are shown.</p>}
      </Rows>
    </Part>
  )
}

/** So many rows stand there without being unfolded. */
const fewRows = 8

const Rows = ({ summary, few, children }: { summary: string; few: boolean; children: ReactNode }) =>
  few ? (
    <>
      <p className="quiet">{summary}</p>
      {children}
    </>
  ) : (
    <Unfold summary={summary}>{children}</Unfold>
  )

const takenWords = (taken: number, total: number): string =>
  taken === 0 ? 'left behind' : taken === total ? 'taken over' : `${taken} taken over`

function Uncovered({ of }: { of: Carry['uncovered'] }) {
  const { key } = useHere()
  return (
    <Part title="New since, and nothing proves it">
      <ul className={sheet['rows']}>
        {of.map((each) => (
          <li key={each.id}>
            <span />
            <span className="key">{each.key}</span>
            <a href={`/p/${key}/${each.key}`}>{each.title}</a>
            <span className={sheet['note']}>risk {each.risk ?? 'not given'}</span>
          </li>
        ))}
      </ul>
    </Part>
  )
}

/** Makes the plan: its title, its release, and one act that can be taken back. */
function Make({ of, cases }: { of: PlanSheet; cases: readonly number[] }) {
  const { key, project } = useHere()
  const later = project.releases.filter(({ id }) => id !== of.releaseId)
  const [title, setTitle] = useState('')
  const [release, setRelease] = useState(String(later.at(-1)?.id ?? ''))
  const making = useWrite(carryPlan)
  const taking = useWrite(takeCarryBack)
  const name = later.find(({ id }) => String(id) === release)?.name ?? ''
  const said = title.trim() || likelyTitle(of, name)
  const make = async () => {
    const made = await making.attempt({
      params: { key, ref: of.key },
      body: { title: said, release: Number(release), cases: [...cases] },
    })
    if (!made) return
    notify(`${made.key} ${said} has ${counted(cases.length, 'case')} in ${counted(made.suites, 'suite')}.`, {
      undo: () => {
        void taking.attempt({ params: { key, ref: made.key }, query: {} })
        go({ path: `/p/${key}/${of.key}`, params: { carry: 'yes' } })
      },
    })
    go({ path: `/p/${key}/${made.key}`, params: { carry: null, part: null } })
  }
  if (later.length === 0) return <p className="quiet">There is no other release yet; add one in the set-up.</p>
  return (
    <Form className={css['line']} onSend={() => (cases.length === 0 ? undefined : void make())}>
      <TextInput
        type="text"
        aria-label="Title of the new plan"
        placeholder={likelyTitle(of, name)}
        value={title}
        maxLength={200}
        onChange={(event) => setTitle(event.target.value)}
      />
      <span>
        for release{' '}
        <Choice
          label="Release of the new plan"
          look="box"
          value={release}
          options={later.map((each) => ({ value: String(each.id), label: each.name }))}
          onChoose={setRelease}
        />
      </span>
      <Button look="main" type="submit" disabled={cases.length === 0 || making.busy}>
        Make the plan
      </Button>
      <Button look="word" onClick={() => go({ params: { carry: null } })}>
        back to the plan
      </Button>
    </Form>
  )
}

/** The old title with the new release’s name in place of the old one’s. */
const likelyTitle = ({ title, release }: PlanSheet, next: string): string =>
  title.includes(release) ? title.replaceAll(release, next) : `${title}, ${next}`
