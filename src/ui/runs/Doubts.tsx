import { counted } from '#core/lib/figures.ts'
import { liftDoubt, listDoubts } from '#core/runs/attempts-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'

/** The doubts there were, with the way to lift those that hold. */
export function Doubts() {
  const { key, project } = useHere()
  const { data } = useAnswer(listDoubts, { params: { key }, query: {} })
  const lifting = useWrite(liftDoubt)
  const rows = data?.rows ?? []
  if (rows.length === 0) return null
  const hold = rows.filter(({ liftedAt }) => liftedAt === null).length
  const lift = async (id: number) => {
    const done = await lifting.attempt({ params: { key, id } })
    if (done) notify(done.stopped ?? `${counted(done.attempts, 'attempt')} believed again; every figure is as it was.`)
  }
  return (
    <Pop label={hold === 0 ? 'doubts' : counted(hold, 'doubt')} title="Doubts">
      <ul style={{ display: 'grid', gap: 10, maxInlineSize: 420 }}>
        {rows.map((each) => (
          <li key={each.id}>
            <b>{each.reason}</b>
            <br />
            <span className="quiet">
              {counted(each.attempts, 'attempt')}, {shortName(each.person)} {momentText(each.at)}
              {each.liftedAt !== null && `; lifted by ${shortName(each.liftedBy)} ${momentText(each.liftedAt)}`}
            </span>{' '}
            {each.liftedAt === null && project.role === 'lead' && (
              <Button look="word" onClick={() => void lift(each.id)}>
                lift it
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Pop>
  )
}
