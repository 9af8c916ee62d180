import { composeFields } from '#core/finding/fields.ts'
import { counted } from '#core/lib/figures.ts'
import type { FieldDefinition } from '#core/lib/filter.ts'
import { ruleWords } from '#core/plans/source-words.ts'
import { useCaseChoices } from '#ui/shell/case-choices.ts'
import { listPlans } from '#core/plans/contract.ts'
import { listRuns } from '#core/runs/contract.ts'
import { FilterBuilder } from '#ui/list/FilterBuilder.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useOwnFields } from '#ui/shell/own-columns.tsx'
import css from './Compose.module.css'
import type { ComposeAsked } from './useCompose.ts'

interface Props {
  readonly asked: ComposeAsked
  readonly set: (to: Partial<ComposeAsked>) => void
}

/** Out of which runs or plan, and for which build, as a sentence. */
export function ComposeSource({ asked, set }: Props) {
  const { key, project } = useHere()
  const runs = useAnswer(listRuns, { params: { key }, query: { limit: 100, sort: '-number' } }).data?.rows ?? []
  const plans = useAnswer(listPlans, { params: { key }, query: { limit: 100 } }).data?.rows ?? []
  const title = (ref: string) => [...runs, ...plans].find((each) => each.key === ref)?.title ?? ref
  const named = [...asked.runs, ...(asked.plan === null ? [] : [asked.plan])]
  const drop = (ref: string) =>
    ref === asked.plan ? set({ plan: null }) : set({ runs: asked.runs.filter((each) => each !== ref) })
  const add = (ref: string) => (ref.startsWith('PL-') ? set({ plan: ref }) : set({ runs: [...asked.runs, ref] }))
  const release = project.releases.find(({ id }) => id === asked.build?.release)?.name ?? ''
  const others = [...runs, ...plans].filter((each) => !named.includes(each.key))
  return (
    <p className={css['source']}>
      Out of{' '}
      {named.length === 0
        ? `all that Release ${release} asks for`
        : named.map((ref, at) => (
            <span key={ref}>
              {at > 0 && ' and '}
              <b>{title(ref)}</b>{' '}
              <Button look="word" aria-label={`Without ${title(ref)}`} onClick={() => drop(ref)}>
                ×
              </Button>
            </span>
          ))}{' '}
      <Choice
        label="Another run or plan"
        value=""
        options={[
          { value: '', label: named.length === 0 ? 'or a run, a plan' : 'and another' },
          ...others.map((each) => ({ value: each.key, label: `${each.key} ${each.title}` })),
        ]}
        onChoose={(ref) => ref !== '' && add(ref)}
      />
      , for build{' '}
      <Choice
        label="For build"
        value={String(asked.build?.id ?? '')}
        options={project.builds
          .filter(({ state }) => state !== 'Withdrawn')
          .reverse()
          .map((build) => ({ value: String(build.id), label: build.name }))}
        onChoose={(id) => set({ build: project.builds.find((build) => String(build.id) === id) ?? null })}
      />
    </p>
  )
}

/** What it is narrowed by, in words, and the box to say it. */
export function OnlyWhere({
  asked,
  set,
  fits,
  open,
  onOpen,
}: Props & {
  /** How many cases in environments there are to choose from. */
  readonly fits: number | undefined
  readonly open: boolean
  readonly onOpen: (open: boolean) => void
}) {
  const fields = composeFields({ case: useOwnFields('case'), requirement: useOwnFields('requirement') })
  const said = ruleWords(asked, fields)
  return (
    <div className={css['only']}>
      <p className="quiet">and only where</p>
      <p>
        <Button look="word" onClick={() => onOpen(true)}>
          {said || 'anything'}
        </Button>{' '}
        {said !== '' && (
          <Button look="word" aria-label="Not narrowed" onClick={() => set({ words: '', filter: null })}>
            ×
          </Button>
        )}
      </p>
      {open && <OnlyWhereDialog asked={asked} set={set} fits={fits} fields={fields} onClose={() => onOpen(false)} />}
    </div>
  )
}

function OnlyWhereDialog({
  asked,
  set,
  fits,
  fields,
  onClose,
}: Props & {
  readonly fits: number | undefined
  readonly fields: readonly FieldDefinition[]
  readonly onClose: () => void
}) {
  const choices = useCaseChoices()
  return (
    <Dialog title="Only where" onClose={onClose} wide>
      <Field label="Words in title or steps">
        {(id) => <TextInput id={id} value={asked.words} onChange={(event) => set({ words: event.target.value })} />}
      </Field>
      <FilterBuilder
        fields={fields}
        filter={asked.filter}
        choices={choices}
        noun="cases"
        shown={0}
        all={0}
        bare
        onChange={(filter) => set({ filter })}
      />
      <p role="status" className="quiet">
        {fits === undefined ? '…' : `${counted(fits, 'case and environment fits', 'cases and environments fit')}.`}
      </p>
      <p style={{ marginBlockStart: 8 }}>
        <Button look="main" onClick={onClose}>
          Done
        </Button>
      </p>
    </Dialog>
  )
}
