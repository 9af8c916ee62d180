import type { OutputOf } from '#core/lib/contract.ts'
import { addFile, listAttachments, removeFile } from '#core/talk/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { bytesText } from '#core/lib/figures.ts'
import { useAnswer, useWrite } from './answers.tsx'
import { useHere } from './here.ts'
import { ago, shortName } from './people.ts'
import sheet from './sheet.module.css'

/** Files that belong to an object: chosen, dropped here, or pasted into its texts. */
export function Attachments({ about }: { about: string }) {
  const { key, project } = useHere()
  const { data } = useAnswer(listAttachments, { params: { key }, query: { ref: about } })
  const adding = useWrite(addFile)
  const take = (files: FileList | null) => {
    for (const file of files ?? [])
      void adding.attempt({ params: { key }, query: { ref: about, name: file.name }, file })
  }
  const rows = data?.rows ?? []
  return (
    <section
      className={sheet['part']}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        take(event.dataTransfer.files)
      }}
    >
      <div className={sheet['partHead']}>
        <h3>Files</h3>
        {project.role !== 'viewer' && (
          <label className={sheet['attach']}>
            {adding.busy ? 'Storing…' : 'attach a file'}
            <input
              type="file"
              multiple
              className="hidden"
              onChange={(event) => {
                take(event.target.files)
                event.target.value = ''
              }}
            />
          </label>
        )}
      </div>
      {rows.length === 0 ? <p className="quiet">None. Drop one here.</p> : <Files of={rows} />}
    </section>
  )
}

type Attached = OutputOf<typeof listAttachments>['rows'][number]

function Files({ of }: { of: readonly Attached[] }) {
  const { key } = useHere()
  const removing = useWrite(removeFile)
  const remove = async ({ id, name }: Attached) => {
    const params = { key, id }
    if (await removing.attempt({ params }))
      notify(`${name} is taken away.`, { undo: () => void removing.attempt({ params, query: { undo: true } }) })
  }
  return (
    <ul className={sheet['files']}>
      {of.map((file) => (
        <li key={file.id}>
          <a href={file.url} target="_blank" rel="noreferrer">
            {file.name}
          </a>
          <span className="quiet">
            {bytesText(file.size)}, {shortName(file.person)} {ago(file.at)}
          </span>
          <Button look="word" onClick={() => void remove(file)}>
            ×<span className="hidden"> take {file.name} away</span>
          </Button>
        </li>
      ))}
    </ul>
  )
}
