import { keyOf, numberIn, typedKey } from '#core/lib/key.ts'
import { useState } from 'react'
import { confirmLink, createLinks, endLink } from '#core/cases/link-contract.ts'
import { writeCaseLines } from '#core/cases/contract.ts'
import { listTemplates } from '#core/reuse/template-contract.ts'
import { findAnything } from '#core/finding/contract.ts'
import { counted, shareText } from '#core/lib/figures.ts'
import { readCoverage } from '#core/reports/contract.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import {
  type fetchOutside,
  type LinkedCase,
  readRequirement,
  type RequirementSheet,
  updateRequirement,
} from '#core/requirements/contract.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { readDesigned } from '#core/techniques/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Lines } from '#ui/kit/Lines.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { Thread } from '#ui/kit/Thread.tsx'
import { scopeIn, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { Attachments } from '#ui/shell/Attachments.tsx'
import { Comments } from '#ui/shell/Comments.tsx'
import { Pictures } from '#ui/shell/Pictures.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { OwnFields } from '#ui/shell/OwnFields.tsx'
import { ago, peopleOptions } from '#ui/shell/People.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'
import { FetchedChanges, Outside } from './Outside.tsx'
import { priorities } from './columns.tsx'
import { SplitMerge } from './SplitMerge.tsx'
import { Suspect } from './Suspect.tsx'
import { RiskGrid } from './RiskGrid.tsx'

export function RequirementSheetView({
  about,
  initial,
  onClose,
}: {
  about: string
  initial: RequirementSheet | undefined
  onClose: () => void
}) {
  const { key } = useHere()
  const { params } = useAddress()
  const { data, error } = useAnswer(
    readRequirement,
    { params: { key, ref: about }, query: scopeIn(params) },
    { initial, keep: true },
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
            onChoose={(state) => void set({ state: requirementStates.find((each) => each === state) ?? of.state })}
          />
          ,{' '}
          <Choice
            label="Kind"
            value={of.kind}
            options={requirementKinds}
            onChoose={(kind) => void set({ kind: requirementKinds.find((each) => each === kind) ?? 'Function' })}
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
            value={String(of.priority ?? '')}
            options={priorities}
            onChoose={(priority) => void set({ priority: priority === '' ? null : Number(priority) })}
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

function useLinks(of: RequirementSheet) {
  const { key } = useHere()
  const linking = useWrite(createLinks)
  const ending = useWrite(endLink)
  const confirming = useWrite(confirmLink)
  return {
    link: async (refs: readonly string[]) =>
      (await linking.attempt({ params: { key }, body: { requirements: [of.key], cases: [...refs] } })) !== null,
    end: async (linked: LinkedCase) => {
      if (await ending.attempt({ params: { key, id: linked.link } }))
        notify(`${linked.key} unlinked.`, {
          undo: () => void linking.attempt({ params: { key }, body: { requirements: [of.key], cases: [linked.key] } }),
        })
    },
    confirm: async (linked: LinkedCase) => {
      if (await confirming.attempt({ params: { key, id: linked.link } }))
        notify(`The link to ${linked.key} is confirmed against revision ${of.revision}.`)
    },
  }
}

function RequirementThread({ of }: { of: RequirementSheet }) {
  const { key } = useHere()
  const { params } = useAddress()
  const to = (ref: string) => `/p/${key}/${ref}${scopeSearch(params)}`
  const slots = of.linked.flatMap((linked) => linked.slots.map((slot) => ({ ...slot, case: linked })))
  const tally = (verdict: string) => slots.filter((slot) => slot.verdict === verdict).length
  const openDefects = of.defects.filter(({ state }) => state !== 'Closed' && state !== 'Rejected')
  return (
    <Thread
      knots={[
        {
          name: 'requirement',
          own: true,
          text: (
            <>
              <b className="key">{of.key}</b> revision {of.revision}
            </>
          ),
          rows: [],
        },
        {
          name: 'cases',
          own: false,
          text: (
            <>
              <b>{of.linked.length}</b> {of.linked.length === 1 ? 'case' : 'cases'}
              {of.suspect > 0 && `, ${of.suspect} suspect`}
            </>
          ),
          rows: of.linked.map((linked) => ({
            href: to(linked.key),
            label: (
              <>
                <span className="key">{linked.key}</span> {linked.title}
              </>
            ),
          })),
        },
        {
          name: 'results',
          own: false,
          text: (
            <>
              {(['Failed', 'Blocked', 'Passed', 'Not run'] as const)
                .filter((verdict) => tally(verdict) > 0)
                .map((verdict) => (
                  <span key={verdict}>
                    <Mark verdict={verdict} size={12} /> <b>{tally(verdict)}</b>
                  </span>
                ))}
              {slots.length === 0 && 'no result'}
            </>
          ),
          rows: slots
            .filter(({ verdict }) => verdict !== 'Not run')
            .slice(0, 30)
            .map((slot) => ({
              href: `${to(slot.case.key)}#${slot.environment}`,
              label: (
                <>
                  <Mark verdict={slot.verdict} stale={slot.reasons.length > 0} /> {slot.case.key} {slot.environment}
                </>
              ),
            })),
        },
        {
          name: 'defects',
          own: false,
          text: (
            <>
              <b>{openDefects.length}</b> open {openDefects.length === 1 ? 'defect' : 'defects'}
            </>
          ),
          rows: of.defects.map((defect) => ({
            href: to(defect.key),
            label: (
              <>
                <span className="key">{defect.key}</span> {defect.title}
              </>
            ),
          })),
        },
      ]}
    />
  )
}

function Figures({ of }: { of: RequirementSheet }) {
  const { key } = useHere()
  const { params } = useAddress()
  const { data } = useAnswer(
    readCoverage,
    { params: { key }, query: { ...scopeIn(params), ids: String(of.id) } },
    { keep: true },
  )
  const node = data?.nodes.find(({ id }) => id === of.id)
  if (!node) return null
  const { passing, executed, slots, cases, drafted } = node.figures
  const reasons = Object.entries(node.figures.reasons)
  return (
    <div className={css['figures']}>
      <div className={css['figure']}>
        <p>Designed</p>
        <p>
          <b>{cases}</b> {cases === 1 ? 'case' : 'cases'}
          {drafted > 0 && `, ${drafted} only drafted`}
        </p>
        <p className="quiet">{slots} slots asked for</p>
      </div>
      <div className={css['figure']}>
        <p>Executed</p>
        <p>
          <b>{shareText(executed.plain.recorded)}</b>
        </p>
        <p className="quiet">{shareText(executed.plain.current)} current</p>
      </div>
      <div className={css['figure']}>
        <p>Passing</p>
        <p>
          <b>{shareText(passing.plain.recorded)}</b> as recorded
        </p>
        <p className="quiet">
          {shareText(passing.plain.current)} current, {shareText(passing.plain.confident)} by confidence
        </p>
      </div>
      {reasons.length > 0 && (
        <p className="quiet">
          Stale because of {reasons.map(([reason, n]) => `${reason} (${counted(n, 'slot')})`).join(', ')}.
        </p>
      )}
    </div>
  )
}

/** What is designed by technique, and the way to the drafting table. */
function Designed({ of }: { of: RequirementSheet }) {
  const { key } = useHere()
  const { params } = useAddress()
  const { data } = useAnswer(readDesigned, { params: { key }, query: { ref: of.key } }, { keep: true })
  const row = data?.rows.find(({ id }) => id === of.id)
  const to = `/p/${key}/${of.key}/draft`
  return (
    <p className={css['acts']}>
      <span>Designed by technique:</span>
      {row?.parts.map((part) => (
        <a key={part.model} href={`${to}?model=${part.model}`}>
          {part.name}{' '}
          {part.targets === null ? 'cannot be computed yet' : `${part.answered} of ${part.targets} ${part.unit}`}
        </a>
      ))}
      {row && row.checklist.all > 0 && (
        <a href={to}>
          checklist {row.checklist.done} of {row.checklist.all}
        </a>
      )}
      {(!row || row.parts.length === 0) && (
        <a href={`${to}${scopeSearch(params)}`}>derive cases at the drafting table</a>
      )}
    </p>
  )
}

function CaseLine({ of, onConfirm, onEnd }: { of: LinkedCase; onConfirm: () => void; onEnd: () => void }) {
  const { key } = useHere()
  const { params } = useAddress()
  const worst =
    (['Failed', 'Blocked', 'Inconclusive', 'Passed'] as const).find((verdict) =>
      of.slots.some((slot) => slot.verdict === verdict),
    ) ?? 'Not run'
  const slot = of.slots.find(({ verdict }) => verdict === worst)
  const newest = of.slots.find(({ build }) => build !== null)
  const defects = [...new Set(of.slots.flatMap((each) => each.defects))]
  const note =
    of.steps === 0
      ? 'no step yet'
      : defects.length > 0
        ? defects.join(', ')
        : (slot?.reasons[0] ?? (worst === 'Not run' ? 'not run' : ''))
  return (
    <li>
      <span className={css['marks']}>
        <Mark verdict={worst} stale={(slot?.reasons.length ?? 0) > 0} />
      </span>
      <span className="key">{of.key}</span>
      <a href={`/p/${key}/${of.key}${scopeSearch(params)}`} title={of.title}>
        {of.title}
      </a>
      <span className={css['note']} title={newest?.at ? ago(newest.at) : undefined}>
        {of.suspect ? (
          <button
            type="button"
            className={css['suspect']}
            onClick={onConfirm}
            title="The requirement changed since this link was confirmed"
          >
            suspect · confirm
          </button>
        ) : (
          <>
            {note}
            {newest?.build && (
              <>
                {' '}
                <span className="key">{newest.build.replace(/^.*-/, '')}</span>
              </>
            )}
          </>
        )}
      </span>
      <button type="button" className={css['act']} aria-label={`Unlink ${of.key}`} onClick={onEnd}>
        ×
      </button>
    </li>
  )
}

/** Cases as lines; where `choosing`, they can start from a template. */
export function CaseWriter({
  requirement,
  folder = null,
  choosing = false,
}: {
  requirement: number | null
  folder?: number | null
  choosing?: boolean
}) {
  const { key } = useHere()
  const { attempt } = useWrite(writeCaseLines)
  const { data } = useAnswer(listTemplates, { params: { key } }, { enabled: choosing })
  const [template, setTemplate] = useState('')
  return (
    <>
      {(data?.rows.length ?? 0) > 0 && (
        <p style={{ marginBlockEnd: 8 }}>
          They start{' '}
          <Choice
            label="Template"
            value={template}
            options={[
              { value: '', label: 'empty' },
              ...(data?.rows ?? []).map(({ id, name, steps }) => ({
                value: String(id),
                label: `from “${name}”, ${steps} steps`,
              })),
            ]}
            onChoose={setTemplate}
          />
          .
        </p>
      )}
      <Lines
        label="Cases, a line each"
        placeholder="Type a case title, or paste many as lines…"
        action="Store"
        rows={1}
        onStore={async (lines) => {
          const made = await attempt({
            params: { key },
            body: { lines, requirement, folder, template: template === '' ? null : Number(template) },
          })
          if (made)
            notify(
              `${made.keys.length === 1 ? made.keys[0] : `${made.keys.length} cases`} stored${requirement === null ? '' : ' and linked'}.`,
            )
          return made !== null
        }}
      />
    </>
  )
}

/** Links by typing keys, or words: what they find is chosen from. */
export function LinkBox({
  onLink,
  to = 'case',
}: {
  onLink: (refs: string[]) => Promise<void>
  to?: 'case' | 'requirement'
}) {
  const { key } = useHere()
  const [text, setText] = useState('')
  const parts = text.split(/[\s,;]+/).filter((part) => part !== '')
  const refs = parts.flatMap((part) => typedKey(to, part) ?? [])
  const keyed = parts.length > 0 && refs.length === parts.length
  const { data } = useAnswer(
    findAnything,
    { params: { key }, query: { q: text, limit: 20 } },
    { enabled: text.trim() !== '' && !keyed, keep: true },
  )
  const found =
    keyed || text.trim() === '' ? [] : (data?.rows ?? []).filter(({ ref }) => numberIn(to, ref) > 0).slice(0, 8)
  return (
    <form
      style={{ display: 'grid', gap: 4 }}
      onSubmit={(event) => {
        event.preventDefault()
        const first = refs.length > 0 ? refs : found.slice(0, 1).map(({ ref }) => ref)
        if (first.length > 0) void onLink(first)
      }}
    >
      <span style={{ display: 'flex', gap: 8 }}>
        <input
          autoFocus
          aria-label={`Keys to link, such as ${keyOf(to, 12)}, or words`}
          placeholder={`${keyOf(to, 12)}, ${keyOf(to, 13)}, or words`}
          value={text}
          onChange={(event) => setText(event.target.value)}
          style={{
            flex: 1,
            border: '1px solid var(--line-strong)',
            borderRadius: 4,
            padding: '4px 8px',
            background: 'var(--surface)',
          }}
        />
        <Button type="submit" disabled={refs.length === 0 && found.length === 0}>
          Link
        </Button>
      </span>
      {found.length > 0 && (
        <ul aria-label="Found">
          {found.map(({ ref, title }) => (
            <li key={ref}>
              <button type="button" style={{ textAlign: 'start', paddingBlock: 3 }} onClick={() => void onLink([ref])}>
                <span className="key quiet">{ref}</span> {title}
              </button>
            </li>
          ))}
        </ul>
      )}
    </form>
  )
}

function Targets({
  of,
  onSet,
}: {
  of: RequirementSheet
  onSet: (targets: { release: number; iteration: number | null }[]) => void
}) {
  const { project } = useHere()
  const own = of.targets.map(({ release, iteration }) => ({ release, iteration }))
  const words =
    of.targets.length === 0
      ? 'any release'
      : of.targets
          .map(({ releaseName, iterationName }) => `Release ${releaseName}${iterationName ? `, ${iterationName}` : ''}`)
          .join(' and ')
  return (
    <Pop title="Testable from" label={words}>
      {project.releases.map((release) => {
        const target = own.find((each) => each.release === release.id)
        const others = own.filter((each) => each.release !== release.id)
        return (
          <p key={release.id} style={{ display: 'flex', gap: 12, paddingBlock: 3 }}>
            <label>
              <input
                type="checkbox"
                checked={target !== undefined}
                onChange={() => onSet(target ? others : [...others, { release: release.id, iteration: null }])}
              />{' '}
              Release {release.name}
            </label>
            {target && (
              <Choice
                label={`Iteration of ${release.name}`}
                value={String(target.iteration ?? '')}
                options={[
                  { value: '', label: 'from its start' },
                  ...project.iterations
                    .filter((each) => each.release === release.id)
                    .map(({ id, name }) => ({ value: String(id), label: `from ${name}` })),
                ]}
                onChoose={(value) =>
                  onSet([...others, { release: release.id, iteration: value === '' ? null : Number(value) }])
                }
              />
            )}
          </p>
        )
      })}
    </Pop>
  )
}
