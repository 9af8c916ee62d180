import type { Served } from '#core/lib/question.ts'
import { numberIn } from '#core/lib/key.ts'
import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import {
  type fetchOutside,
  readRequirement,
  type RequirementSheet,
  updateRequirement,
} from '#core/requirements/contract.ts'
import { kindOf, requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Pop } from '#ui/kit/Pop.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { scopeIn, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useEdit } from '#ui/shell/answers.tsx'
import { Attachments } from '#ui/shell/Attachments.tsx'
import { Comments } from '#ui/shell/Comments.tsx'
import { Pictures } from '#ui/shell/Pictures.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { OwnFields } from '#ui/shell/OwnFields.tsx'
import { peopleOptions } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'
import { FetchedChanges, Outside } from './Outside.tsx'
import { gradeIn, gradeText, priorities } from './grades.ts'
import { SplitMerge } from './SplitMerge.tsx'
import { Suspect } from './Suspect.tsx'
import { RiskGrid } from './RiskGrid.tsx'
import { useLinks, CaseLine } from './LinkedCases.tsx'
import { RequirementThread } from './RequirementThread.tsx'
import { Figures, Designed } from './Figures.tsx'
import { CaseWriter } from '#ui/cases/CaseWriter.tsx'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { Targets } from './Targets.tsx'

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

function Sheet({ of }: { of: RequirementSheet }) {
  const { key, project } = useHere()
  const { params } = useAddress()
  const set = useEdit(updateRequirement, { key, ref: of.key }, of.version)
  const links = useLinks(of)
  const [linking, setLinking] = useState(false)
  const [fetched, setFetched] = useState<OutputOf<typeof fetchOutside> | null>(null)
  const risky = of.risk !== null && of.risk >= 16
  useKeys([
    {
      id: 'drafting',
      keys: 't',
      label: 'drafting table',
      run: () => location.assign(`/p/${key}/${of.key}/draft${scopeSearch(params)}`),
    },
    { id: 'link', keys: 'l', label: 'link', run: () => setLinking(true) },
    {
      id: 'new-cases',
      keys: 'c',
      label: 'write cases',
      run: () => document.querySelector<HTMLElement>('#case-lines textarea')?.focus(),
    },
    ...(of.suspect > 0
      ? [
          {
            id: 'confirm',
            keys: 'k',
            label: 'confirm suspect link',
            run: () => {
              const first = of.linked.find(({ suspect }) => suspect)
              if (first) void links.confirm(first)
            },
          },
        ]
      : []),
  ])
  return (
    <Pictures about={of.key}>
      <RequirementThread of={of} />
      <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
        {of.path.length > 0 && (
          <p className="quiet">
            {of.path.map(({ key: ref, title }) => (
              <span key={ref}>
                <a href={`/p/${key}/${ref}${scopeSearch(params)}`}>{title}</a> ›{' '}
              </span>
            ))}
          </p>
        )}
        <div className={css['head']}>
          <h2>
            <EditText label="Title" value={of.title} onStore={(title) => void set({ title })} />
          </h2>
        </div>
        <p className={css['facts']}>
          <Choice
            label="State"
            value={of.state}
            options={requirementStates}
            onChoose={(state) => void set({ state })}
          />
          ,{' '}
          <Choice
            label="Kind"
            value={kindOf(of.kind)}
            options={requirementKinds}
            onChoose={(kind) => void set({ kind })}
          />
          ; testable from <Targets of={of} onSet={(targets) => void set({ targets })} />; risk{' '}
          <Pop
            title="Risk"
            label={
              of.risk === null ? (
                'not given'
              ) : (
                <span style={risky ? { color: 'var(--danger)' } : undefined}>{`${of.likelihood} × ${of.impact}`}</span>
              )
            }
          >
            <RiskGrid
              likelihood={of.likelihood}
              impact={of.impact}
              onSet={(likelihood, impact) => void set({ likelihood, impact })}
            />
          </Pop>
          ; priority{' '}
          <Choice
            label="Priority"
            value={gradeText(of.priority)}
            options={priorities}
            onChoose={(priority) => void set({ priority: gradeIn(priority) })}
          />
          ; owner{' '}
          <Choice
            label="Owner"
            value={of.ownerId ?? ''}
            options={peopleOptions(project)}
            onChoose={(ownerId) => void set({ ownerId: ownerId || null })}
          />
          ; component{' '}
          <EditText
            label="Component"
            value={of.component}
            placeholder="none"
            onStore={(component) => void set({ component })}
          />
          <Outside of={of} onSet={(outsideRef) => void set({ outsideRef })} onFetched={setFetched} />
        </p>
        <OwnFields
          fields={of.fields}
          type={of.kind}
          tags={of.tags}
          values={of.custom}
          onTags={(tags) => void set({ tags })}
          onValues={(custom) => void set({ custom })}
        />
        <SplitMerge of={of} />
        {fetched && (
          <FetchedChanges
            of={of}
            fetched={fetched}
            onTake={(edit) => void set(edit)}
            onClose={() => setFetched(null)}
          />
        )}
        {of.suspect > 0 && <Suspect of={of} onConfirm={(each) => void links.confirm(each)} />}
        <RichText
          label="text of the requirement"
          html={of.text}
          placeholder="What must the product do? Write it here."
          onStore={(text) => void set({ text })}
        />
        <Figures of={of} />
        <Designed of={of} />
        <section
          className={css['part']}
          onDragOver={(event) => {
            if (event.dataTransfer.types.includes('application/x-rovant-refs')) event.preventDefault()
          }}
          onDrop={(event) => {
            const refs = event.dataTransfer
              .getData('application/x-rovant-refs')
              .split(',')
              .filter((each) => numberIn('case', each) > 0)
            if (refs.length > 0) void links.link(refs)
          }}
        >
          <div className={css['partHead']}>
            <h3>Cases</h3>
            <span>
              <Button look="word" onClick={() => setLinking(!linking)}>
                link a case
              </Button>
            </span>
          </div>
          {linking && (
            <LinkBox
              onLink={async (refs) => {
                if (await links.link(refs)) setLinking(false)
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
          <div id="case-lines">
            <CaseWriter requirement={of.id} />
          </div>
        </section>
        {of.children.length > 0 && (
          <section className={css['part']}>
            <h3>Below it</h3>
            <ul className={css['rows']}>
              {of.children.map((child) => (
                <li key={child.key}>
                  <span />
                  <span className="key">{child.key}</span>
                  <a href={`/p/${key}/${child.key}${scopeSearch(params)}`}>{child.title}</a>
                </li>
              ))}
            </ul>
          </section>
        )}
        {of.relations.length > 0 && (
          <section className={css['part']}>
            <h3>Ties</h3>
            <ul className={css['rows']}>
              {of.relations.map((tie, index) => (
                <li key={index}>
                  <span />
                  <span className="key">{tie.key}</span>
                  <a href={`/p/${key}/${tie.key}${scopeSearch(params)}`}>{tie.title}</a>
                  <span className={css['note']}>{tie.towards ? tie.kind : `${tie.kind} this`}</span>
                </li>
              ))}
            </ul>
          </section>
        )}
        <Attachments about={of.key} />
        <section className={css['part']}>
          <h3>Comments</h3>
          <Comments about={of.key} />
        </section>
        <History about={of.key} />
      </article>
    </Pictures>
  )
}
