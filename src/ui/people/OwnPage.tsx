import { QueryClientProvider } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { readMe, type Me } from '#core/people/contract.ts'
import { afterVerdicts, afterVerdictWords } from '#core/people/after-verdict.ts'
import { languages } from '#core/people/language.ts'
import { dropPicture, readSecondFactor, setPicture, updateMe } from '#core/people/own-contract.ts'
import type { BodyOf } from '#core/lib/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { listenForKeys } from '#ui/kit/keys.ts'
import { KeepingFor } from '#ui/kit/kept.tsx'
import { momentText, now, useDrawnAt, writeDatesFor } from '#ui/kit/moment.ts'
import { hearTypedBefore } from '#ui/kit/typed-before.ts'
import { Notices, notify } from '#ui/kit/notices.tsx'
import { Setting } from '#ui/kit/Settings.tsx'
import { newClient, useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { RovantMark } from '#ui/shell/RouteBar.tsx'
import { call, sentenceOf } from '#ui/call.ts'
import { useUndoable } from '#ui/shell/undoable.ts'
import { ChangePassword } from './ChangePassword.tsx'
import css from './People.module.css'
import { Letters } from './Letters.tsx'
import { OwnKeys } from './OwnKeys.tsx'
import { PersonMark } from './PersonMark.tsx'
import { SecondFactor } from './SecondFactor.tsx'
import { SignIns } from './SignIns.tsx'
import { smallPicture } from './small-picture.ts'
import { Tokens } from './Tokens.tsx'

/** Everything a person sets of themselves, in whatever project. */
export function OwnPage({ me, at }: { me: Me; at: number }) {
  useDrawnAt(at)
  writeDatesFor({ language: me.language, timeZone: me.timeZone ?? 'UTC' })
  const [client] = useState(newClient)
  useEffect(listenForKeys, [])
  useEffect(hearTypedBefore, [])
  return (
    <QueryClientProvider client={client}>
      <KeepingFor value={`${me.id}.own`}>
        <header className={css['top']}>
          <a href="/">
            <RovantMark /> Rovant
          </a>
          <a href="/">back to your work</a>
        </header>
        <Own me={me} />
        <Notices />
      </KeepingFor>
    </QueryClientProvider>
  )
}

function Own({ me: given }: { me: Me }) {
  const { data: me = given } = useAnswer(readMe, {}, { served: { asked: {}, answer: given } })
  return (
    <main className={css['own']}>
      <header>
        <PersonMark of={me} large />
        <div>
          <h1>{me.name}</h1>
          <p className="quiet">{me.email}</p>
          <p className="quiet">{rolesText(me)}</p>
        </div>
      </header>
      <Wanted />
      <Self me={me} />
      <Letters />
      <OwnKeys />
      <ChangePassword />
      <SecondFactor />
      <SignIns />
      <Tokens me={me} />
    </main>
  )
}

const rolesText = ({ administrator, projects }: Me): string =>
  administrator
    ? 'administrator of this installation'
    : projects.map(({ name, role }) => `${role} in ${name}`).join(', ') || 'in no project yet'

/** Who asks for a second factor stands before everything else until there is one. */
function Wanted() {
  const { data } = useAnswer(readSecondFactor, {})
  if (!data || data.on || data.wantedBy.length === 0) return null
  return (
    <p className={css['wanted']} role="status">
      <b>A second factor is asked for by {data.wantedBy.join(', ')}.</b> Set one up below; until then you come no
      further than this page there.
    </p>
  )
}

const zones = Intl.supportedValuesOf('timeZone')

function Self({ me }: { me: Me }) {
  const storing = useUndoable(updateMe)
  const store = (body: BodyOf<typeof updateMe>, back: BodyOf<typeof updateMe>) => storing(body, 'Stored.', back)
  return (
    <section aria-label="Yourself">
      <h2>Yourself</h2>
      <Setting name="Name" explains="Everybody you work with reads it.">
        <EditText
          label="Name"
          value={me.name}
          onStore={(name) => {
            if (name !== '') void store({ name }, { name: me.name })
          }}
        />
      </Setting>
      <Picture me={me} />
      <Setting
        name="Dates"
        explains={`How dates and times are written for you: now is ${momentText(now())}. It holds from the next page on.`}
      >
        <Choice
          label="Language of dates"
          look="box"
          value={knownLanguage(me.language)}
          options={languages.map((each) => ({ value: each, label: nameOfLanguage(each) }))}
          onChoose={(language) => void store({ language }, { language: knownLanguage(me.language) })}
        />
      </Setting>
      <Setting
        name="Time zone"
        explains="Times are told by this clock; days of a project begin by that of the project."
      >
        <Choice
          label="Time zone"
          look="box"
          value={me.timeZone ?? ''}
          options={[
            { value: '', label: 'that of the project' },
            ...zones.map((each) => ({ value: each, label: each.replaceAll('_', ' ') })),
          ]}
          onChoose={(zone) => void store({ timeZone: zone === '' ? null : zone }, { timeZone: me.timeZone })}
        />
      </Setting>
      <Setting name="After a verdict" explains="What comes at the desk when an item has its verdict.">
        <Choice
          label="After a verdict"
          look="box"
          value={me.afterVerdict}
          options={afterVerdicts.map((each) => ({ value: each, label: afterVerdictWords[each] }))}
          onChoose={(afterVerdict) => void store({ afterVerdict }, { afterVerdict: me.afterVerdict })}
        />
      </Setting>
    </section>
  )
}

const knownLanguage = (language: string) => languages.find((each) => each === language) ?? 'en-GB'
const nameOfLanguage = (language: string): string =>
  new Intl.DisplayNames('en', { type: 'language' }).of(language) ?? language

function Picture({ me }: { me: Me }) {
  const setting = useWrite(setPicture)
  const dropping = useWrite(dropPicture)
  const choose = async (file: File | undefined) => {
    if (!file) return
    try {
      const small = await smallPicture(file)
      await call(setPicture, { file: small })
      location.reload()
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
  return (
    <Setting
      name="Picture"
      explains="Shown with your name to people of your projects. It is made small before it is sent."
    >
      <label>
        <span className="hidden">Choose a picture</span>
        <input type="file" accept="image/png,image/jpeg" onChange={(event) => void choose(event.target.files?.[0])} />
      </label>
      {me.picture && (
        <Button look="word" disabled={setting.busy || dropping.busy} onClick={() => void dropping.attempt({})}>
          take it away
        </Button>
      )}
    </Setting>
  )
}
