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

/** Who is asked to review, by name; without a name any lead can. */
export function AskReview({
  of,
  onAsk,
  onClose,
}: {
  of: CaseSheet
  onAsk: (people: string[], why: string) => Promise<boolean>
  onClose: () => void
}) {
  const { project, me } = useHere()
  const [{ people, why }, set, keeping] = useKept<Asked>(`review.${of.key}`, { people: [], why: '' })
  const able = project.people.filter(({ id, role, ended }) => id !== me.id && role !== 'viewer' && !ended)
  return (
    <Dialog title={`Ask for review of ${of.key}`} onClose={onClose} kept={keeping}>
      <PickForm onDo={() => void onAsk([...people], why).then((done) => done && keeping.done())}>
        <p className="quiet">
          A version is cut of what it says now. Whoever you name is told; a lead who did not write it can approve.
        </p>
        <ul>
          {able.map((person) => (
            <li key={person.id}>
              <label>
                <input
                  type="checkbox"
                  checked={people.includes(person.id)}
                  onChange={(event) =>
                    set({
                      why,
                      people: event.target.checked
                        ? [...people, person.id]
                        : people.filter((each) => each !== person.id),
                    })
                  }
                />
                <span className="quiet">{person.role}</span>
                <span>{person.name}</span>
              </label>
            </li>
          ))}
        </ul>
        <Field label="What changed, and why? (may stay empty)">
          {(id) => (
            <TextInput id={id} data-first value={why} onChange={(event) => set({ people, why: event.target.value })} />
          )}
        </Field>
        <PickFoot>
          <Button look="main" type="submit">
            {people.length === 0
              ? 'Ask whoever may'
              : `Ask ${people.length === 1 ? (able.find(({ id }) => id === people[0])?.name ?? '') : `${people.length} people`}`}
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
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
