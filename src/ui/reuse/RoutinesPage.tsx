import { lazy, Suspense, useState } from 'react'
import { routineFields } from '#core/finding/fields.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import {
  createRoutine,
  cutRoutine,
  deleteRoutines,
  listRoutines,
  orderRoutines,
  readRoutine,
  repinUses,
  type RoutineRow,
  type RoutineSheet,
  storeRoutine,
  updateRoutine,
} from '#core/reuse/contract.ts'
import { restoreObject } from '#core/history/contract.ts'
import { call } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { Split } from '#ui/kit/Split.tsx'
import type { Column } from '#ui/list/columns.ts'
import { List } from '#ui/list/List.tsx'
import { go } from '#ui/shell/address.ts'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { Comments } from '#ui/shell/Comments.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { ago, shortName } from '#ui/shell/People.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { tellDeleted } from '#ui/shell/tell-many.ts'
import { usePaging, useSheet } from '#ui/shell/useSheet.ts'
import pick from '#ui/kit/Pick.module.css'
import { Steps } from '#ui/cases/Steps.tsx'
import versions from '#ui/cases/Versions.module.css'

const RepeatsDialog = lazy(async () => ({ default: (await import('./RepeatsDialog.tsx')).RepeatsDialog }))

interface Initial {
  readonly order: OutputOf<typeof orderRoutines>
  readonly rows: OutputOf<typeof listRoutines>
  readonly sheet: RoutineSheet | null
}

export const RoutinesPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Routines initial={initial} />
  </Shell>
)

const columns: Column<RoutineRow>[] = [
  {
    name: 'title',
    label: 'Routine',
    width: 0,
    cell: (row) => (
      <>
        <span className="key quiet">{row.key}</span>&ensp;{row.title}
      </>
    ),
  },
  { name: 'steps', label: 'Steps', width: 44, align: 'end', cell: (row) => row.steps },
  {
    name: 'uses',
    label: 'Used in',
    width: 52,
    align: 'end',
    cell: (row) => (row.uses === 0 ? <span className="quiet">nowhere</span> : row.uses),
  },
  {
    name: 'behind',
    label: 'Behind',
    width: 52,
    align: 'end',
    cell: (row) => (row.behind === 0 ? '' : <b>{row.behind}</b>),
  },
  {
    name: 'version',
    label: 'Version',
    width: 56,
    sortable: false,
    cell: (row) => <span className="key">{row.versionName ?? ''}</span>,
  },
]

function Routines({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const { ref, full, open, close } = useSheet(['routine'], 'routines')
  const [rows, setRows] = useState<readonly RoutineRow[]>(initial.rows.rows)
  const [dialog, setDialog] = useState<'new' | 'repeats' | null>(null)
  const deleting = useWrite(deleteRoutines)
  const restoring = useWrite(restoreObject)
  const show = (filter: object | null) =>
    go({ params: { filter: filter === null ? null : JSON.stringify(filter), text: null } })
  usePaging(rows, ref, open)
  useKeys(project.role === 'viewer' ? [] : [{ id: 'new', keys: 'n', label: 'new', run: () => setDialog('new') }])
  return (
    <>
      <Split
        label="Routines"
        full={full}
        index={
          <List
            name="routines"
            label="Routines"
            heading={<h1>Routines</h1>}
            columns={columns}
            fields={routineFields}
            order={orderRoutines}
            rows={listRoutines}
            params={{ key }}
            asOrder={(answer) => answer}
            pick={(answer) => answer.rows}
            initial={initial}
            openId={rows.find((row) => row.key === ref)?.id ?? null}
            onOpen={(row, wide) => open(row.key, wide)}
            onRows={setRows}
            sentence={(n, all) => (
              <>
                <Button look="word" onClick={() => show(null)}>
                  {n === all ? `All ${all}` : `${n} of ${all}`}
                </Button>
                , steps that <a href={`/p/${key}/cases`}>cases</a> insert; show{' '}
                <Button look="word" onClick={() => show({ field: 'behind', op: 'above', values: [0] })}>
                  behind the newest
                </Button>
                ,{' '}
                <Button look="word" onClick={() => show({ field: 'uses', op: 'is', values: [0] })}>
                  used nowhere
                </Button>
              </>
            )}
            actions={
              <span style={{ display: 'flex', gap: 10, alignItems: 'center' }}>
                <Button onClick={() => setDialog('repeats')}>Find repeats</Button>
                {project.role !== 'viewer' && (
                  <Button look="main" onClick={() => setDialog('new')}>
                    New routine
                  </Button>
                )}
              </span>
            }
            bulk={(ids, clear) => (
              <Button
                look="word"
                onClick={async () => {
                  tellDeleted(
                    await deleting.attempt({ params: { key }, body: { ids: [...ids] } }),
                    'routines deleted',
                    (refs) => restoring.attempt({ params: { key }, body: { refs } }),
                  )
                  clear()
                }}
              >
                delete
              </Button>
            )}
            empty={
              <>
                A routine is a few steps with a name, such as “Sign in as a clerk”, that many cases insert. Changed
                once, it is offered everywhere.
                <br />
                <br />
                <Button look="main" onClick={() => setDialog('repeats')}>
                  Find steps that cases repeat
                </Button>
              </>
            }
          />
        }
        sheet={
          ref === null ? null : (
            <RoutineSheetView
              key={ref}
              about={ref}
              initial={initial.sheet?.key === ref ? initial.sheet : undefined}
              onClose={close}
            />
          )
        }
      />
      {dialog === 'new' && (
        <NewRoutine
          onClose={() => setDialog(null)}
          onMade={(made) => {
            setDialog(null)
            open(made)
          }}
        />
      )}
      {dialog === 'repeats' && (
        <Suspense>
          <RepeatsDialog onClose={() => setDialog(null)} />
        </Suspense>
      )}
    </>
  )
}

function NewRoutine({ onMade, onClose }: { onMade: (key: string) => void; onClose: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(createRoutine)
  const [title, setTitle] = useState('')
  const [lines, setLines] = useState('')
  const make = async () => {
    const done = await attempt({ params: { key }, body: { title, lines } })
    if (done) onMade(done.key)
  }
  return (
    <Dialog title="New routine" onClose={onClose}>
      <form
        className={pick['pick']}
        onSubmit={(event) => {
          event.preventDefault()
          if (title.trim() !== '') void make()
        }}
      >
        <Field label="What it does, as one would say it">
          {(id) => (
            <TextInput
              id={id}
              data-first
              value={title}
              placeholder="Sign in as a clerk"
              onChange={(event) => setTitle(event.target.value)}
            />
          )}
        </Field>
        <Field label="Its steps, a line each" hint="action => expected; {name} is asked of whoever inserts it">
          {(id) => (
            <textarea
              id={id}
              rows={6}
              value={lines}
              spellCheck
              placeholder={'Open the desk => It asks who you are\nSign in as {who} => Your name is shown'}
              onChange={(event) => setLines(event.target.value)}
              style={{
                inlineSize: '100%',
                border: '1px solid var(--line-strong)',
                borderRadius: 4,
                padding: '6px 8px',
                background: 'var(--surface)',
              }}
            />
          )}
        </Field>
        <p className={pick['foot']}>
          <Button look="main" type="submit" disabled={title.trim() === '' || busy}>
            Make it
          </Button>
        </p>
      </form>
    </Dialog>
  )
}

function RoutineSheetView({
  about,
  initial,
  onClose,
}: {
  about: string
  initial: RoutineSheet | undefined
  onClose: () => void
}) {
  const { key } = useHere()
  const { data, error } = useAnswer(readRoutine, { params: { key, ref: about } }, { initial, keep: true })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data && data.key === about ? <Sheet of={data} /> : null
}

function Sheet({ of }: { of: RoutineSheet }) {
  const { key } = useHere()
  const set = useEdit(updateRoutine, { key, ref: of.key }, of.version)
  const cutting = useWrite(cutRoutine)
  const cut = async () => {
    const done = await cutting.attempt({ params: { key, ref: of.key }, body: {} })
    if (done)
      notify(
        done.cut
          ? `Version ${done.name ?? ''} is cut; ${of.usedBy.length === 0 ? 'it is inserted from now on' : 'the cases below can take it'}.`
          : 'Nothing changed since the newest version, so none was cut.',
      )
  }
  useKeys([
    { id: 'cut', keys: 'Ctrl+s', label: 'cut a version', run: () => void cut() },
    {
      id: 'edit',
      keys: 'e',
      label: 'edit steps',
      run: () => document.querySelector<HTMLElement>('[data-step-cell]')?.focus(),
    },
  ])
  return (
    <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
      <div className={css['head']}>
        <h2>
          <EditText label="Title" value={of.title} onStore={(title) => void set({ title })} />
        </h2>
        {of.unsaved && <Button onClick={() => void cut()}>Cut a version</Button>}
      </div>
      <p className={css['facts']}>
        <span className="key">{of.key}</span>{' '}
        {of.versionName === null ? (
          'has no version yet'
        ) : (
          <>
            version <span className="key">{of.versionName}</span>
          </>
        )}
        {of.unsaved && of.versionName !== null && ' with a newer working copy'};{' '}
        {of.uses === 0 ? (
          'inserted nowhere yet'
        ) : (
          <>
            inserted in <b>{of.uses}</b> {of.uses === 1 ? 'place' : 'places'}
            {of.behind > 0 && (
              <>
                , <b>{of.behind}</b> of them behind the newest version
              </>
            )}
          </>
        )}
        .
      </p>
      <RichText
        label="objective"
        html={of.objective}
        placeholder="When is it to be inserted?"
        onStore={(objective) => void set({ objective })}
      />
      <Steps
        key={of.key}
        plain
        of={{
          key: of.key,
          content: of.content,
          contentStamp: of.contentStamp,
          used: of.used,
          shownBy: 'readRoutine',
          store: (content, stamp) => call(storeRoutine, { params: { key, ref: of.key }, body: { content, stamp } }),
        }}
      />
      <WhereUsed of={of} />
      {of.versions.length > 0 && (
        <section className={css['part']}>
          <h3>Versions</h3>
          <ul className={versions['list']}>
            {of.versions.map((version) => (
              <li key={version.id}>
                <span className="key">{version.name}</span>
                <span className="quiet">{version.why}</span>
                <span className="quiet">
                  {shortName(version.by)} {ago(version.at)}
                </span>
                <span />
              </li>
            ))}
          </ul>
        </section>
      )}
      <section className={css['part']}>
        <h3>Comments</h3>
        <Comments about={of.key} />
      </section>
      <History about={of.key} />
    </article>
  )
}

/** Every place that inserts the routine, with its version; those behind can take the newest, all at once or one by one. */
function WhereUsed({ of }: { of: RoutineSheet }) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(repinUses)
  const { newestId } = of
  const behind = of.usedBy.filter(({ version }) => version !== newestId)
  const take = async (refs: readonly string[]) => {
    const done =
      newestId === null ? null : await attempt({ params: { key, ref: of.key }, body: { in: [...refs], to: newestId } })
    if (done)
      notify(
        `${done.changed} ${done.changed === 1 ? 'place uses' : 'places use'} ${of.versionName ?? ''} now, each with a new version that says so.`,
        {
          undo: () => {
            for (const back of done.undo) void attempt({ params: { key, ref: of.key }, body: back })
          },
        },
      )
  }
  return (
    <section className={css['part']}>
      <div className={css['partHead']}>
        <h3>Where used</h3>
        {behind.length > 0 && project.role !== 'viewer' && (
          <Button
            disabled={busy}
            onClick={() => void take(behind.map((user) => user.key))}
          >{`Change everywhere: ${behind.length} take ${of.versionName ?? ''}`}</Button>
        )}
      </div>
      {of.usedBy.length === 0 && <p className="quiet">Nowhere yet. In the steps of a case, Alt+I inserts it.</p>}
      <ul className={css['rows']}>
        {of.usedBy.map((user) => (
          <li key={user.key}>
            <span />
            <span className="key">{user.key}</span>
            <a href={`/p/${key}/${user.key}`}>{user.title}</a>
            <span className={css['note']}>
              uses <span className="key">{user.name}</span>
            </span>
            {user.version !== newestId && project.role !== 'viewer' ? (
              <button type="button" className={css['act']} onClick={() => void take([user.key])}>
                take {of.versionName}
                <span className="hidden"> in {user.key}</span>
              </button>
            ) : (
              <span />
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
