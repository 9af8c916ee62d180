import { exportChosen, exportFile } from '#core/formats/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { callFile } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useHere } from '#ui/shell/here.ts'
import { takeFile } from './take-file.ts'
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
    await takeFile(
      (signal) =>
        ids.length > 0
          ? callFile(exportChosen, { params: { key }, body: { format, what, ids: [...ids] }, signal })
          : callFile(exportFile, { params: { key }, query: { format, what }, signal }),
      ({ name, left }) =>
        left.length > 0
          ? `${written(name)}. This format has no place for ${left.join(', ')}.`
          : `${written(name)}, with nothing left out.`,
    )
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
