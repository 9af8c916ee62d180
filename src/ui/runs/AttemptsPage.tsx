import { type RefObject, useEffect, useMemo, useRef, useState } from 'react'
import { attemptAsks } from '#core/finding/asks.ts'
import { attemptFields } from '#core/finding/fields.ts'
import type { Project } from '#core/projects/contract.ts'
import { type AttemptRow, changeAttempts, listAttempts, orderAttempts } from '#core/runs/attempts-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { Split } from '#ui/kit/Split.tsx'
import type { Column } from '#ui/list/columns.ts'
import { KeyTitle } from '#ui/list/KeyTitle.tsx'
import { List } from '#ui/list/List.tsx'
import { AskWords, Sentence } from '#ui/list/Sentence.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { useMany } from '#ui/shell/many.ts'
import { ago, shortName } from '#ui/shell/people.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { AttemptSheet } from './AttemptSheet.tsx'
import { CompareAttempts } from './CompareAttempts.tsx'
import { DoubtDialog } from './DoubtDialog.tsx'
import { Doubts } from './Doubts.tsx'
import { StrikeOut } from './StrikeOut.tsx'

export const AttemptsPage = (shell: ShellProps) => (
  <Shell {...shell}>
    <Attempts />
  </Shell>
)

const columns: readonly Column<AttemptRow>[] = [
  {
    name: 'verdict',
    label: 'Result',
    width: 44,
    cell: (row) => (
      <span style={row.struck === null ? undefined : { opacity: 0.4 }}>
        <SaidMark verdict={row.verdict} word={row.word} />
      </span>
    ),
  },
  {
    name: 'title',
    label: 'Case',
    width: 0,
    cell: (row) => (
      <>
        <KeyTitle of={{ key: row.case, title: row.title }} />
        {row.word && <span className="quiet"> · {row.word}</span>}
        {row.struck !== null && <span className="quiet"> · struck out: {row.struck}</span>}
        {row.doubt !== null && <span className="quiet"> · doubted: {row.doubt}</span>}
      </>
    ),
  },
  { name: 'environment', label: 'Environment', width: 120, cell: (row) => row.environment },
  { name: 'build', label: 'Build', width: 96, cell: (row) => <span className="key">{row.build}</span> },
  { name: 'run', label: 'Run', width: 52, cell: (row) => <span className="key">{row.run}</span> },
  { name: 'person', label: 'By', width: 84, cell: (row) => (row.person ? shortName(row.person) : 'a machine') },
  {
    name: 'age',
    label: 'Finished',
    width: 92,
    cell: (row) => <span className="quiet">{row.finishedAt === null ? 'goes on' : ago(row.finishedAt)}</span>,
  },
  {
    name: 'minutes',
    label: 'Min',
    width: 36,
    align: 'end',
    cell: (row) => (row.seconds === 0 ? '' : Math.max(1, Math.round(row.seconds / 60))),
  },
  {
    name: 'defects',
    label: 'Defects',
    width: 62,
    cell: (row) => <span className="key">{row.defects.join(' ')}</span>,
  },
]

const choicesOf = ({ people, environments, builds, releases, components, verdictKinds, reasons }: Project) => ({
  person: people.map(({ name }) => name),
  environment: environments.map(({ name }) => name),
  build: builds.map(({ name }) => name),
  release: releases.map(({ name }) => name),
  component: components,
  word: verdictKinds.map(({ word }) => word),
  reason: [...new Set(reasons.map(({ word }) => word))],
})

type Asked = { readonly what: 'doubt' | 'compare'; readonly ids: readonly number[] } | null

/** Every attempt there is: what it came to, where, by whom; compared, struck out, put right, doubted. */
function Attempts() {
  const { key, project } = useHere()
  const params = useParams('attempt')
  const open = Number(params.get('attempt') ?? 0) || null
  const [asked, ask] = useState<Asked>(null)
  // No state: the bar of what is ticked is drawn anew by what it tells.
  const ticked = useRef<readonly number[]>([])
  const choices = useMemo(() => choicesOf(project), [project])
  const compare = (ids: readonly number[]) =>
    ids.length === 2 ? ask({ what: 'compare', ids }) : notify('Tick two attempts to compare them step by step.')
  useKeys([
    { id: 'compare', keys: 'c', label: 'compare two', run: () => compare(ticked.current) },
    { id: 'close', keys: 'Escape', label: 'close', quiet: true, run: () => go({ params: { attempt: null } }) },
  ])
  return (
    <>
      <Split
        label="Attempts"
        full={false}
        sheet={
          open === null ? null : <AttemptSheet key={open} id={open} onDoubt={(ids) => ask({ what: 'doubt', ids })} />
        }
        index={
          <List
            name="attempts"
            label="Attempts"
            title={<h1>Attempts</h1>}
            columns={columns}
            fields={attemptFields}
            choices={choices}
            source={{ order: orderAttempts, rows: listAttempts, params: { key } }}
            openId={open}
            onOpen={(row) => go({ params: { attempt: String(row.id) } })}
            sentence={(shown, all) => (
              <Sentence shown={shown} all={all} lead=", the newest first; nothing is ever removed" asks={attemptAsks} />
            )}
            actions={<Doubts />}
            many={(ids, clear) => (
              <Many ids={ids} clear={clear} ticked={ticked} onCompare={() => compare(ids)} onAsk={ask} />
            )}
            noneFits={
              <>
                No attempt fits this filter. <AskWords words="Take the filter away" filter={null} />
              </>
            }
            empty="Nothing was executed yet. An attempt is made by whoever opens an item of a run."
          />
        }
      />
      {asked?.what === 'doubt' && <DoubtDialog ids={asked.ids} onClose={() => ask(null)} />}
      {asked?.what === 'compare' && <CompareAttempts ids={asked.ids} onClose={() => ask(null)} />}
    </>
  )
}

interface ManyOf {
  readonly ids: readonly number[]
  readonly clear: () => void
  readonly ticked: RefObject<readonly number[]>
  readonly onCompare: () => void
  readonly onAsk: (what: Asked) => void
}

function Many({ ids, clear, ticked, onCompare, onAsk }: ManyOf) {
  const { key, project } = useHere()
  const many = useMany(changeAttempts, { params: { key }, one: 'attempt', nothing: {} })
  // The key that compares acts on what is ticked here.
  useEffect(() => {
    ticked.current = ids
    return () => {
      ticked.current = []
    }
  }, [ids])
  if (project.role !== 'lead')
    return (
      <Button look="word" onClick={onCompare}>
        compare
      </Button>
    )
  return (
    <>
      {ids.length === 2 && (
        <Button look="word" onClick={onCompare}>
          compare
        </Button>
      )}
      <Button look="word" onClick={() => onAsk({ what: 'doubt', ids })}>
        doubt
      </Button>
      <Pop label="strike out" title="Strike attempts out">
        <StrikeOut
          count={ids.length}
          onStrike={async (struck) => {
            await many.set(ids, { struck })
            clear()
          }}
        />
      </Pop>
      <SetTo
        label="Was made on build"
        options={project.builds.map(({ id, name }) => ({ value: String(id), label: name }))}
        onSet={(build) => void many.set(ids, { buildId: Number(build) })}
      />
      <SetTo
        label="Was made in"
        options={project.environments.map(({ id, name }) => ({ value: String(id), label: name }))}
        onSet={(environment) => void many.set(ids, { environmentId: Number(environment) })}
      />
      <SetTo
        label="Was made by"
        options={project.people.map(({ id, name }) => ({ value: id, label: name }))}
        onSet={(personId) => void many.set(ids, { personId })}
      />
    </>
  )
}
