import { useMemo, useState } from 'react'
import { counted, percent, percentText } from '#core/lib/figures.ts'
import { type Drafting, exportModel, type ModelSheet } from '#core/techniques/contract.ts'
import { type DraftRow, sameRow } from '#core/techniques/draft-row.ts'
import { type Proposed } from '#core/techniques/draft.ts'
import { addressOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useQueryClient } from '@tanstack/react-query'
import { CaseDialog } from './CaseDialog.tsx'
import { Checklist } from './Checklist.tsx'
import css from './Drafting.module.css'
import { ModelEditor } from './ModelEditor.tsx'
import { Meter, Proposals, type Row } from './Proposals.tsx'
import { useDraft } from './useDraft.ts'
import { useModel } from './useModel.ts'
import { defaultPattern, useModelActs } from './useModelActs.ts'
import { Revisions } from './Revisions.tsx'

interface Props {
  readonly drafting: Drafting
  readonly sheet: ModelSheet
  readonly disabled: boolean
}

/** One model: what is typed on the left, the cases it yields on the right. */
export function ModelTable({ drafting, sheet, disabled }: Props) {
  const { key } = useHere()
  const client = useQueryClient()
  const own = useModel(sheet, () => void client.invalidateQueries({ queryKey: ['readDrafting'] }))
  const standing = useMemo(
    () => sheet.rows.filter(({ decision, case: of }) => decision !== 'left out' && of?.live),
    [sheet.rows],
  )
  const out = useMemo(() => sheet.rows.filter(({ decision }) => decision === 'left out'), [sheet.rows])
  const drafted = useDraft(
    own.model,
    useMemo(() => standing.map(({ row }) => row), [standing]),
  )
  const { answer, refused } = drafted
  const acts = useModelActs(drafting, sheet, own)
  const [looked, setLooked] = useState<DraftRow | null>(null)
  const [merging, setMerging] = useState<readonly Proposed[] | null>(null)
  const [adopting, setAdopting] = useState(false)
  const rows = useMemo((): Row[] => {
    if (!answer) return []
    const kept = standing.flatMap((decided, at): Row[] => {
      const own = answer.standing[at]
      return own
        ? [{ id: `d${decided.id}`, row: decided.row, why: own.why, decided, standing: own, proposed: null }]
        : []
    })
    const proposed = answer.proposed.map((each, at): Row => {
      const left = out.find(({ row }) => sameRow(row, each.row)) ?? null
      return { id: `p${at}`, row: each.row, why: each.why, decided: left, standing: null, proposed: left ? null : each }
    })
    return [...kept, ...proposed]
  }, [answer, standing, out])
  const open = rows.flatMap(({ proposed }) => proposed ?? [])
  const least =
    answer?.detail.technique === 'combos' &&
    answer.detail.answer.rows.length - answer.detail.answer.negative <= answer.detail.answer.least
  const gone = answer?.standing.filter(({ state }) => state === 'gone').length ?? 0
  return (
    <>
      <section className={css['model']} aria-label="Model">
        <div className={css['modelHead']}>
          <h1>
            <EditText
              label="Name of the model"
              value={sheet.name}
              disabled={disabled}
              onStore={(name) => {
                if (name) void acts.edit({ name })
              }}
            />
          </h1>
          <span className={css['stored']} data-problem={own.stored.problem ? true : undefined} role="status">
            {own.stored.problem ??
              (own.stored.at === null
                ? 'storing …'
                : `Stored ${new Date(own.stored.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`)}{' '}
            · revision {own.revision.current}
          </span>
          <Revisions sheet={sheet} onPutBack={own.setModel} disabled={disabled} />
          <a
            href={addressOf(exportModel, { params: { key, id: sheet.id } })}
            download={`${drafting.requirement.key} ${sheet.name}.json`}
          >
            as a file
          </a>
          {!disabled && (
            <button type="button" className={css['act']} onClick={acts.remove}>
              take away
            </button>
          )}
        </div>
        <ModelEditor
          own={own}
          answer={answer}
          refused={refused?.fields ?? []}
          disabled={disabled}
          lit={looked?.['path']?.split('\n') ?? []}
        />
        {answer && !refused && (
          <div className={css['figures']}>
            <div>
              <b>{open.length + standing.length - gone}</b>
              <p>
                {answer.detail.technique === 'paths'
                  ? `paths with ${answer.detail.answer.steps} steps; ${answer.detail.answer.steps <= answer.detail.answer.least ? 'the least possible' : `at least ${answer.detail.answer.least}`}`
                  : least
                    ? 'cases; the least possible'
                    : 'cases'}
              </p>
            </div>
            <div>
              <b>{percentText(percent(answer.targets, answer.targets))}</b>
              <p>
                of {answer.targets} {answer.unit[1]} with all of them
              </p>
            </div>
            <div>
              <b>{percentText(percent(answer.answered, answer.targets))}</b>
              <p>covered by the {counted(standing.length, 'case')} you accepted</p>
            </div>
          </div>
        )}
        {answer?.notices.map(({ at, message }) => (
          <p key={`${at}${message}`} className="quiet">
            {message}
          </p>
        ))}
        <Checklist of={drafting} disabled={disabled} />
      </section>
      <section className={css['yield']} aria-label="Cases of the model" aria-busy={drafted.working}>
        <div className={css['yieldHead']}>
          <h2>{refused ? 'No cases' : answer ? `${counted(open.length, 'case')} proposed` : 'Computing …'}</h2>
          {answer && !refused && (
            <span className="quiet">
              {drafted.working
                ? 'looking for fewer …'
                : `found in ${drafted.took < 1000 ? `${Math.max(1, Math.round(drafted.took))} ms` : `${(drafted.took / 1000).toFixed(1)} s`}`}
            </span>
          )}
          {drafted.working && answer && (
            <Button look="word" onClick={drafted.stop}>
              enough
            </Button>
          )}
          {answer && !refused && !disabled && (
            <span className={css['buttons']}>
              {sheet.technique !== 'paths' && (
                <Button disabled={open.length === 0} onClick={() => void acts.accept(open, 'data rows')}>
                  As data rows of one case
                </Button>
              )}
              <Button look="main" disabled={open.length === 0} onClick={() => void acts.accept(open, 'cases')}>
                {open.length === 0 ? 'All accepted' : `Accept ${open.length} as cases`}
              </Button>
            </span>
          )}
        </div>
        {refused && (
          <p className={css['refused']} role="alert">
            {refused.sentence}
          </p>
        )}
        {answer && !refused && (
          <div className={css['titles']}>
            <span className="quiet">
              Titles{' '}
              <EditText
                label="Pattern of titles"
                value={sheet.pattern || defaultPattern(drafting)}
                disabled={disabled}
                onStore={(pattern) => void acts.edit({ pattern })}
              />
            </span>
            <span className={css['counting']}>
              {!disabled && sheet.technique !== 'paths' && (
                <Button look="word" onClick={() => setAdopting(true)}>
                  rows you have
                </Button>
              )}
              <Meter answered={answer.answered} targets={answer.targets} unit={answer.unit[1]} />
            </span>
          </div>
        )}
        {answer && !refused && (
          <Proposals
            model={own.model}
            answer={answer}
            rows={rows}
            disabled={disabled}
            onLook={setLooked}
            onAccept={(chosen) => void acts.accept(chosen, 'cases')}
            onMerge={setMerging}
            onLeaveOut={(row) => void acts.leaveOut(row)}
            onDecide={(row, what) => void acts.decide(row, what)}
          />
        )}
      </section>
      {merging && (
        <CaseDialog
          requirement={drafting.requirement.key}
          title="Merge into a case"
          action="Merge"
          onClose={() => setMerging(null)}
          onChoose={async (into) => {
            if (await acts.accept(merging, 'data rows', into)) setMerging(null)
          }}
        >
          {counted(merging.length, 'row')} will be added to the data rows of a case that is there; its names become
          parameters of the case, and the case gets a new version.
        </CaseDialog>
      )}
      {adopting && (
        <CaseDialog
          requirement={drafting.requirement.key}
          title="Rows you have"
          action="Count them"
          onClose={() => setAdopting(false)}
          onChoose={async (key) => {
            if (await acts.adopt(key)) setAdopting(false)
          }}
        >
          The data rows of a case that is there count as accepted, and only what they leave open is proposed. Its
          parameters are matched by name; the case stays as it is.
        </CaseDialog>
      )}
    </>
  )
}
