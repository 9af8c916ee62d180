import type { Served } from '#core/lib/question.ts'
import { numberIn } from '#core/lib/key.ts'
import { type DragEvent, useState } from 'react'
import type { BodyOf, OutputOf } from '#core/lib/contract.ts'
import {
  type fetchOutside,
  readRequirement,
  type RequirementSheet,
  updateRequirement,
} from '#core/requirements/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { RichText } from '#ui/kit/RichText.tsx'
import { scopeIn, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useEdit } from '#ui/shell/answers.tsx'
import { Attachments } from '#ui/shell/Attachments.tsx'
import { Pictures } from '#ui/shell/Pictures.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { OwnFields } from '#ui/shell/OwnFields.tsx'
import { useHere, useTo } from '#ui/shell/here.ts'
import { Part, SheetEnd, TitleHead } from '#ui/shell/SheetParts.tsx'
import { SharedFailures } from '#ui/shell/SharedFailures.tsx'
import css from '#ui/shell/sheet.module.css'
import { FetchedChanges } from './Outside.tsx'
import { RequirementFacts } from './RequirementFacts.tsx'
import { SplitMerge } from './SplitMerge.tsx'
import { Suspect } from './Suspect.tsx'
import { useLinks, CaseLine } from './LinkedCases.tsx'
import { RequirementThread } from './RequirementThread.tsx'
import { Figures, Designed } from './Figures.tsx'
import { CaseWriter } from '#ui/cases/CaseWriter.tsx'
import { LinkBox } from '#ui/shell/LinkBox.tsx'

export function RequirementSheetView({
  about,
  served,
  onClose,
}: {
  about: string
  served: Served<RequirementSheet> | null
  onClose: () => void
}) {
  const { key } = useHere()
  const { params } = useAddress()
  const { data, error } = useAnswer(
    readRequirement,
    { params: { key, ref: about }, query: scopeIn(params) },
    { served, keep: true },
  )
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data && data.key === about ? <Sheet of={data} /> : null
}

type Links = ReturnType<typeof useLinks>

function Sheet({ of }: { of: RequirementSheet }) {
  const { key } = useHere()
  const edit = useEdit(updateRequirement, { key, ref: of.key }, of)
  const set = (changes: BodyOf<typeof updateRequirement>) => void edit(changes)
  const links = useLinks(of)
  const [linking, setLinking] = useState(false)
  const [fetched, setFetched] = useState<OutputOf<typeof fetchOutside> | null>(null)
  useSheetKeys(of, links, () => setLinking(true))
  return (
    <Pictures about={of.key}>
      <RequirementThread of={of} />
      <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
        <Path of={of.path} />
        <TitleHead title={of.title} onStore={(title) => set({ title })} />
        <RequirementFacts of={of} onSet={set} onFetched={setFetched} />
        <OwnFields
          fields={of.fields}
          type={of.kind}
          tags={of.tags}
          values={of.custom}
          onTags={(tags) => set({ tags })}
          onValues={(custom) => set({ custom })}
        />
        <SplitMerge of={of} />
        {fetched && <FetchedChanges of={of} fetched={fetched} onTake={set} onClose={() => setFetched(null)} />}
        {of.suspect > 0 && <Suspect of={of} onConfirm={(each) => void links.confirm(each)} />}
        <RichText
          label="text of the requirement"
          html={of.text}
          placeholder="What must the product do? Write it here."
          place={`${of.key}.text`}
          onStore={(text) => edit({ text })}
        />
        <Figures of={of} />
        <Designed of={of} />
        <Cases of={of} links={links} linking={linking} onLinking={setLinking} />
        <Below of={of.children} />
        <Ties of={of.relations} />
        <Attachments about={of.key} />
        <SheetEnd about={of.key} />
      </article>
    </Pictures>
  )
}

function useSheetKeys(of: RequirementSheet, links: Links, onLink: () => void): void {
  const to = useTo()
  const first = of.linked.find(({ suspect }) => suspect)
  const confirm = { id: 'confirm', keys: 'k', label: 'confirm suspect link' }
  useKeys([
    { id: 'drafting', keys: 't', label: 'drafting table', run: () => location.assign(to(`${of.key}/draft`)) },
    { id: 'link', keys: 'l', label: 'link', run: onLink },
    {
      id: 'new-cases',
      keys: 'c',
      label: 'write cases',
      run: () => document.querySelector<HTMLElement>('#case-lines textarea')?.focus(),
    },
    ...(first ? [{ ...confirm, run: () => void links.confirm(first) }] : []),
  ])
}

/** The branches it stands under. */
function Path({ of }: { of: RequirementSheet['path'] }) {
  const to = useTo()
  if (of.length === 0) return null
  return (
    <p className="quiet">
      {of.map(({ key, title }) => (
        <span key={key}>
          <a href={to(key)}>{title}</a> ›{' '}
        </span>
      ))}
    </p>
  )
}

const dragged = 'application/x-rovant-refs'

/** The cases that prove it: linked by name, dropped on it, or written here. */
function Cases({
  of,
  links,
  linking,
  onLinking,
}: {
  of: RequirementSheet
  links: Links
  linking: boolean
  onLinking: (linking: boolean) => void
}) {
  const drop = (event: DragEvent) => {
    const refs = event.dataTransfer.getData(dragged).split(',')
    const cases = refs.filter((each) => numberIn('case', each) > 0)
    if (cases.length > 0) void links.link(cases)
  }
  return (
    <section
      className={css['part']}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(dragged)) event.preventDefault()
      }}
      onDrop={drop}
    >
      <div className={css['partHead']}>
        <h3>Cases</h3>
        <span>
          <Button look="word" onClick={() => onLinking(!linking)}>
            link a case
          </Button>
        </span>
      </div>
      {linking && (
        <LinkBox
          onLink={async (refs) => {
            if (await links.link(refs)) onLinking(false)
          }}
        />
      )}
      <ul className={css['rows']}>
        {of.linked.map((linked) => (
          <CaseLine
            key={linked.link}
            of={linked}
            onConfirm={() => void links.confirm(linked)}
            onEnd={() => void links.end(linked)}
          />
        ))}
      </ul>
      {of.linked.length > 0 && <SharedFailures of={of.key} />}
      <div id="case-lines">
        <CaseWriter requirement={of.id} />
      </div>
    </section>
  )
}

function Below({ of }: { of: RequirementSheet['children'] }) {
  const to = useTo()
  if (of.length === 0) return null
  return (
    <Part title="Below it">
      <ul className={css['rows']}>
        {of.map(({ key, title }) => (
          <li key={key}>
            <span />
            <span className="key">{key}</span>
            <a href={to(key)}>{title}</a>
          </li>
        ))}
      </ul>
    </Part>
  )
}

function Ties({ of }: { of: RequirementSheet['relations'] }) {
  const to = useTo()
  if (of.length === 0) return null
  return (
    <Part title="Ties">
      <ul className={css['rows']}>
        {of.map((tie, index) => (
          <li key={index}>
            <span />
            <span className="key">{tie.key}</span>
            <a href={to(tie.key)}>{tie.title}</a>
            <span className={css['note']}>{tie.towards ? tie.kind : `${tie.kind} this`}</span>
          </li>
        ))}
      </ul>
    </Part>
  )
}
