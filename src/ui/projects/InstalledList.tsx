import { useState } from 'react'
import { type InstalledRow, listInstalled, takeBackInstalled } from '#core/projects/installed-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { RowActs, Table } from '#ui/kit/Settings.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { InstalledDialog, movedWords } from './InstalledDialog.tsx'
import css from './SetUp.module.css'

const page = 20

/** Everything that was said of what stands where, the newest first. */
export function InstalledList({ may }: { may: boolean }) {
  const { key } = useHere()
  const [shown, setShown] = useState(page)
  const { data } = useAnswer(listInstalled, { params: { key }, query: { limit: shown } }, { keep: true })
  const [open, setOpen] = useState<InstalledRow | null>(null)
  if (!data || data.rows.length === 0) return null
  return (
    <section className={css['one']}>
      <h2>Installed</h2>
      <Table label="Installed" head={['Environment', 'Build', 'From', 'Until', 'Said by', 'Attempts meanwhile', '']}>
        {data.rows.map((each) => (
          <tr key={each.id}>
            <td>{each.environment.name}</td>
            <td>
              {each.build ? <span className="key">{each.build.name}</span> : <i>none known</i>}
              {each.note !== '' && <small className={css['note']}>{each.note}</small>}
            </td>
            <td>{momentText(each.fromAt)}</td>
            <td>{each.untilAt === null ? 'stands' : momentText(each.untilAt)}</td>
            <td>{each.by ?? <span className="quiet">a pipeline</span>}</td>
            <td>{each.attempts}</td>
            <td>{may && <Acts of={each} onCorrect={() => setOpen(each)} />}</td>
          </tr>
        ))}
      </Table>
      {data.next !== null && (
        <p>
          <Button look="word" onClick={() => setShown(Math.min(200, shown + page * 2))}>
            older ones
          </Button>
        </p>
      )}
      {open && <InstalledDialog environment={open.environment} entry={open} onClose={() => setOpen(null)} />}
    </section>
  )
}

function Acts({ of, onCorrect }: { of: InstalledRow; onCorrect: () => void }) {
  const { key } = useHere()
  const { attempt } = useWrite(takeBackInstalled)
  const params = { key, id: of.id }
  const remove = async () => {
    const done = await attempt({ params, query: {} })
    if (!done) return
    notify(`It is taken back. ${movedWords(done.moves)}`, {
      undo: () => void attempt({ params, query: { undo: 'yes' } }),
    })
  }
  const named = ` ${of.build?.name ?? 'none'} on ${of.environment.name}`
  return (
    <RowActs>
      <Button look="word" onClick={onCorrect}>
        correct…<span className="hidden">{named}</span>
      </Button>
      <Button look="word" onClick={() => void remove()}>
        take back<span className="hidden">{named}</span>
      </Button>
    </RowActs>
  )
}
