import { useMemo, useState } from 'react'
import { deleteCases, readCase } from '#core/cases/contract.ts'
import { counted, percent, percentText } from '#core/lib/figures.ts'
import {
  acceptRows,
  type DecidedRow,
  decideRows,
  deleteModel,
  type Drafting,
  exportModel,
  listModelRevisions,
  type ModelSheet,
  restoreModel,
  updateModel,
} from '#core/techniques/contract.ts'
import { type DraftRow, namesOf, type Proposed, sameRow, titleBy } from '#core/techniques/draft.ts'
import { linesOf } from '#core/techniques/lines.ts'
import { addressOf, call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ago } from '#ui/shell/people.ts'
import { useQueryClient } from '@tanstack/react-query'
import { CaseDialog } from './CaseDialog.tsx'
import { Checklist } from './Checklist.tsx'
import css from './Drafting.module.css'
import { ModelEditor } from './ModelEditor.tsx'
import { Meter, Proposals, type Row } from './Proposals.tsx'
import { useDraft } from './useDraft.ts'
import { useModel } from './useModel.ts'

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
  const acts = useActs(drafting, sheet, own)
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

const defaultPattern = (drafting: Drafting): string => `${drafting.requirement.title.slice(0, 120)}: {all}`

function useActs(drafting: Drafting, sheet: ModelSheet, own: ReturnType<typeof useModel>) {
  const { key } = useHere()
  const accepting = useWrite(acceptRows)
  const deciding = useWrite(decideRows)
  const deleting = useWrite(deleteCases)
  const removing = useWrite(deleteModel)
  const restoring = useWrite(restoreModel)
  const client = useQueryClient()
  const params = { key, id: sheet.id }
  return {
    edit: async (body: { name?: string; pattern?: string }) => {
      await own.store()
      try {
        own.version.current = (await call(updateModel, { params, version: own.version.current, body })).version
        await client.invalidateQueries({ queryKey: ['readDrafting'] })
      } catch (error) {
        notify(sentenceOf(error), { tone: 'problem' })
      }
    },
    accept: async (rows: readonly Proposed[], as: 'cases' | 'data rows', into?: string): Promise<boolean> => {
      await own.store()
      const pattern = sheet.pattern || defaultPattern(drafting)
      const before = sheet.rows.length
      const body = {
        as,
        revision: own.revision.current,
        title: sheet.name,
        ...(into && { into }),
        rows: rows.map(({ row, steps }, at) => ({
          row: { ...row },
          title: titleBy(pattern, row, before + at + 1).trim() || sheet.name,
          steps: [...steps],
        })),
      }
      const made = await accepting.attempt({ params, body })
      if (!made) return false
      const back = async () => {
        await deciding.attempt({ params, body: { end: made.rows } })
        if (!into) await deleting.attempt({ params: { key }, body: { ids: made.cases } })
      }
      notify(
        into
          ? `${counted(rows.length, 'row')} added to ${into}.`
          : as === 'cases'
            ? `${made.keys.length === 1 ? made.keys[0]! : `${made.keys.length} cases, ${made.keys[0]!} to ${made.keys.at(-1)!},`} written and linked to ${drafting.requirement.key}.`
            : `${made.keys[0]!} is written with ${counted(rows.length, 'data row')}.`,
        into ? {} : { undo: () => void back() },
      )
      return true
    },
    /** Data rows of a case as accepted ones; names the model does not have are left out. */
    adopt: async (ref: string): Promise<boolean> => {
      await own.store()
      try {
        const { content } = await call(readCase, { params: { key, ref }, query: {} })
        const names = namesOf(own.model)
        const rows = content.rows
          .map((row) =>
            Object.fromEntries(Object.entries(row).filter(([name, value]) => names.includes(name) && value !== '')),
          )
          .filter((row) => Object.keys(row).length > 0)
        if (rows.length === 0) {
          notify(`${ref} has no data row with a parameter of this model.`, { tone: 'problem' })
          return false
        }
        const made = await accepting.attempt({
          params,
          body: {
            as: 'existing',
            into: ref,
            revision: own.revision.current,
            rows: rows.map((row) => ({ row, title: ref, steps: [] })),
          },
        })
        if (made)
          notify(
            `${counted(made.rows.length, 'row')} of ${ref} ${made.rows.length === 1 ? 'counts' : 'count'} as accepted.`,
            { undo: () => void deciding.attempt({ params, body: { end: made.rows } }) },
          )
        return made !== null
      } catch (error) {
        notify(sentenceOf(error), { tone: 'problem' })
        return false
      }
    },
    leaveOut: async (row: Proposed) => {
      await own.store()
      const done = await deciding.attempt({ params, body: { leaveOut: [{ ...row.row }] } })
      if (done)
        notify('The row is left out.', { undo: () => void deciding.attempt({ params, body: { end: done.rows } }) })
    },
    decide: async (row: DecidedRow, what: 'retire' | 'keep' | 'again') => {
      const done = await deciding.attempt({
        params,
        body: what === 'keep' ? { keep: [row.id] } : { end: [row.id], retire: what === 'retire' },
      })
      if (!done || what === 'again') return
      notify(
        what === 'keep'
          ? `${row.case?.key ?? 'The row'} stays.`
          : done.retired.length > 0
            ? `${done.retired.join(', ')} is retired.`
            : 'The row is ended; its case stands for other rows and stays.',
        { undo: () => void deciding.attempt({ params, body: { again: [row.id] } }) },
      )
    },
    remove: async () => {
      if (await removing.attempt({ params }))
        notify(`${sheet.name} is taken away; its cases stay.`, { undo: () => void restoring.attempt({ params }) })
    },
  }
}

/** Earlier revisions of the model, each of which can be put back; that makes a new revision. */
function Revisions({
  sheet,
  onPutBack,
  disabled,
}: {
  sheet: ModelSheet
  onPutBack: ReturnType<typeof useModel>['setModel']
  disabled: boolean
}) {
  const [open, setOpen] = useState(false)
  const { key } = useHere()
  const { data } = useAnswer(listModelRevisions, { params: { key, id: sheet.id }, query: {} }, { enabled: open })
  return (
    <Pop title="Revisions" label="revisions" open={open} onOpen={setOpen}>
      <ul className={css['revisions']}>
        {data?.rows.map(({ revision, model, at, by }, index) => {
          const now = new Set(Object.values(linesOf(data.rows[index - 1]?.model ?? model)).flat())
          const then = Object.values(linesOf(model)).flat()
          const gone = then.filter((line) => !now.has(line))
          const added = [...now].filter((line) => !then.includes(line))
          return (
            <li key={revision}>
              <p>
                <b>{revision}</b> {by ?? 'somebody'}, {ago(at)}{' '}
                {index > 0 && !disabled && (
                  <Button
                    look="word"
                    onClick={() => {
                      onPutBack(model)
                      setOpen(false)
                      notify(`Revision ${revision} is put back as a new one.`)
                    }}
                  >
                    put back
                  </Button>
                )}
              </p>
              {index > 0 && (
                <p className="quiet">
                  {[...gone.map((line) => `− ${line.trim()}`), ...added.map((line) => `+ ${line.trim()}`)]
                    .slice(0, 6)
                    .join(' · ') || 'no line differs'}
                </p>
              )}
            </li>
          )
        })}
      </ul>
    </Pop>
  )
}
