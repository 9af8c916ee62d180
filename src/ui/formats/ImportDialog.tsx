import { useState } from 'react'
import type { Mapping } from '#core/formats/mapping.ts'
import { type ImportAnswer, keepMapping } from '#core/formats/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { FilePick } from '#ui/kit/FilePick.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './ImportDialog.module.css'
import { MappingGrid } from './MappingGrid.tsx'
import { NotRead, Words } from './Words.tsx'
import { Preview } from './Preview.tsx'
import { type Importing, useImport, type What } from './useImport.ts'

/** Reads a file of any format, shows what it makes of what is there and each problem with its place; stores all of it or nothing. */
export function ImportDialog({ what, onClose }: { what: What; onClose: () => void }) {
  const own = useImport(what, onClose)
  const { answer } = own
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
          {formats[what]} How it is read is shown before anything is stored; what is here already is found again by its
          key or id and updated.
        </p>
      )}
      <Pick own={own} />
      {own.problem && (
        <p className={css['problem']} role="alert">
          {own.problem}
        </p>
      )}
      {answer && (
        <>
          <Told of={answer} />
          {answer.fits !== null && own.made === null && (
            <p className={css['notices']}>
              The kept mapping “{answer.fits}” was made for such a file.{' '}
              <Button look="word" onClick={() => own.byName(answer.fits ?? '')}>
                Read it by that
              </Button>
            </p>
          )}
          {answer.mapping && (
            <>
              <MappingGrid of={answer} mapping={answer.mapping} onMap={own.map} />
              <NotRead of={answer} />
              <Words of={answer} mapping={answer.mapping} onMap={own.map} />
            </>
          )}
          <Preview of={answer} />
          <footer className={css['act']}>
            {answer.mapping && <Keep mapping={answer.mapping} />}
            <Store own={own} answer={answer} />
          </footer>
        </>
      )}
    </Dialog>
  )
}

const formats: Readonly<Record<What, string>> = {
  cases: 'A spreadsheet (xlsx, ods, csv), a feature file or Markdown.',
  requirements: 'A spreadsheet (xlsx, ods, csv), ReqIF or Markdown.',
}

const Pick = ({ own }: { own: Importing }) => (
  <FilePick
    label="File"
    accept=".csv,.tsv,.txt,.xlsx,.ods,.feature,.md,.reqif,.reqifz,.xml"
    onChoose={(file) => own.choose(file)}
  >
    {own.made && (
      <>
        ; read as the last one was mapped{' '}
        <Button look="word" onClick={() => own.byName('')}>
          guess anew
        </Button>
      </>
    )}
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
  </FilePick>
)

/** So many problems and notices are shown; a file with more is read otherwise or mended first. */
const mostProblems = 40
const mostNotices = 8

const one = { cases: 'case', requirements: 'requirement' } as const
const readText = ({ what, cases, steps, requirements }: ImportAnswer): string =>
  what === 'cases'
    ? `${counted(cases, one.cases)} with ${counted(steps, 'step')}`
    : counted(requirements, one.requirements)

/** What was read, what that makes of what is here, and what is wrong with it. */
const Told = ({ of }: { of: ImportAnswer }) => (
  <>
    <p className={css['told']} role="status">
      <b>{readText(of)}</b> from {of.told}: <Counts of={of} />
    </p>
    {of.problemCount > 0 && (
      <div className={css['problems']} role="alert">
        <b>{problemsText(of.problemCount)}</b>
        <Places of={of.problems.slice(0, mostProblems)} />
      </div>
    )}
    {of.notices.length > 0 && (
      <div className={css['notices']}>
        <Places of={of.notices.slice(0, mostNotices)} />
      </div>
    )}
  </>
)

const problemsText = (count: number): string => {
  const [which, they] = count === 1 ? ['One problem', 'it is'] : [`${count} problems`, 'they are']
  return `${which}; nothing is stored before ${they} mended, in the file or by reading it otherwise:`
}

const Places = ({ of }: { of: ImportAnswer['problems'] }) => (
  <ul>
    {of.map(({ at, message }, index) => (
      <li key={index}>
        <b>{at}</b>: {message}
      </li>
    ))}
  </ul>
)

function Store({ own: { progress, cancel, busy, store }, answer }: { own: Importing; answer: ImportAnswer }) {
  const count = answer.counts.new + answer.counts.changed
  if (progress === null)
    return (
      <Button look="main" data-first disabled={busy || answer.problemCount > 0 || count === 0} onClick={store}>
        {storeText(answer)}
      </Button>
    )
  return (
    <>
      <progress aria-label="Import" value={progress.done} max={Math.max(1, progress.of)} />
      <span className="quiet">
        {progress.done} of {progress.of}
      </span>
      <Button onClick={cancel}>Cancel</Button>
    </>
  )
}

function storeText({ counts, what }: ImportAnswer): string {
  if (counts.new + counts.changed === 0) return 'Nothing to import'
  return counts.changed === 0
    ? `Import ${counted(counts.new, one[what])}`
    : `Import ${counts.new} new, change ${counts.changed}`
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

function Keep({ mapping }: { mapping: Mapping }) {
  const { key } = useHere()
  const keeping = useWrite(keepMapping)
  const [name, setName] = useState('')
  return (
    <Form
      className={css['keep']}
      onSend={() => {
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
    </Form>
  )
}
