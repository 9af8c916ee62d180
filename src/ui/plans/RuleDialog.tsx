import { useState } from 'react'
import { ruleFields } from '#core/finding/fields.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import type { FieldDefinition, Filter } from '#core/lib/filter.ts'
import { type SourceShown, tryRule } from '#core/plans/suite-contract.ts'
import type { SourceSaid } from '#core/plans/source.ts'
import { FilterBuilder } from '#ui/list/FilterBuilder.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useCaseChoices } from '#ui/shell/case-choices.ts'
import { useOwnFields } from '#ui/shell/own-columns.tsx'
import css from './Plans.module.css'

/** What a rule may ask in this project. */
export function useRuleFields(): readonly FieldDefinition[] {
  const own = { case: useOwnFields('case'), requirement: useOwnFields('requirement') }
  return ruleFields(own)
}

interface Props {
  readonly suite: string
  /** The rule that is edited; a new one where there is none. */
  readonly of: SourceShown | null
  readonly onStore: (said: SourceSaid) => Promise<boolean>
  readonly onClose: () => void
}

/** A rule as it is built, with how many cases it brings and the first of them beside it. */
export function RuleDialog({ suite, of, onStore, onClose }: Props) {
  const empty = { words: of?.words ?? '', filter: of?.filter ? JSON.stringify(of.filter) : '' }
  const [rule, setRule, keeping] = useKept(`${suite}.rule.${of?.id ?? 'new'}`, empty)
  const [busy, setBusy] = useState(false)
  const filter: Filter | null = rule.filter === '' ? null : (JSON.parse(rule.filter) as Filter)
  const asks = filter !== null || rule.words.trim() !== ''
  const store = async () => {
    setBusy(true)
    const stored = await onStore({ kind: 'rule', words: rule.words.trim(), filter })
    setBusy(false)
    if (!stored) return
    keeping.done()
    onClose()
  }
  return (
    <Dialog title={of ? 'Change the rule' : 'A rule that brings cases'} onClose={onClose} kept={keeping} wide>
      <p className="quiet">
        Every case the rule fits is in, and joins or leaves by itself as it changes. It asks what cases and their
        requirements say, not how they were executed.
      </p>
      <div className={css['rule']}>
        <div>
          <Field label="Words in title or steps">
            {(id) => (
              <TextInput
                id={id}
                value={rule.words}
                onChange={(event) => setRule({ ...rule, words: event.target.value })}
              />
            )}
          </Field>
          <Builder
            filter={filter}
            onChange={(to) => setRule({ ...rule, filter: to === null ? '' : JSON.stringify(to) })}
          />
        </div>
        <Matches words={rule.words} filter={filter} />
      </div>
      <p>
        <Button look="main" disabled={busy || !asks} onClick={() => void store()}>
          {of ? 'Store the rule' : 'Add the rule'}
        </Button>
      </p>
    </Dialog>
  )
}

const asked = (words: string, filter: Filter | null) => ({
  ...(words.trim() !== '' && { words: words.trim() }),
  ...(filter !== null && { filter: JSON.stringify(filter) }),
})

function Builder({ filter, onChange }: { filter: Filter | null; onChange: (to: Filter | null) => void }) {
  const fields = useRuleFields()
  const choices = useCaseChoices()
  return (
    <FilterBuilder
      fields={fields}
      filter={filter}
      choices={choices}
      noun="cases"
      shown={0}
      all={0}
      bare
      onChange={onChange}
    />
  )
}

/** How many, how long, and the first, as they are now. */
function Matches({ words, filter }: { words: string; filter: Filter | null }) {
  const { key } = useHere()
  const { data, settled } = useAnswer(tryRule, { params: { key }, query: asked(words, filter) }, { keep: true })
  if (!data) return <div className={css['matches']} />
  const rest = data.total - data.first.length
  return (
    <div className={css['matches']} role="status" aria-busy={!settled}>
      {data.problem ? (
        <p className={css['problem']}>{data.problem}</p>
      ) : (
        <p>
          <b>{counted(data.total, 'case')}</b> <span className="quiet">{minutesText(data.minutes)}</span>
        </p>
      )}
      <ul>
        {data.first.map(({ id, key: ref, title }) => (
          <li key={id}>
            <span className="key quiet">{ref}</span> <span>{title}</span>
          </li>
        ))}
      </ul>
      {rest > 0 && <p className="quiet">and {counted(rest, 'more', 'more')}</p>}
      {data.total === 0 && !data.problem && (
        <p className="quiet">No case fits yet. The suite may have the rule all the same: what fits later joins.</p>
      )}
    </div>
  )
}
