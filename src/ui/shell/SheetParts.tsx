import { Fragment, type ReactNode } from 'react'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { Comments } from './Comments.tsx'
import { useHere } from './here.ts'
import { History } from './History.tsx'
import { peopleOptions } from './people.ts'
import css from './sheet.module.css'

// What the sheets of all kinds are made of.

/** A named part of a sheet; what can be done with the whole of it stands beside its name. */
export const Part = ({ title, act, children }: { title: string; act?: ReactNode; children: ReactNode }) => (
  <section className={css['part']}>
    {act === undefined ? (
      <h3>{title}</h3>
    ) : (
      <div className={css['partHead']}>
        <h3>{title}</h3>
        <span>{act}</span>
      </div>
    )}
    {children}
  </section>
)

/** Objects a sentence names, each leading to its own sheet. */
export const Named = ({ refs }: { refs: readonly { key: string; text?: string; note?: string; title?: string }[] }) => {
  const { key } = useHere()
  return refs.map(({ key: ref, text = ref, note, title }, index) => (
    <Fragment key={ref}>
      {index > 0 && ', '}
      <a href={`/p/${key}/${ref}`} title={title}>
        {text}
      </a>
      {note && ` (${note})`}
    </Fragment>
  ))
}

/** A sheet's head: its title, edited where it stands, and what can be done beside it. */
export const TitleHead = ({
  title,
  onStore,
  children,
}: {
  title: string
  onStore: (title: string) => void
  children?: ReactNode
}) => (
  <div className={css['head']}>
    <h2>
      <EditText label="Title" value={title} onStore={onStore} />
    </h2>
    {children}
  </div>
)

/** Whose it is, in a sentence of facts. */
export function OwnerFact({ id, onSet }: { id: string | null; onSet: (ownerId: string | null) => void }) {
  const { project } = useHere()
  return (
    <>
      ; owner{' '}
      <Choice label="Owner" value={id ?? ''} options={peopleOptions(project)} onChoose={(to) => onSet(to || null)} />
    </>
  )
}

/** The part of the product it is about, in a sentence of facts. */
export const ComponentFact = ({ value, onSet }: { value: string; onSet: (component: string) => void }) => (
  <>
    ; component <EditText label="Component" value={value} placeholder="none" onStore={onSet} />
  </>
)

/** How every sheet ends: what people said about it, and what was done to it. */
export const SheetEnd = ({ about }: { about: string }) => (
  <>
    <Part title="Comments">
      <Comments about={about} />
    </Part>
    <History about={about} />
  </>
)
