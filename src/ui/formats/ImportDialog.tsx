import { useState } from 'react'
import { type ImportAnswer, importFile } from '#core/formats/contract.ts'
import { CallProblem, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './ImportDialog.module.css'

/** Reads a CSV, shows what it makes and each problem with its place; stores all of it or nothing. */
export function ImportDialog({ what, onClose }: { what: 'requirements' | 'cases'; onClose: () => void }) {
  const { key } = useHere()
  const { write, busy } = useWrite(importFile)
  const [file, setFile] = useState<File | null>(null)
  const [answer, setAnswer] = useState<ImportAnswer | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const send = async (of: File, dry: 'yes' | 'no') => {
    setProblem(null)
    try {
      const told = await write({ params: { key }, query: { what, dry }, file: of })
      if (told.stored) {
        notify(`${told[what]} ${what} imported.`)
        onClose()
      } else setAnswer(told)
    } catch (error) {
      setProblem(error instanceof CallProblem ? error.problem.detail : sentenceOf(error))
    }
  }
  const choose = (of: File | undefined) => {
    if (!of) return
    setFile(of)
    setAnswer(null)
    void send(of, 'yes')
  }
  const count = answer?.[what] ?? 0
  return (
    <Dialog title={`Import ${what} from a CSV`} onClose={onClose} wide>
      <p className="quiet">Columns are recognised from their headers: {what === 'requirements' ? 'title, text, parent, risk, release, outside reference and more' : 'case title, action, expected, data, requirement and more; a row a step'}. Nothing is stored before you say so.</p>
      <p className={css['pick']} onDragOver={(event) => event.preventDefault()} onDrop={(event) => { event.preventDefault(); choose(event.dataTransfer.files[0]) }}><input type="file" aria-label="CSV file" accept=".csv,.tsv,.txt,text/csv" onChange={(event) => choose(event.target.files?.[0])} /> or drop it here</p>
      {problem && <p className={css['problem']} role="alert">{problem}</p>}
      {answer && (
        <>
          <p><b>{count} {what}</b>{what === 'cases' && ` with ${answer.steps} steps`} · {answer.encoding}, separated by {answer.separator === 'Tab' ? 'tabs' : `“${answer.separator}”`}</p>
          <p className={css['columns']}>{answer.columns.map(({ header, field }, index) => <span key={index} data-read={field !== null || undefined}>{header || '(no header)'} {field ? `→ ${field}` : 'is not read'}</span>)}</p>
          {answer.problems.length > 0 && <div className={css['problems']} role="alert"><b>{answer.problems.length} problems; mend them in the file first:</b><ul>{answer.problems.slice(0, 40).map(({ at, message }, index) => <li key={index}><b>{at}</b>: {message}</li>)}</ul></div>}
          <Preview of={answer} />
          <p className={css['act']}><Button look="main" disabled={busy || answer.problems.length > 0 || count === 0 || !file} onClick={() => { if (file) void send(file, 'no') }}>{busy ? 'Importing…' : `Import ${count} ${what}`}</Button></p>
        </>
      )}
    </Dialog>
  )
}

function Preview({ of }: { of: ImportAnswer }) {
  const rows = of.preview.map((row) => Object(row))
  const columns = of.what === 'requirements' ? ['title', 'text', 'reference', 'release', 'likelihood', 'impact'] : ['title', 'importance', 'component', 'requirements', 'steps']
  const shown = (value: unknown): string => (Array.isArray(value) ? (value.every((each) => typeof each === 'string') ? value.join(', ') : `${value.length} steps`) : value === null || value === undefined ? '' : String(value))
  return <table className={css['preview']}><caption>The first {rows.length} as they will be</caption><thead><tr>{columns.map((name) => <th key={name}>{name}</th>)}</tr></thead><tbody>{rows.map((row, index) => <tr key={index}>{columns.map((name) => <td key={name}>{shown(row[name])}</td>)}</tr>)}</tbody></table>
}
