import { useEffect, useMemo, useRef, useState } from 'react'
import { counted, percent, percentText } from '#core/lib/figures.ts'
import { type Drafting, exportModel, type ModelSheet } from '#core/techniques/contract.ts'
import type { DraftRow } from '#core/techniques/draft-row.ts'
import type { DraftAnswer, Proposed } from '#core/techniques/draft-answer.ts'
import { addressOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useHere } from '#ui/shell/here.ts'
import { storedText } from '#ui/shell/sending.ts'
import { useQueryClient } from '@tanstack/react-query'
import { CaseDialog } from './CaseDialog.tsx'
import { Checklist } from './Checklist.tsx'
import css from './Drafting.module.css'
import { ModelClashes } from './ModelClashes.tsx'
import { ModelEditor } from './ModelEditor.tsx'
import { noticeText } from './decision-rules.ts'
import { casesText, type Row, rowsOf, tookText } from './draft-rows.ts'
import { Meter, Proposals } from './Proposals.tsx'
import { useDraft } from './useDraft.ts'
import { type OwnModel, useModel } from './useModel.ts'
import { defaultPattern, useModelActs } from './useModelActs.ts'
import { Revisions } from './Revisions.tsx'

interface Props {
  readonly drafting: Drafting
  readonly sheet: ModelSheet
  readonly disabled: boolean
  /** It was added just now: one begins to write. */
  readonly begins: boolean
}

/** One model: what is typed on the left, the cases it yields on the right. */
export function ModelTable({ drafting, sheet, disabled, begins }: Props) {
  const client = useQueryClient()
  const own = useModel(sheet, () => void client.invalidateQueries({ queryKey: ['readDrafting'] }))
  const { drafted, rows, standing } = useDraftRows(sheet, own)
  const acts = useModelActs(drafting, sheet, own)
  const [looked, setLooked] = useState<DraftRow | null>(null)
  const [asking, setAsking] = useState<Asking>(null)
  const model = useBeginning(begins)
  const { answer, refused } = drafted
  const open = rows.flatMap(({ proposed }) => proposed ?? [])
  const table = { drafting, sheet, disabled, own, drafted, acts, open }
  return (
    <>
      <section ref={model} className={css['model']} aria-label="Model">
        <Head {...table} />
        <ModelClashes of={own.joining} />
        <ModelEditor
          own={own}
          answer={answer}
          refused={refused?.fields ?? []}
          disabled={disabled}
          lit={looked?.['path']?.split('\n') ?? []}
        />
        {answer && !refused && (
          <Figures answer={answer} cases={open.length + standing.length} standing={standing.length} />
        )}
        <Told of={answer?.notices ?? []} />
        <Checklist of={drafting} disabled={disabled} />
      </section>
      <section className={css['yield']} aria-label="Cases of the model" aria-busy={drafted.working}>
        <YieldHead {...table} rows={rows} />
        {refused && (
          <p className={css['refused']} role="alert">
            {refused.sentence}
          </p>
        )}
        {answer && !refused && (
          <>
            <Titles {...table} answer={answer} onAdopt={() => setAsking('adopt')} />
            <Proposals
              model={own.model}
              answer={answer}
              rows={rows}
              disabled={disabled}
              onLook={setLooked}
              onAccept={(chosen) => void acts.accept(chosen, 'cases')}
              onMerge={setAsking}
              onLeaveOut={(row) => void acts.leaveOut(row)}
              onDecide={(row, what) => void acts.decide(row, what)}
            />
          </>
        )}
      </section>
      <Asked requirement={drafting.requirement.key} asking={asking} acts={acts} onClose={() => setAsking(null)} />
    </>
  )
}

const Told = ({ of }: { of: DraftAnswer['notices'] }) =>
  of.map((notice) => (
    <p key={`${notice.at}${notice.message}`} className="quiet">
      {noticeText(notice)}
    </p>
  ))

/** The part one writes in, with the focus in its first box as soon as one begins; whoever writes in it already stays where they are. */
function useBeginning(begins: boolean) {
  const own = useRef<HTMLElement>(null)
  useEffect(() => {
    const part = own.current
    if (begins && !part?.contains(document.activeElement)) part?.querySelector<HTMLElement>('ol input')?.focus()
  }, [begins])
  return own
}

/** What the table asks in a dialog: the case that rows are merged into, or the one whose rows are there already. */
type Asking = 'adopt' | readonly Proposed[] | null
interface Table extends Omit<Props, 'begins'> {
  readonly own: OwnModel
  readonly drafted: ReturnType<typeof useDraft>
  readonly acts: ReturnType<typeof useModelActs>
  /** What is proposed and not decided. */
  readonly open: readonly Proposed[]
}

/** The rows of a model: those that were accepted, then what is proposed beside them. */
function useDraftRows(sheet: ModelSheet, own: OwnModel) {
  const standing = useMemo(
    () => sheet.rows.filter(({ decision, case: of }) => decision !== 'left out' && of?.live),
    [sheet.rows],
  )
  const out = useMemo(() => sheet.rows.filter(({ decision }) => decision === 'left out'), [sheet.rows])
  const decided = useMemo(() => standing.map(({ row }) => row), [standing])
  const said = useMemo(() => standing.map((each) => each.said), [standing])
  const drafted = useDraft(own.model, decided, said)
  const { answer } = drafted
  const rows = useMemo(() => (answer ? rowsOf(answer, standing, out) : []), [answer, standing, out])
  return { drafted, rows, standing }
}

function Head({ drafting, sheet, disabled, own, acts }: Table) {
  const { key } = useHere()
  return (
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
        {storeText(own)} · revision {own.held.current.revision}
      </span>
      <Revisions sheet={sheet} onPutBack={own.putBack} disabled={disabled} />
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
  )
}

function storeText({ stored: { at, problem }, joining }: OwnModel): string {
  if (joining.clashes.length > 0) return 'Not stored: somebody else wrote in the same part'
  return problem ?? (at === null ? 'storing …' : storedText(at))
}

/** What the cases come to; `cases` counts those too that are gone or to be changed, which proposals stand for. */
function Figures({ answer, cases, standing }: { answer: DraftAnswer; cases: number; standing: number }) {
  const gone = answer.standing.filter(({ state }) => state === 'gone' || state === 'changed').length
  const { targets, answered, unit } = answer
  return (
    <div className={css['figures']}>
      <div>
        <b>{cases - gone}</b>
        <p>{casesText(answer)}</p>
      </div>
      <div>
        <b>{percentText(percent(targets, targets))}</b>
        <p>
          of {targets} {unit[1]} with all of them
        </p>
      </div>
      <div>
        <b>{percentText(percent(answered, targets))}</b>
        <p>covered by the {counted(standing, 'case')} you accepted</p>
      </div>
    </div>
  )
}

function YieldHead({ sheet, disabled, own, drafted, acts, open, rows }: Table & { rows: readonly Row[] }) {
  const { answer, refused, working } = drafted
  const shown = answer && !refused
  return (
    <div className={css['yieldHead']}>
      <h2>{yieldTitle(drafted, open.length, rows)}</h2>
      {shown && <span className="quiet">{working ? 'looking for fewer …' : `found in ${tookText(drafted.took)}`}</span>}
      {own.lineProblems.length > 0 && (
        <span className={css['unread']} role="status">
          without {counted(own.lineProblems.length, 'line')} that cannot be read
        </span>
      )}
      {working && answer && (
        <Button look="word" onClick={drafted.stop}>
          enough
        </Button>
      )}
      {shown && !disabled && (
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
  )
}

/** What the rows below are: those that are proposed, and what was decided of others. */
function yieldTitle({ answer, refused }: Table['drafted'], open: number, rows: readonly Row[]): string {
  if (refused) return 'No cases'
  if (!answer) return 'Computing …'
  const accepted = rows.filter(({ standing }) => standing !== null).length
  const out = rows.length - accepted - open
  const beside = [accepted > 0 && `${accepted} accepted`, out > 0 && `${out} left out`].filter(Boolean)
  return `${counted(open, 'case')} proposed${beside.length > 0 ? `, ${beside.join(', ')}` : ''}`
}

function Titles({
  drafting,
  sheet,
  disabled,
  acts,
  answer,
  onAdopt,
}: Table & { answer: DraftAnswer; onAdopt: () => void }) {
  return (
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
          <Button look="word" onClick={onAdopt}>
            rows you have
          </Button>
        )}
        <Meter answered={answer.answered} targets={answer.targets} unit={answer.unit[1]} />
      </span>
    </div>
  )
}

function Asked({
  requirement,
  asking,
  acts,
  onClose,
}: {
  requirement: string
  asking: Asking
  acts: Table['acts']
  onClose: () => void
}) {
  if (asking === null) return null
  if (asking === 'adopt')
    return (
      <CaseDialog
        requirement={requirement}
        title="Rows you have"
        action="Count them"
        onClose={onClose}
        onChoose={async (key) => {
          if (await acts.adopt(key)) onClose()
        }}
      >
        The data rows of a case that is there count as accepted, and only what they leave open is proposed. Its
        parameters are matched by name; the case stays as it is.
      </CaseDialog>
    )
  return (
    <CaseDialog
      requirement={requirement}
      title="Merge into a case"
      action="Merge"
      onClose={onClose}
      onChoose={async (into) => {
        if (await acts.accept(asking, 'data rows', into)) onClose()
      }}
    >
      {counted(asking.length, 'row')} will be added to the data rows of a case that is there; its names become
      parameters of the case, and the case gets a new version.
    </CaseDialog>
  )
}
