import type { CaseSheet } from '#core/cases/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import sheet from '#ui/shell/sheet.module.css'

interface Asked {
  readonly people: readonly string[]
  readonly why: string
}

/** Who is asked to review, by name. */
export function AskReview({
  about,
  said,
  label,
  nobody,
  onAsk,
  onClose,
}: {
  /** The key of what is to be reviewed. */
  about: string
  said: string
  label: string
  /** What asking nobody by name is called; `null` where somebody has to be named. */
  nobody: string | null
  onAsk: (people: string[], why: string) => Promise<boolean>
  onClose: () => void
}) {
  const { project, me } = useHere()
  const [{ people, why }, set, keeping] = useKept<Asked>(`review.${about}`, { people: [], why: '' })
  const able = project.people.filter(({ id, role, ended }) => id !== me.id && role !== 'viewer' && !ended)
  return (
    <Dialog title={`Ask for review of ${about}`} onClose={onClose} kept={keeping}>
      <PickForm onDo={() => void onAsk([...people], why).then((done) => done && keeping.done())}>
        <p className="quiet">{said}</p>
        <Able of={able} chosen={people} onChoose={(next) => set({ why, people: next })} />
        <Field label={label}>
          {(id) => (
            <TextInput id={id} data-first value={why} onChange={(event) => set({ people, why: event.target.value })} />
          )}
        </Field>
        <PickFoot>
          <Button look="main" type="submit" disabled={people.length === 0 && nobody === null}>
            {people.length === 0
              ? (nobody ?? 'Ask')
              : `Ask ${people.length === 1 ? (able.find(({ id }) => id === people[0])?.name ?? '') : `${people.length} people`}`}
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}

function Able({
  of,
  chosen,
  onChoose,
}: {
  of: readonly { readonly id: string; readonly name: string; readonly role: string }[]
  chosen: readonly string[]
  onChoose: (people: readonly string[]) => void
}) {
  return (
    <ul>
      {of.map(({ id, name, role }) => (
        <li key={id}>
          <label>
            <input
              type="checkbox"
              checked={chosen.includes(id)}
              onChange={(event) =>
                onChoose(event.target.checked ? [...chosen, id] : chosen.filter((each) => each !== id))
              }
            />
            <span className="quiet">{role}</span>
            <span>{name}</span>
          </label>
        </li>
      ))}
    </ul>
  )
}

/** Asks for a reason before something is done, which answers whether it was. */
export function CutReason({
  place,
  title,
  label,
  action,
  onReason,
  onClose,
}: {
  /** Tells what is asked, and of what, from others. */
  place: string
  title: string
  label: string
  action: string
  onReason: (why: string) => Promise<boolean>
  onClose: () => void
}) {
  const [why, setWhy, keeping] = useKept(`reason.${place}`, '')
  return (
    <Dialog title={title} onClose={onClose} kept={keeping}>
      <PickForm onDo={() => void onReason(why).then((done) => done && keeping.done())}>
        <Field label={label}>
          {(id) => <TextInput id={id} data-first value={why} onChange={(event) => setWhy(event.target.value)} />}
        </Field>
        <PickFoot>
          <Button look="main" type="submit">
            {action}
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}

export function Reviews({ of }: { of: CaseSheet }) {
  if (of.reviews.length === 0) return null
  return (
    <section className={sheet['part']}>
      <h3>Reviews</h3>
      <ul className={sheet['files']}>
        {of.reviews.slice(0, 6).map((each, index) => (
          <li key={index}>
            <span>
              {each.person} {each.answer === null ? 'was asked' : <b>{each.answer}</b>}{' '}
              <span className="key">{each.version}</span>
            </span>
            <span className="quiet">
              asked by {shortName(each.by)} {ago(each.at)}
            </span>
            <span className="quiet">{each.answeredAt === null ? 'no answer yet' : ago(each.answeredAt)}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
