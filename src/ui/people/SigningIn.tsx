import { commaList } from '#core/lib/comma-list.ts'
import { allowHostsInside, readHostsInside, readSigningIn, updateSigningIn } from '#core/installation/contract.ts'
import { EditText } from '#ui/kit/EditText.tsx'
import { Setting } from '#ui/kit/Settings.tsx'
import { YesNo } from '#ui/kit/YesNo.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useUndoable } from '#ui/shell/undoable.ts'
import { SignOnSetUp } from './SignOnSetUp.tsx'

/** How people come in, and which hosts of the own network may be asked. */
export function SigningIn() {
  const { data } = useAnswer(readSigningIn, {})
  const store = useUndoable(updateSigningIn)
  if (!data) return null
  const ask = (asked: boolean) =>
    store(
      { secondFactorAsked: asked },
      asked ? 'Everybody is asked for a second factor.' : 'A second factor is no longer asked of everybody.',
      { secondFactorAsked: !asked },
    )
  return (
    <>
      <Setting
        name="Second factor for everybody"
        explains="Whoever signs in without one comes as far as their own page, where they can set one up. A project may ask for it alone, among its rules."
      >
        <YesNo
          label="Second factor for everybody"
          is={data.secondFactorAsked}
          no="is not asked for"
          yes="is asked for"
          onChoose={(is) => void ask(is)}
        />
      </Setting>
      <Setting
        name="Mail"
        explains="Invitations and links for a new password go out by mail where a mail server is named at the start, by --mail or ROVANT_MAIL. Without one, links are shown once, to be handed over."
      >
        <span>{data.mail ? 'Letters are sent' : 'No mail leaves from here'}</span>
        {data.address !== null && (
          <span className="quiet">
            links lead to <span className="key">{data.address}</span>
          </span>
        )}
      </Setting>
      <SignOnSetUp />
      <HostsInside />
    </>
  )
}

function HostsInside() {
  const { data } = useAnswer(readHostsInside, {})
  const store = useUndoable(allowHostsInside)
  if (!data) return null
  const allow = (hosts: string[]) =>
    store({ hosts }, hosts.length === 0 ? 'No host inside may be asked.' : 'Stored.', { hosts: data.hosts })
  return (
    <Setting
      name="Hosts inside"
      explains="A lead names the address of a tracker; one in your own network is asked only if its host stands here. Names or addresses, with commas between."
    >
      <EditText
        label="Hosts inside that may be asked"
        placeholder="none"
        value={data.hosts.join(', ')}
        onStore={(text) => void allow(commaList(text))}
      />
    </Setting>
  )
}
