import { counted } from '#core/lib/figures.ts'
import { endOtherSignIns, endSignIn, listSignIns } from '#core/people/own-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { RowActs, Table } from '#ui/kit/Settings.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'

/** Where one is signed in, ended one by one or all but this. */
export function SignIns() {
  const { data } = useAnswer(listSignIns, {})
  const ending = useWrite(endSignIn)
  const others = useWrite(endOtherSignIns)
  if (!data) return null
  const endAll = async () => {
    const done = await others.attempt({})
    if (done) notify(`${counted(done.ended, 'other sign-in')} ended.`)
  }
  return (
    <section aria-label="Where you are signed in">
      <h2>Where you are signed in</h2>
      <Table
        label="Sign-ins"
        head={[
          'Device',
          'From',
          'Since',
          'Last used',
          <span key="acts" className="hidden">
            Acts
          </span>,
        ]}
      >
        {data.rows.map(({ id, device, address, since, lastUsedAt, here }) => (
          <tr key={id}>
            <td>{here ? <b>{device}, this one</b> : device}</td>
            <td className="key">{address}</td>
            <td className="quiet">{momentText(since)}</td>
            <td className="quiet">{lastUsedAt === null ? '' : ago(lastUsedAt)}</td>
            <td>
              <RowActs>
                {!here && (
                  <Button look="word" onClick={() => void ending.attempt({ params: { signIn: id } })}>
                    end<span className="hidden"> the sign-in of {device}</span>
                  </Button>
                )}
              </RowActs>
            </td>
          </tr>
        ))}
      </Table>
      {data.rows.length > 1 && (
        <p style={{ marginBlockStart: 8 }}>
          <Button disabled={others.busy} onClick={() => void endAll()}>
            End all others
          </Button>
        </p>
      )}
    </section>
  )
}
