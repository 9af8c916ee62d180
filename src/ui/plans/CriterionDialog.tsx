import { useState } from 'react'
import { importances } from '#core/cases/case.ts'
import { severities } from '#core/defects/state.ts'
import type { CriterionRule, CriterionSide } from '#core/plans/criteria.ts'
import { bases, criterionWords, measures } from '#core/plans/criteria.ts'
import { listRequirements } from '#core/requirements/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Plan.module.css'

const kinds: Readonly<Record<CriterionRule['kind'], string>> = {
  share: 'a share of the requirements',
  defects: 'open defects of a severity',
  important: 'important cases executed lately',
  untold: 'failing results without a defect',
  suspect: 'suspect links',
  approved: 'cases approved',
  items: 'planned items executed',
  runs: 'no run left open',
}

/** What each kind begins with. */
const begun: { readonly [Kind in CriterionRule['kind']]: Extract<CriterionRule, { kind: Kind }> } = {
  share: { kind: 'share', measure: 'passing', basis: 'current', byRisk: true, branch: null, atLeast: 90 },
  defects: { kind: 'defects', severity: 'Critical', atMost: 0 },
  important: { kind: 'important', importance: 'High', days: null },
  untold: { kind: 'untold', atMost: 0 },
  suspect: { kind: 'suspect', atMost: 0 },
  approved: { kind: 'approved', atLeast: 100 },
  items: { kind: 'items', atLeast: 100 },
  runs: { kind: 'runs' },
}

interface Props {
  readonly of: { readonly side: CriterionSide; readonly rule: CriterionRule } | null
  readonly onStore: (said: { side: CriterionSide; rule: CriterionRule }) => Promise<boolean>
  readonly onClose: () => void
}

/** A criterion built as a sentence of choices; how it reads stands below. */
export function CriterionDialog({ of, onStore, onClose }: Props) {
  const [side, setSide] = useState<CriterionSide>(of?.side ?? 'exit')
  const [rule, setRule] = useState<CriterionRule>(of?.rule ?? begun.share)
  const branches = useBranches()
  const branch =
    rule.kind === 'share' && rule.branch !== null ? branches.find(({ id }) => id === rule.branch) : undefined
  const isSound = isWhole(rule)
  return (
    <Dialog title={of ? 'Change the criterion' : 'A criterion'} onClose={onClose}>
      <Form
        onSend={() => {
          if (isSound) void onStore({ side, rule }).then((stored) => stored && onClose())
        }}
      >
        <div className={css['choosing']}>
          <label>
            It is for{' '}
            <Choice
              label="Side"
              look="box"
              value={side}
              options={[
                { value: 'exit', label: 'the end: when it is enough' },
                { value: 'entry', label: 'the start: before a run is opened' },
              ]}
              onChoose={setSide}
            />
          </label>
          <label>
            It asks for{' '}
            <Choice
              label="Kind"
              look="box"
              value={rule.kind}
              options={Object.entries(kinds).map(([value, label]) => ({
                value: value as CriterionRule['kind'],
                label,
              }))}
              onChoose={(kind) => setRule(begun[kind])}
            />
          </label>
          <Choices rule={rule} set={setRule} branches={branches} />
          <p role="status">
            <b>{isSound ? criterionWords(rule, branch ? `${branch.key} ${branch.title}` : null) : 'Type a number.'}</b>
          </p>
        </div>
        <Button look="main" type="submit" disabled={!isSound}>
          {of ? 'Store it' : 'Add it'}
        </Button>
      </Form>
    </Dialog>
  )
}

const isWhole = (rule: CriterionRule): boolean =>
  ('atLeast' in rule ? rule.atLeast >= 0 && rule.atLeast <= 100 : true) &&
  ('atMost' in rule ? Number.isInteger(rule.atMost) && rule.atMost >= 0 : true) &&
  (rule.kind !== 'important' ||
    rule.days === null ||
    (Number.isInteger(rule.days) && rule.days >= 1 && rule.days <= 1000))

interface Branch {
  readonly id: number
  readonly key: string
  readonly title: string
}

/** Requirements with others below them, which a share can be of. */
function useBranches(): readonly Branch[] {
  const { key } = useHere()
  const { data } = useAnswer(listRequirements, { params: { key }, query: { limit: 500 } })
  return (data?.rows ?? []).filter(({ hasChildren }) => hasChildren)
}

interface ChoicesOf {
  readonly rule: CriterionRule
  readonly set: (rule: CriterionRule) => void
  readonly branches: readonly Branch[]
}

function Choices({ rule, set, branches }: ChoicesOf) {
  switch (rule.kind) {
    case 'share':
      return <ShareChoices rule={rule} set={set} branches={branches} />
    case 'defects':
      return (
        <>
          <label>
            Severity, or worse{' '}
            <Choice
              label="Severity"
              look="box"
              value={rule.severity}
              options={severities}
              onChoose={(severity) => set({ ...rule, severity })}
            />
          </label>
          <Amount label="At most" value={rule.atMost} onSet={(atMost) => set({ ...rule, atMost })} />
        </>
      )
    case 'important':
      return (
        <>
          <label>
            Importance, or above{' '}
            <Choice
              label="Importance"
              look="box"
              value={rule.importance}
              options={importances}
              onChoose={(importance) => set({ ...rule, importance })}
            />
          </label>
          <label>
            <Choice
              label="When"
              look="box"
              value={rule.days === null ? 'build' : 'days'}
              options={[
                { value: 'build', label: 'on the newest build' },
                { value: 'days', label: 'within some days' },
              ]}
              onChoose={(when) => set({ ...rule, days: when === 'build' ? null : 7 })}
            />
          </label>
          {rule.days !== null && <Amount label="Days" value={rule.days} onSet={(days) => set({ ...rule, days })} />}
        </>
      )
    case 'untold':
    case 'suspect':
      return <Amount label="At most" value={rule.atMost} onSet={(atMost) => set({ ...rule, atMost })} />
    case 'approved':
    case 'items':
      return <Amount label="At least, %" value={rule.atLeast} onSet={(atLeast) => set({ ...rule, atLeast })} />
    case 'runs':
      return <p className="quiet">Every run of the release is closed.</p>
  }
}

const basisLabels = {
  recorded: 'as recorded',
  current: 'on current results',
  confident: 'weighted by confidence',
} as const

function ShareChoices({
  rule,
  set,
  branches,
}: Omit<ChoicesOf, 'rule'> & { rule: Extract<CriterionRule, { kind: 'share' }> }) {
  return (
    <>
      <label>
        Requirements{' '}
        <Choice
          label="Measure"
          look="box"
          value={rule.measure}
          options={measures}
          onChoose={(measure) => set({ ...rule, measure })}
        />
        {rule.measure !== 'designed' && (
          <Choice
            label="Basis"
            look="box"
            value={rule.basis}
            options={bases.map((value) => ({ value, label: basisLabels[value] }))}
            onChoose={(basis) => set({ ...rule, basis })}
          />
        )}
      </label>
      <label>
        Counted{' '}
        <Choice
          label="Weight"
          look="box"
          value={rule.byRisk ? 'risk' : 'plain'}
          options={[
            { value: 'risk', label: 'by risk' },
            { value: 'plain', label: 'each alike' },
          ]}
          onChoose={(way) => set({ ...rule, byRisk: way === 'risk' })}
        />
        of{' '}
        <Choice
          label="Branch"
          look="box"
          value={rule.branch === null ? '' : String(rule.branch)}
          options={[
            { value: '', label: 'the whole outline' },
            ...branches.map(({ id, key, title }) => ({ value: String(id), label: `${key} ${title}` })),
          ]}
          onChoose={(id) => set({ ...rule, branch: id === '' ? null : Number(id) })}
        />
      </label>
      <Amount label="At least, %" value={rule.atLeast} onSet={(atLeast) => set({ ...rule, atLeast })} />
    </>
  )
}

const Amount = ({ label, value, onSet }: { label: string; value: number; onSet: (value: number) => void }) => (
  <label>
    {label}{' '}
    <input
      type="number"
      min={0}
      value={Number.isNaN(value) ? '' : value}
      onChange={({ target }) => onSet(target.value === '' ? Number.NaN : Number(target.value))}
    />
  </label>
)
