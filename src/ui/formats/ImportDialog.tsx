import { useEffect, useRef, useState } from 'react'
import type { Mapping } from '#core/formats/mapping.ts'
import { type ImportAnswer, importFile, keepMapping, listMappings, readImport } from '#core/formats/contract.ts'
import { call, CallProblem, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './ImportDialog.module.css'
import { MappingGrid } from './MappingGrid.tsx'
import { Preview } from './Preview.tsx'
import { useUndoAct } from './useUndoAct.ts'

type What = 'requirements' | 'cases'

/** Reads a file of any format, shows what it makes of what is there and each problem with its place; stores all of it or nothing. */
export function ImportDialog({ what, onClose }: { what: What; onClose: () => void }) {
  const own = useImport(what, onClose)
  const { answer, progress } = own
  const count = answer ? answer.counts.new + answer.counts.changed : 0
  return (
    <Dialog
      title={`Import ${what}`}
      onClose={() => {
        own.cancel()
        onClose()
      }}
      wide
    >
      {!answer && (
        <p className="quiet">
          {what === 'cases'
            ? 'A spreadsheet (xlsx, ods, csv), a feature file or Markdown.'
            : 'A spreadsheet (xlsx, ods, csv), ReqIF or Markdown.'}{' '}
          How it is read is shown before anything is stored; what is here already is found again by its key or id and
          updated.
        </p>
      )}
      <p
        className={css['pick']}
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault()
          own.choose(event.dataTransfer.files[0])
        }}
      >
        <input
          type="file"
          aria-label="File"
          accept=".csv,.tsv,.txt,.xlsx,.ods,.feature,.md,.reqif,.reqifz,.xml"
          onChange={(event) => own.choose(event.target.files?.[0])}
        />{' '}
        or drop it here
        {own.kept.length > 0 && (
          <span className={css['kept']}>
            read by{' '}
            <Choice
              label="Kept mapping"
              value={own.named ?? ''}
              options={[{ value: '', label: 'a guess' }, ...own.kept.map(({ name }) => name)]}
              onChoose={own.byName}
            />
          </span>
        )}
      </p>
      {own.problem && (
        <p className={css['problem']} role="alert">
          {own.problem}
        </p>
      )}
      {answer && (
        <>
          <p className={css['told']} role="status">
            <b>
              {answer.what === 'cases'
                ? `${answer.cases} cases with ${answer.steps} steps`
                : `${answer.requirements} requirements`}
            </b>{' '}
            from {answer.told}: <Counts of={answer} />
          </p>
          {answer.problemCount > 0 && (
            <div className={css['problems']} role="alert">
              <b>
                {answer.problemCount === 1 ? 'One problem' : `${answer.problemCount} problems`}; nothing is stored
                before {answer.problemCount === 1 ? 'it is' : 'they are'} mended, in the file or by reading it
                otherwise:
              </b>
              <ul>
                {answer.problems.slice(0, 40).map(({ at, message }, index) => (
                  <li key={index}>
                    <b>{at}</b>: {message}
                  </li>
                ))}
              </ul>
            </div>
          )}
          {answer.notices.length > 0 && (
            <ul className={css['notices']}>
              {answer.notices.slice(0, 8).map(({ at, message }, index) => (
                <li key={index}>
                  <b>{at}</b>: {message}
                </li>
              ))}
            </ul>
          )}
          {answer.mapping && <MappingGrid of={answer} mapping={answer.mapping} onMap={own.map} />}
          <Preview of={answer} />
          <footer className={css['act']}>
            {answer.mapping && <Keep mapping={answer.mapping} />}
            {progress !== null ? (
              <>
                <progress aria-label="Import" value={progress.done} max={Math.max(1, progress.of)} />
                <span className="quiet">
                  {progress.done} of {progress.of}
                </span>
                <Button onClick={own.cancel}>Cancel</Button>
              </>
            ) : (
              <Button
                look="main"
                data-first
                disabled={own.busy || answer.problemCount > 0 || count === 0}
                onClick={own.store}
              >
                {count === 0
                  ? 'Nothing to import'
                  : answer.counts.changed === 0
                    ? `Import ${count} ${answer.what}`
                    : `Import ${answer.counts.new} new, change ${answer.counts.changed}`}
              </Button>
            )}
          </footer>
        </>
      )}
    </Dialog>
  )
}

function Counts({ of }: { of: ImportAnswer }) {
  const parts = [
    `${of.counts.new} new`,
    ...(of.counts.changed > 0 ? [`${of.counts.changed} changed`] : []),
    ...(of.counts.unchanged > 0 ? [`${of.counts.unchanged} as they are here`] : []),
  ]
  return (
    <>
      {parts.join(', ')}
      {of.counts.gone > 0 && (
        <>
          ;{' '}
          <span title={of.gone.map(({ key, title }) => `${key} ${title}`).join('\n')}>
            {of.counts.gone} that came from here before {of.counts.gone === 1 ? 'is' : 'are'} not in it any more
          </span>{' '}
          (they stay)
        </>
      )}
      .
    </>
  )
}

/** The file, how it is read, what that makes, and the import itself with its progress. */
function useImport(what: What, onClose: () => void) {
  const { key } = useHere()
  const { write, busy } = useWrite(importFile)
  const takeBack = useUndoAct('The import is taken back')
  const { data: kept } = useAnswer(listMappings, { params: { key } })
  const [file, setFile] = useState<File | null>(null)
  const [named, setNamed] = useState<string | null>(null)
  const [answer, setAnswer] = useState<ImportAnswer | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null)
  const going = useRef<AbortController | null>(null)
  useEffect(() => () => going.current?.abort(), [])

  const ask = async (
    of: File,
    by: { mapping?: Mapping | undefined; named?: string | undefined; dry: 'yes' | 'no'; job?: string },
  ): Promise<ImportAnswer | null> => {
    setProblem(null)
    going.current = new AbortController()
    try {
      return await write({
        params: { key },
        query: {
          what,
          dry: by.dry,
          source: by.named ?? of.name,
          ...(by.mapping && { mapping: JSON.stringify(by.mapping) }),
          ...(by.named !== undefined && { named: by.named }),
          ...(by.job && { job: by.job }),
        },
        file: of,
        signal: going.current.signal,
      })
    } catch (error) {
      if (!(error instanceof DOMException))
        setProblem(error instanceof CallProblem ? error.problem.detail : sentenceOf(error))
      return null
    }
  }
  const look = async (of: File, by: { mapping?: Mapping; named?: string }) => {
    const told = await ask(of, { ...by, dry: 'yes' })
    if (told) setAnswer(told)
  }
  const store = async () => {
    if (!file || !answer) return
    const job = crypto.randomUUID()
    setProgress({ done: 0, of: answer.counts.new + answer.counts.changed })
    const watch = window.setInterval(
      () =>
        void call(readImport, { params: { key, job } })
          .then(setProgress)
          .catch(() => undefined),
      300,
    )
    const told = await ask(file, {
      dry: 'no',
      job,
      ...(named === null ? { mapping: answer.mapping ?? undefined } : { named }),
    })
    window.clearInterval(watch)
    setProgress(null)
    if (!told?.stored) return
    const act = told.act
    notify(
      `${told.counts.new} ${told.what} imported${told.counts.changed > 0 ? `, ${told.counts.changed} changed` : ''}.`,
      { undo: act === null ? undefined : () => void takeBack(act) },
    )
    onClose()
  }
  return {
    answer,
    problem,
    progress,
    busy,
    named,
    kept: kept?.rows.filter(({ mapping }) => mapping.what === what) ?? [],
    choose: (of: File | undefined) => {
      if (of) {
        setFile(of)
        setAnswer(null)
        void look(of, named === null ? {} : { named })
      }
    },
    byName: (name: string) => {
      setNamed(name || null)
      if (file) void look(file, name === '' ? {} : { named: name })
    },
    map: (mapping: Mapping) => {
      setNamed(null)
      if (file) void look(file, { mapping })
    },
    store: () => void store(),
    cancel: () => {
      if (progress !== null) {
        going.current?.abort()
        setProgress(null)
        notify('The import was cancelled; nothing was imported.')
      }
    },
  }
}

function Keep({ mapping }: { mapping: Mapping }) {
  const { key } = useHere()
  const keeping = useWrite(keepMapping)
  const [name, setName] = useState('')
  return (
    <form
      className={css['keep']}
      onSubmit={(event) => {
        event.preventDefault()
        void keeping.attempt({ params: { key }, body: { name, mapping } }).then((done) => {
          if (done) {
            notify(`The mapping is kept as “${name}”, for everybody.`)
            setName('')
          }
        })
      }}
    >
      <TextInput
        aria-label="Name for this mapping"
        placeholder="Keep this mapping as…"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" disabled={name.trim() === ''}>
        Keep
      </Button>
    </form>
  )
}
