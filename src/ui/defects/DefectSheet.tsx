import type { Served } from '#core/lib/question.ts'
import { useState } from 'react'
import { type DefectSheet, readDefect, updateDefect } from '#core/defects/contract.ts'
import { severities } from '#core/defects/state.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { Thread } from '#ui/kit/Thread.tsx'
import { scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useEdit } from '#ui/shell/answers.tsx'
import { Comments } from '#ui/shell/Comments.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { ago, peopleOptions } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'

export function DefectSheetView({
  about,
  served,
  onClose,
}: {
  about: string
  served: Served<DefectSheet> | null
  onClose: () => void
}) {
  const { key } = useHere()
  const { data, error } = useAnswer(readDefect, { params: { key, ref: about } }, { served, keep: true })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data && data.key === about ? <Sheet of={data} /> : null
}

function Sheet({ of }: { of: DefectSheet }) {
  const { key, project } = useHere()
  const { params } = useAddress()
  const [fixing, setFixing] = useState(false)
  const set = useEdit(updateDefect, { key, ref: of.key }, of.version)
  const builds = [
    { value: '', label: 'no build' },
    ...[...project.builds].reverse().map(({ id, name }) => ({ value: String(id), label: name })),
  ]
  const move = (state: DefectSheet['state']) =>
    state === 'Ready to retest' && of.fixedInId === null ? setFixing(true) : void set({ state })
  const to = (ref: string) => `/p/${key}/${ref}${scopeSearch(params)}`
  const once = <T,>(all: readonly T[], name: (each: T) => string | null) => [
    ...new Map(
      all.flatMap((each) => {
        const own = name(each)
        return own === null ? [] : [[own, each] as const]
      }),
    ).values(),
  ]
  const [cases, requirements, results] = [
    once(of.links, (link) => link.case),
    once(of.links, (link) => link.requirement),
    once(of.links, (link) => (link.attempt === null ? null : String(link.attempt))),
  ]
  return (
    <>
      <Thread
        knots={[
          {
            name: 'requirements',
            own: false,
            text: (
              <>
                <b>{requirements.length}</b> {requirements.length === 1 ? 'requirement' : 'requirements'}
              </>
            ),
            rows: requirements.map((link) => ({
              href: to(link.requirement ?? ''),
              label: (
                <>
                  <span className="key">{link.requirement}</span> {link.requirementTitle}
                </>
              ),
            })),
          },
          {
            name: 'cases',
            own: false,
            text: (
              <>
                <b>{cases.length}</b> {cases.length === 1 ? 'case' : 'cases'}
              </>
            ),
            rows: cases.map((link) => ({
              href: to(link.case ?? ''),
              label: (
                <>
                  <span className="key">{link.case}</span> {link.caseTitle}
                </>
              ),
            })),
          },
          {
            name: 'results',
            own: false,
            text:
              results.length === 0
                ? 'no result'
                : results
                    .slice(0, 6)
                    .map((link) => <Mark key={link.id} verdict={link.attemptVerdict ?? 'Not run'} size={12} />),
            rows: results.map((link) => ({
              href: link.item === null ? to(link.case ?? '') : `/p/${key}/desk/${link.item}?mine=no`,
              label: (
                <>
                  <Mark verdict={link.attemptVerdict ?? 'Not run'} /> {link.attemptBuild}, {link.environment}
                </>
              ),
            })),
          },
          {
            name: 'defect',
            own: true,
            text: (
              <>
                <b className="key">{of.key}</b> {of.state}
              </>
            ),
            rows: [],
          },
        ]}
      />
      <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
        <div className={css['head']}>
          <h2>
            <EditText label="Title" value={of.title} onStore={(title) => void set({ title })} />
          </h2>
        </div>
        <p className={css['facts']}>
          <Choice
            label="State"
            value={of.state}
            options={[of.state, ...of.next]}
            onChoose={(state) => {
              const next = of.next.find((each) => each === state)
              if (next) move(next)
            }}
          />
          ,{' '}
          <Choice
            label="Severity"
            value={of.severity}
            options={severities}
            tone={of.severity === 'Critical' ? 'risk' : undefined}
            onChoose={(severity) => void set({ severity })}
          />
          , priority{' '}
          <Choice
            label="Priority"
            value={String(of.priority)}
            options={['1', '2', '3', '4', '5']}
            onChoose={(priority) => void set({ priority: Number(priority) })}
          />
          ; found in{' '}
          <Choice
            label="Found in"
            value={String(of.foundInId ?? '')}
            options={builds}
            onChoose={(value) => void set({ foundInId: value === '' ? null : Number(value) })}
          />
          {of.environment && (
            <>
              {' '}
              on <b>{of.environment}</b>
            </>
          )}
          ; fixed in{' '}
          <Choice
            label="Fixed in"
            value={String(of.fixedInId ?? '')}
            options={builds}
            onChoose={(value) => void set({ fixedInId: value === '' ? null : Number(value) })}
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
          ; reported {ago(of.at)}
          {of.reporter && <> by {of.reporter}</>}
        </p>
        <p style={{ display: 'flex', gap: 8, flexWrap: 'wrap' }}>
          {of.next.map((state) => (
            <Button key={state} look={state === 'Ready to retest' ? 'main' : 'plain'} onClick={() => move(state)}>
              {state}
            </Button>
          ))}
        </p>
        {fixing && (
          <p role="group" aria-label="Fixed in which build" className={css['facts']}>
            Ready to retest, fixed in{' '}
            <Choice
              label="Build of the repair"
              look="box"
              value=""
              options={[{ value: '', label: 'choose the build…' }, ...builds.slice(1)]}
              onChoose={(value) => {
                if (value !== '')
                  void set({ state: 'Ready to retest', fixedInId: Number(value) }).then(() => setFixing(false))
              }}
            />{' '}
            <span>results gained before it turn stale</span>
          </p>
        )}
        <section className={css['part']}>
          <h3>What happened</h3>
          <RichText
            label="what happened"
            html={of.text}
            placeholder="What happened, in your own words?"
            onStore={(text) => void set({ text })}
          />
        </section>
        {of.steps !== '' && (
          <section className={css['part']}>
            <h3>Steps up to it</h3>
            <ol>
              {of.steps.split('\n').map((line, index) => (
                <li key={index}>{line}</li>
              ))}
            </ol>
          </section>
        )}
        {of.evidence.length > 0 && (
          <section className={css['part']}>
            <h3>Evidence</h3>
            <p style={{ display: 'flex', gap: 8 }}>
              {of.evidence.map((each) => (
                <a key={each.id} href={each.url} target="_blank" rel="noreferrer">
                  {each.mime.startsWith('image/') ? (
                    <img
                      src={each.url}
                      alt={each.name}
                      style={{
                        blockSize: 64,
                        minInlineSize: 90,
                        objectFit: 'cover',
                        border: '1px solid var(--line-strong)',
                      }}
                    />
                  ) : (
                    each.name
                  )}
                </a>
              ))}
            </p>
          </section>
        )}
        <section className={css['part']}>
          <h3>Met in</h3>
          {results.length === 0 && <p className="quiet">No result is linked: nobody can tell where it was met.</p>}
          <ul className={css['rows']}>
            {results.map((link) => (
              <li key={link.id}>
                <Mark verdict={link.attemptVerdict ?? 'Not run'} />
                <span className="key">{link.case}</span>
                <a href={link.item === null ? to(link.case ?? '') : `/p/${key}/desk/${link.item}?mine=no`}>
                  {link.caseTitle}
                  {link.stepNumber !== null && `, step ${link.stepNumber}`}
                </a>
                <span className={css['note']}>
                  {link.attemptBuild} · {link.environment}
                </span>
              </li>
            ))}
          </ul>
        </section>
        <section className={css['part']}>
          <h3>States</h3>
          <ul className={css['rows']}>
            {of.states.map((state, index) => (
              <li key={index}>
                <span />
                <span />
                <span>
                  {state.state}
                  {state.fixedIn && `, fixed in ${state.fixedIn}`}
                </span>
                <span className={css['note']}>
                  {state.person} {ago(state.at)}
                </span>
              </li>
            ))}
          </ul>
        </section>
        <section className={css['part']}>
          <h3>Comments</h3>
          <Comments about={of.key} />
        </section>
        <History about={of.key} />
      </article>
    </>
  )
}
