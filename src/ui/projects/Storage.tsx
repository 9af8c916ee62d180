import { bytesText, counted } from '#core/lib/figures.ts'
import { readStorage } from '#core/installation/contract.ts'
import { Setting, Table } from '#ui/kit/Settings.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'

/** What is kept, and how it is kept safe. */
export function Storage() {
  const { data } = useAnswer(readStorage, {})
  if (!data) return null
  return (
    <>
      <Setting name="Database" explains="Everything but files: one file, which a backup copies while people work.">
        <span>{bytesText(data.database)}</span>
      </Setting>
      <Setting
        name="Evidence and files"
        explains={
          <>
            Each is kept once, by what is in it, however often it is attached. They are in <code>{data.filesIn}</code>;{' '}
            <code>rovant evidence --to</code> moves them.
          </>
        }
      >
        <span>{data.filesProblem ?? `${counted(data.files, 'file')}, ${bytesText(data.fileBytes)}`}</span>
      </Setting>
      <Setting
        name="Free on the disk"
        explains="Where it ends, nothing is stored any more, and the health of the server says so."
      >
        <span>{bytesText(data.free)}</span>
      </Setting>
      <Setting
        name="Backup"
        explains={
          <>
            <code>rovant backup OUT</code> makes one while people work, <code>rovant restore IN</code> brings it back
            into an empty directory, <code>rovant verify</code> says whether all is sound.
          </>
        }
      >
        <span className="quiet">by a command</span>
      </Setting>
      <Table label="Projects" head={['Project', 'Key', 'Requirements', 'Cases', 'Attempts']}>
        {data.projects.map(({ key, name, requirements, cases, attempts }) => (
          <tr key={key}>
            <td>{name}</td>
            <td className="key">{key}</td>
            <td>{requirements}</td>
            <td>{cases}</td>
            <td>{attempts}</td>
          </tr>
        ))}
      </Table>
    </>
  )
}
