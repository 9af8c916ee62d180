import { exportChosen, exportFile } from '#core/formats/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { callFile, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify, showProgress } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './ExportMenu.module.css'

const formats = {
  cases: [
    ['xlsx', 'Workbook', 'a row a step, reads back as it is'],
    ['csv', 'CSV', 'the same, as text'],
    ['markdown', 'Markdown', 'headings and numbered steps'],
    ['gherkin', 'Feature file', 'scenarios with examples'],
    ['pdf', 'PDF', 'to read and execute on paper'],
  ],
  requirements: [
    ['xlsx', 'Workbook', 'a row a requirement'],
    ['csv', 'CSV', 'the same, as text'],
    ['reqif', 'ReqIF', 'hierarchy, rich text, relations'],
    ['reqifz', 'ReqIF, packed', 'the same in a zip'],
    ['markdown', 'Markdown', 'headings as deep as the outline'],
    ['pdf', 'PDF', 'to read on paper'],
  ],
} as const

/** What is ticked, or everything, as a file; what the format has no place for is said afterwards. */
export function ExportMenu({ what, ids = [] }: { what: 'cases' | 'requirements'; ids?: readonly number[] }) {
  const { key } = useHere()
  const written = (name: string) =>
    ids.length > 0 ? `${name} is written, with the ${counted(ids.length, 'row')} ticked` : `${name} is written`
  const take = async (format: (typeof formats)[typeof what][number][0]) => {
    const stopping = new AbortController()
    const { signal } = stopping
    const shown = showProgress('Writing the file …', () => stopping.abort())
    try {
      const { blob, name, left } =
        ids.length > 0
          ? await callFile(exportChosen, { params: { key }, body: { format, what, ids: [...ids] }, signal })
          : await callFile(exportFile, { params: { key }, query: { format, what }, signal })
      const link = document.createElement('a')
      link.href = URL.createObjectURL(blob)
      link.download = name
      link.click()
      URL.revokeObjectURL(link.href)
      notify(
        left.length > 0
          ? `${written(name)}. This format has no place for ${left.join(', ')}.`
          : `${written(name)}, with nothing left out.`,
      )
    } catch (error) {
      if (signal.aborted) notify('Stopped; no file is written.')
      else notify(sentenceOf(error), { tone: 'problem' })
    } finally {
      shown.end()
    }
  }
  return (
    <Pop label="Export" title={`Export ${what}`}>
      <ul className={css['formats']}>
        {formats[what].map(([format, name, about]) => (
          <li key={format}>
            <Button look="word" onClick={() => void take(format)}>
              {name}
            </Button>{' '}
            <span className="quiet">{about}</span>
          </li>
        ))}
      </ul>
    </Pop>
  )
}
