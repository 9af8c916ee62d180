import { counted } from '#core/lib/figures.ts'
import type { DecisionsAnswer } from '#core/techniques/decisions.ts'
import { Button } from '#ui/kit/Button.tsx'
import { blockText, clashesOf, type Decisions, ruleFor } from './decision-rules.ts'
import type { PutRules } from './DecisionGrid.tsx'
import css from './Drafting.module.css'

interface Props {
  readonly model: Decisions
  readonly answer: DecisionsAnswer
  readonly disabled: boolean
  readonly put: PutRules
}

const mostShown = 6
/** So many rules are added at once; a table of more is read by nobody. */
const mostAdded = 200

/** What the table leaves out, contradicts or says twice, each with what mends it. */
export const DecisionFindings = (props: Props) => (
  <ul className={css['findings']}>
    {props.answer.complete ? <li data-tone="good">Every possible combination has a rule.</li> : <Missing {...props} />}
    {[...clashesOf(props.answer)].map(([at, text]) => (
      <li key={at} data-tone="bad">
        Rule {at + 1} {text}.
      </li>
    ))}
    <Idle {...props} />
    <Merged {...props} />
  </ul>
)

const Mend = ({ disabled, label, onMend }: { disabled: boolean; label: string; onMend: () => void }) =>
  disabled ? null : (
    <Button look="word" onClick={onMend}>
      {label}
    </Button>
  )

function Missing({ model, answer: { missing }, disabled, put }: Props) {
  const { rules } = model.body
  const addAll = () => {
    const added = missing.slice(0, mostAdded).map((block) => ruleFor(model, block))
    put([...rules, ...added], `${counted(added.length, 'rule')} added; their outcomes are still open.`)
  }
  return (
    <>
      {missing.slice(0, mostShown).map((block, at) => (
        <li key={at}>
          No rule for <b>{blockText(model, block)}</b>{' '}
          <Mend
            disabled={disabled}
            label="add it"
            onMend={() => put([...rules, ruleFor(model, block)], 'A rule is added; its outcome is still open.')}
          />
        </li>
      ))}
      {missing.length > 1 && (
        <li>
          {missing.length > mostShown && `and ${missing.length - mostShown} more. `}
          <Mend disabled={disabled} label={`add rules for all ${missing.length}`} onMend={addAll} />
        </li>
      )}
    </>
  )
}

function Idle({ model, answer: { redundant }, disabled, put }: Props) {
  if (redundant.length === 0) return null
  const [rules, say, own] = redundant.length === 1 ? ['Rule', 'says', 'its'] : ['Rules', 'say', 'their']
  const drop = () =>
    put(
      model.body.rules.filter((_, at) => !redundant.includes(at)),
      `${counted(redundant.length, 'rule')} dropped; the table means the same.`,
    )
  return (
    <li>
      {rules} {redundant.map((at) => at + 1).join(', ')} {say} nothing of {own} own.{' '}
      <Mend disabled={disabled} label="drop" onMend={drop} />
    </li>
  )
}

function Merged({ model, answer: { merged, redundant }, disabled, put }: Props) {
  const { rules } = model.body
  if (disabled || !merged || merged.length >= rules.length - redundant.length) return null
  const merge = () => put(merged, `${rules.length} rules are merged to ${merged.length}; the table means the same.`)
  return (
    <li>
      The same can be said with {counted(merged.length, 'rule')}. <Mend disabled={false} label="merge" onMend={merge} />
    </li>
  )
}
