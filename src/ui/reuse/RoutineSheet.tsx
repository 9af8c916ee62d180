import { useRef } from 'react'
import {
  cutRoutine,
  readRoutine,
  repinUses,
  type RoutineSheet,
  storeRoutine,
  updateRoutine,
} from '#core/reuse/contract.ts'
import { call } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import type { Served } from '#core/lib/question.ts'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import { Counted } from '#ui/kit/Thread.tsx'
import { Part, SheetEnd, TitleHead } from '#ui/shell/SheetParts.tsx'
import css from '#ui/shell/sheet.module.css'
import { Steps } from '#ui/cases/Steps.tsx'
import versions from '#ui/cases/Versions.module.css'
import { allStored, type Flush, nothingTyped } from '#ui/shell/sending.ts'

export function RoutineSheetView({
  about,
  served,
  onClose,
}: {
  about: string
  served: Served<RoutineSheet> | null
  onClose: () => void
}) {
  const { key } = useHere()
  const { data, error } = useAnswer(readRoutine, { params: { key, ref: about } }, { served, keep: true })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data && data.key === about ? <Sheet of={data} /> : null
}

function Sheet({ of }: { of: RoutineSheet }) {
  const { key } = useHere()
  const set = useEdit(updateRoutine, { key, ref: of.key }, of)
  const flush = useRef(nothingTyped)
  const cut = useCut(of, () => flush.current())
  return (
    <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
      <TitleHead title={of.title} onStore={(title) => void set({ title })}>
        {of.unsaved && <Button onClick={cut}>Cut a version</Button>}
      </TitleHead>
      <Facts of={of} />
      <RichText
        label="objective"
        html={of.objective}
        placeholder="When is it to be inserted?"
        place={`${of.key}.objective`}
        onStore={(objective) => set({ objective })}
      />
      <Steps
        key={of.key}
        plain
        onReady={(to) => (flush.current = to)}
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
      <Versions of={of.versions} />
      <SheetEnd about={of.key} />
    </article>
  )
}

/** Cuts a version, by key as by its button; what is typed and not stored yet is stored first. */
function useCut(of: RoutineSheet, flush: Flush): () => void {
  const { key } = useHere()
  const { attempt } = useWrite(cutRoutine)
  const cut = async () => {
    if (!(await allStored(flush))) return
    const done = await attempt({ params: { key, ref: of.key }, body: {} })
    if (!done) return
    const then = of.usedBy.length === 0 ? 'it is inserted from now on' : 'the cases below can take it'
    notify(
      done.cut
        ? `Version ${done.name ?? ''} is cut; ${then}.`
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
  return () => void cut()
}

const Facts = ({ of: { key, versionName, unsaved, uses, behind } }: { of: RoutineSheet }) => (
  <p className={css['facts']}>
    <span className="key">{key}</span>{' '}
    {versionName === null ? (
      'has no version yet'
    ) : (
      <>
        version <span className="key">{versionName}</span>
      </>
    )}
    {unsaved && versionName !== null && ' with a newer working copy'};{' '}
    {uses === 0 ? (
      'inserted nowhere yet'
    ) : (
      <>
        inserted in <Counted n={uses} one="place" />
      </>
    )}
    {behind > 0 && (
      <>
        , <b>{behind}</b> of them behind the newest version
      </>
    )}
    .
  </p>
)

const Versions = ({ of }: { of: RoutineSheet['versions'] }) =>
  of.length === 0 ? null : (
    <Part title="Versions">
      <ul className={versions['list']}>
        {of.map(({ id, name, why, by, at }) => (
          <li key={id}>
            <span className="key">{name}</span>
            <span className="quiet">{why}</span>
            <span className="quiet">
              {shortName(by)} {ago(at)}
            </span>
            <span />
          </li>
        ))}
      </ul>
    </Part>
  )

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
