import { useEffect, useState } from 'react'
import { type CaseSheet, createLinks, cutVersion, endLink, readCase, reviewCase, updateCase } from '#core/cases/contract.ts'
import { automations, importances } from '#core/cases/case.ts'
import { call } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { Thread } from '#ui/kit/Thread.tsx'
import { LinkBox } from '#ui/requirements/RequirementSheet.tsx'
import { scopeIn, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { Comments } from '#ui/shell/Comments.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { OwnFields } from '#ui/shell/OwnFields.tsx'
import { ago, peopleOptions, shortName } from '#ui/shell/People.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'
import { Steps } from './Steps.tsx'
import { Versions } from './Versions.tsx'

export function CaseSheetView({ about, initial, onClose }: { about: string; initial: CaseSheet | undefined; onClose: () => void }) {
  const { key } = useHere()
  const { params } = useAddress()
  const { data, error } = useAnswer(readCase, { params: { key, ref: about }, query: scopeIn(params) }, { initial, keep: true })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data && data.key === about ? <Sheet of={data} /> : null
}

function Sheet({ of }: { of: CaseSheet }) {
  const { key, project } = useHere()
  const set = useEdit(updateCase, { key, ref: of.key }, of.version)
  const cutting = useWrite(cutVersion)
  const reviewing = useWrite(reviewCase)
  const [linking, setLinking] = useState(false)
  const cut = async () => {
    const done = await cutting.attempt({ params: { key, ref: of.key }, body: {} })
    if (done) notify(done.cut ? `Version ${done.name} is cut.` : 'Nothing changed since the newest version, so none was cut.')
  }
  useCutOnLeaving(of)
  useKeys([{ id: 'cut', keys: 'Ctrl+s', label: 'cut a version', run: () => void cut() }, { id: 'link', keys: 'l', label: 'link', run: () => setLinking(true) }, { id: 'edit', keys: 'e', label: 'edit steps', run: () => document.querySelector<HTMLElement>('[data-step-cell]')?.focus() }])
  const review = async (to: 'Draft' | 'In review' | 'Approved') => {
    const done = await reviewing.attempt({ params: { key, ref: of.key }, body: { to } })
    if (done) notify(to === 'Approved' ? `Approved as version ${done.name}.` : to === 'In review' ? `Version ${done.name} waits for review.` : 'Sent back.')
  }
  return (
    <>
      <CaseThread of={of} />
      <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
        <div className={css['head']}>
          <h2><EditText label="Title" value={of.title} onStore={(title) => void set({ title })} /></h2>
          {of.state === 'In review' ? <span style={{ display: 'flex', gap: 8 }}><Button onClick={() => void review('Draft')}>Send back</Button><Button look="main" onClick={() => void review('Approved')}>Approve</Button></span> : of.steps > 0 && (of.state !== 'Approved' || of.unsaved) && <Button onClick={() => void review('In review')}>Ask for review</Button>}
        </div>
        <p className={css['facts']}>
          <b>{of.state}</b> {of.versionName && <span className="key">{of.versionName}</span>}{of.unsaved && ' with a newer working copy'}; importance <Choice label="Importance" value={of.importance} options={importances} onChoose={(importance) => void set({ importance: importances.find((each) => each === importance) ?? of.importance })} />;
          {' '}owner <Choice label="Owner" value={of.ownerId ?? ''} options={peopleOptions(project)} onChoose={(ownerId) => void set({ ownerId: ownerId || null })} />; estimate <EditText label="Estimate in minutes" value={of.estimate === null ? '' : String(of.estimate)} placeholder="open" onStore={(value) => void set({ estimate: /^[1-9]\d*$/.test(value) ? Number(value) : null })} /> min;
          {' '}<Choice label="Automation" value={of.automation} options={automations} onChoose={(automation) => void set({ automation: automations.find((each) => each === automation) ?? of.automation })} />; component <EditText label="Component" value={of.component} placeholder="none" onStore={(component) => void set({ component })} />{of.folder && <>; in folder <b>{of.folder}</b></>}{of.retired && <>; <b>retired</b> <Button look="word" onClick={() => void set({ retired: false })}>bring back</Button></>}
        </p>
        <OwnFields fields={of.fields} type={of.type} tags={of.tags} values={of.custom} onTags={(tags) => void set({ tags })} onValues={(custom) => void set({ custom })} />
        <RichText label="objective" html={of.objective} placeholder="What does this case find out?" onStore={(objective) => void set({ objective })} />
        <Steps key={of.key} of={of} />
        <section className={css['part']}>
          <div className={css['partHead']}><h3>Proves</h3><Button look="word" onClick={() => setLinking(!linking)}>link a requirement</Button></div>
          <Links of={of} linking={linking} onLinked={() => setLinking(false)} />
        </section>
        <Results of={of} />
        <Versions of={of} />
        {of.suites.length > 0 && <p className="quiet">Pinned to {of.suites.map((suite, index) => <span key={suite.key}>{index > 0 && ', '}<a href={`/p/${key}/${suite.key}`}>{suite.title}</a></span>)}.</p>}
        <section className={css['part']}><h3>Comments</h3><Comments about={of.key} /></section>
        <History about={of.key} />
      </article>
    </>
  )
}

/** A minor version is cut when the editor leaves the case, if what it says changed. */
function useCutOnLeaving(of: CaseSheet): void {
  const { key, project } = useHere()
  useEffect(() => () => {
    if (project.role === 'viewer' || !of.unsaved || of.steps === 0) return
    void call(cutVersion, { params: { key, ref: of.key }, body: {}, keepalive: true }).catch(() => undefined)
  }, [of.key, of.unsaved, key])
}

function CaseThread({ of }: { of: CaseSheet }) {
  const { key } = useHere()
  const { params } = useAddress()
  const to = (ref: string) => `/p/${key}/${ref}${scopeSearch(params)}`
  const open = of.defects.filter(({ state }) => state !== 'Closed' && state !== 'Rejected')
  return (
    <Thread knots={[
      { name: 'requirements', own: false, text: <><b>{of.links.length}</b> {of.links.length === 1 ? 'requirement' : 'requirements'}{of.links.some(({ suspect }) => suspect) && ', suspect'}</>, rows: of.links.map((link) => ({ href: to(link.key), label: <><span className="key">{link.key}</span> {link.title}</> })) },
      { name: 'case', own: true, text: <><b className="key">{of.key}</b> {of.versionName ? `version ${of.versionName}` : 'no version yet'}</>, rows: [] },
      { name: 'results', own: false, text: of.slots.length === 0 ? 'no slot' : of.slots.map((slot) => <Mark key={slot.environment} verdict={slot.verdict} stale={slot.reasons.length > 0} label={`${slot.environment}: ${slot.verdict}`} />), rows: of.attempts.map((attempt) => ({ href: `#attempt-${attempt.id}`, label: <><Mark verdict={attempt.verdict} /> {attempt.build}, {attempt.environment}</> })) },
      { name: 'defects', own: false, text: <><b>{open.length}</b> open {open.length === 1 ? 'defect' : 'defects'}</>, rows: of.defects.map((defect) => ({ href: to(defect.key), label: <><span className="key">{defect.key}</span> {defect.title}</> })) },
    ]} />
  )
}

function Links({ of, linking, onLinked }: { of: CaseSheet; linking: boolean; onLinked: () => void }) {
  const { key } = useHere()
  const { params } = useAddress()
  const making = useWrite(createLinks)
  const ending = useWrite(endLink)
  const link = async (requirements: string[]) => { if (await making.attempt({ params: { key }, body: { requirements, cases: [of.key] } })) onLinked() }
  const end = async (of_: CaseSheet['links'][number]) => { if (await ending.attempt({ params: { key, id: of_.link } })) notify(`${of_.key} unlinked.`, { undo: () => void link([of_.key]) }) }
  return (
    <>
      {linking && <LinkBox prefix="RQ" onLink={link} />}
      <ul className={css['rows']}>
        {of.links.length === 0 && <li className="quiet" style={{ display: 'block', paddingBlock: 5 }}>Nothing yet: this case proves no requirement.</li>}
        {of.links.map((each) => <li key={each.link}><span /><span className="key">{each.key}</span><a href={`/p/${key}/${each.key}${scopeSearch(params)}`}>{each.title}</a><span className={css['note']}>{each.suspect ? <span className={css['suspect']}>suspect</span> : each.risk === null ? 'no risk given' : `risk ${each.risk}`}</span><button type="button" className={css['act']} aria-label={`Unlink ${each.key}`} onClick={() => void end(each)}>×</button></li>)}
      </ul>
    </>
  )
}

function Results({ of }: { of: CaseSheet }) {
  return (
    <section className={css['part']}>
      <h3>Standing results</h3>
      <ul className={css['rows']}>
        {of.slots.map((slot) => <li key={slot.environment}><Mark verdict={slot.verdict} stale={slot.reasons.length > 0} /><span className="key">{slot.build?.replace(/^.*-/, '') ?? ''}</span><span>{slot.environment}: {slot.verdict}{slot.defects.length > 0 && `, ${slot.defects.join(', ')}`}</span><span className={css['note']}>{slot.reasons.join(', ')}{slot.reasons.length > 0 && `, trust ${Math.floor(slot.confidence * 100)} %`}{slot.reasons.length === 0 && slot.at !== null && `current, ${ago(slot.at)}`}</span></li>)}
      </ul>
      {of.attempts.length > 0 && (
        <details><summary className="quiet" style={{ cursor: 'pointer' }}>All {of.attempts.length} attempts</summary>
          <ul className={css['rows']}>{of.attempts.map((attempt) => <li key={attempt.id} id={`attempt-${attempt.id}`}><Mark verdict={attempt.verdict} /><span className="key">{attempt.version}</span><span>{attempt.build} · {attempt.environment}</span><span className={css['note']}>{shortName(attempt.person)} {attempt.at === null ? '' : ago(attempt.at)}</span></li>)}</ul>
        </details>
      )}
    </section>
  )
}
