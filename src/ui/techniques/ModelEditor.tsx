import { commaList } from '#core/lib/comma-list.ts'
import { lazy, type ReactNode, useMemo } from 'react'
import { counted, groupedText } from '#core/lib/figures.ts'
import type { FieldProblem } from '#core/lib/refusal.ts'
import type { DraftAnswer } from '#core/techniques/draft-answer.ts'
import type { DraftModel } from '#core/techniques/draft-row.ts'
import { written } from '#core/techniques/line-reader.ts'
import { criteria } from '#core/techniques/models.ts'
import { Drawn } from '#ui/kit/Drawn.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { LineList } from '#ui/kit/LineList.tsx'
import css from './Drafting.module.css'
import { DecisionGrid } from './DecisionGrid.tsx'
import { NumberLines } from './NumberLines.tsx'
import type { OwnModel } from './useModel.ts'

const StateGraph = lazy(async () => ({ default: (await import('./StateGraph.tsx')).StateGraph }))

interface Props {
  readonly own: OwnModel
  readonly answer: DraftAnswer | null
  readonly refused: readonly FieldProblem[]
  readonly disabled: boolean
  /** Transitions of the path that is looked at. */
  readonly lit: readonly string[]
}

/** Problems of lines: those of reading them, and those the computation found, at the line they were written in. */
function useProblems(own: OwnModel, refused: readonly FieldProblem[]) {
  return useMemo(() => {
    const found = new Map<string, Map<number, string>>()
    const put = (section: string, line: number, message: string) => {
      const lines = found.get(section) ?? new Map<number, string>()
      if (!lines.has(line)) lines.set(line, message)
      found.set(section, lines)
    }
    for (const { section, line, message } of own.lineProblems) put(section, line, message)
    const contradiction = refused.length > 1 && refused.every(({ field }) => field.startsWith('constraints['))
    for (const { field, message } of refused) {
      const place = own.placeOf(field)
      if (place)
        put(
          place.section,
          place.line,
          field.startsWith('constraints[') && !field.includes('].')
            ? contradiction
              ? 'Contradicts the other marked rules.'
              : 'No row can keep this rule.'
            : message,
        )
    }
    return found
  }, [own.lineProblems, own.placeOf, refused])
}

const boldNames = (line: string): ReactNode => {
  const [name, ...rest] = line.split(':')
  if (rest.length === 0) return line
  const [ordinary = '', bad] = rest.join(':').split('|')
  const chips = (text: string, tone?: 'bad') =>
    commaList(text).map((each, at) => (
      <span key={at} className={css['chip']} data-tone={tone}>
        {each}
      </span>
    ))
  return (
    <>
      <b className={css['name']}>{name?.trim()}</b>
      {chips(ordinary)}
      {bad !== undefined && chips(bad, 'bad')}
    </>
  )
}
const ruleWords = /\b(when|never|is|or|and|with)\b/g
const boldRule = (line: string): ReactNode => (
  <span>{line.split(ruleWords).map((part, at) => (at % 2 === 1 ? part : <b key={at}>{part}</b>))}</span>
)

type Lines = (
  section: string,
  of: { label: string; placeholder: string; shown?: (line: string) => ReactNode; indents?: boolean },
) => ReactNode

interface EditorProps<Technique extends DraftModel['technique']> {
  readonly model: Extract<DraftModel, { technique: Technique }>
  readonly own: OwnModel
  readonly answer: DraftAnswer | null
  readonly refused: readonly FieldProblem[]
  readonly disabled: boolean
  readonly lit: readonly string[]
  readonly lines: Lines
}

export function ModelEditor({ own, answer, refused, disabled, lit }: Props) {
  const problems = useProblems(own, refused)
  const { model } = own
  const lines: Lines = (section, of) => {
    const found = problems.get(section)
    return (
      <LineList
        {...of}
        disabled={disabled}
        lines={own.source[section] ?? []}
        onChange={(next) => own.setLines(section, next)}
        {...(found && { problems: found })}
      />
    )
  }
  const props = { own, answer, refused, disabled, lit, lines }
  switch (model.technique) {
    case 'combos':
      return <CombosEditor {...props} model={model} />
    case 'boundaries':
      return <BoundariesEditor {...props} model={model} />
    case 'decisions':
      return <DecisionsEditor {...props} model={model} />
    case 'paths':
      return <PathsEditor {...props} model={model} />
  }
}

/** How many combinations there are of these values. */
const combinations = (of: Readonly<Record<string, readonly string[]>>): number =>
  Object.values(of).reduce((product, values) => product * values.length, 1)
const countless = 1e15
const combinationsText = (n: number): string => (n > countless ? 'countless' : groupedText(n))

function CombosEditor({ model, own, answer, disabled, lines }: EditorProps<'combos'>) {
  const { parameters } = model.body
  const names = Object.keys(parameters)
  const ruledOut = answer?.detail.technique === 'combos' ? answer.detail.answer.infeasible : 0
  return (
    <>
      <Head
        title="Parameters"
        note={`${counted(names.length, 'parameter')}, ${combinationsText(combinations(parameters))} combinations`}
      />
      {lines('parameters', {
        label: 'Parameters',
        placeholder: 'name: value, value … | value that must be refused',
        shown: boldNames,
      })}
      <Head
        title="Rules"
        note={answer && ruledOut > 0 ? `${counted(ruledOut, answer.unit[0], answer.unit[1])} ruled out` : ''}
      />
      {lines('rules', { label: 'Rules', placeholder: 'when … is …, … is … · never … with …', shown: boldRule })}
      <Head title="Strength" note="" />
      <Strength model={model} own={own} disabled={disabled} />
      {lines('groups', {
        label: 'Stronger groups',
        placeholder: `triples of ${names.slice(0, 3).map(written).join(', ') || 'a, b, c'}`,
      })}
    </>
  )
}

const strengths = ['value', 'pair', 'triple', 'quadruple', 'quintuple', 'sextuple']
/** So many strengths are named at once; higher ones are chosen from a list. */
const commonStrengths = 3

function Strength({ model, own, disabled }: Pick<EditorProps<'combos'>, 'model' | 'own' | 'disabled'>) {
  const { strength } = model.body
  const set = (to: number) => own.setRest({ ...model, body: { ...model.body, strength: to } })
  const higher = strengths
    .slice(commonStrengths)
    .map((name, at) => ({ value: String(at + commonStrengths + 1), label: `every ${name}` }))
  return (
    <Pills label="Strength">
      {strengths.slice(0, commonStrengths).map((name, at) => (
        <Pill key={name} pressed={strength === at + 1} disabled={disabled} onClick={() => set(at + 1)}>
          every {name}
        </Pill>
      ))}
      <Choice
        label="Higher strength"
        value={strength > commonStrengths ? String(strength) : ''}
        disabled={disabled}
        options={[{ value: '', label: 'higher' }, ...higher]}
        onChoose={(value) => value && set(Number(value))}
      />
    </Pills>
  )
}

const BoundariesEditor = ({ model, own, disabled, lines }: EditorProps<'boundaries'>) => (
  <>
    <Head title="Inputs and their partitions" note={counted(Object.keys(model.body.inputs).length, 'input')} />
    <NumberLines
      inputs={model.body.inputs}
      disabled={disabled || own.lineProblems.length > 0}
      onChange={(inputs) => own.setModel({ ...model, body: { ...model.body, inputs } })}
    />
    {lines('inputs', {
      label: 'Inputs',
      placeholder: 'age: integer, in years — then, indented: child: 4 to 15',
      indents: true,
    })}
    <p className={css['how']}>
      Indent a partition with Tab. Each holds values that are treated alike: <code>4 to 15</code>,{' '}
      <code>131 and up</code>, <code>up to 3</code>. One that must be refused ends in <code>(invalid)</code>:{' '}
      <code>too old: 131 and up (invalid)</code>.
    </p>
    <Head title="Values at an edge" note="" />
    <Pills label="Values at an edge">
      {([2, 3] as const).map((values) => (
        <Pill
          key={values}
          pressed={model.body.values === values}
          disabled={disabled}
          onClick={() => own.setRest({ ...model, body: { ...model.body, values } })}
        >
          {values === 2 ? 'the edge and its neighbour' : 'one step on both sides'}
        </Pill>
      ))}
    </Pills>
  </>
)

const DecisionsEditor = ({ model, own, answer, disabled, lines }: EditorProps<'decisions'>) => (
  <>
    <Head title="Conditions" note={counted(combinations(model.body.conditions), 'combination')} />
    {lines('conditions', { label: 'Conditions', placeholder: 'resident: yes, no', shown: boldNames })}
    <Head title="Rules" note={counted(model.body.rules.length, 'rule')} />
    <DecisionGrid
      model={model}
      answer={answer?.detail.technique === 'decisions' ? answer.detail.answer : null}
      disabled={disabled}
      onChange={own.setRest}
    />
    <Head title="Impossible together" note="" />
    {lines('impossible', {
      label: 'Impossible combinations',
      placeholder: 'never resident yes with age infant',
      shown: boldRule,
    })}
    <Pills label="Cases">
      {(['rule', 'combination'] as const).map((per) => (
        <Pill key={per} pressed={model.per === per} disabled={disabled} onClick={() => own.setRest({ ...model, per })}>
          one case per {per}
        </Pill>
      ))}
    </Pills>
  </>
)

function PathsEditor({ model, own, disabled, lit, lines }: EditorProps<'paths'>) {
  const { transitions } = model.body
  const states = new Set(transitions.flatMap(({ from, to }) => [from, to])).size
  return (
    <>
      <Head
        title="States and transitions"
        note={`${counted(states, 'state')}, ${counted(transitions.length, 'transition')}`}
      />
      <Drawn meanwhile={<p className="quiet">The graph is being drawn …</p>}>
        <StateGraph model={model} lit={lit} disabled={disabled} onChange={own.setModel} />
      </Drawn>
      {lines('transitions', { label: 'Transitions', placeholder: 'held -pay [card accepted]-> paid' })}
      <Head title="Cover" note="" />
      <Pills label="Criterion">
        {criteria.map((criterion) => (
          <Pill
            key={criterion}
            pressed={model.criterion === criterion}
            disabled={disabled}
            onClick={() => own.setRest({ ...model, criterion })}
          >
            every {criterion === 'pairs' ? 'pair of transitions' : criterion.slice(0, -1)}
          </Pill>
        ))}
        <Pill
          pressed={model.invalid}
          disabled={disabled}
          title="One walk to each state, and every event there that must change nothing"
          onClick={() => own.setRest({ ...model, invalid: !model.invalid })}
        >
          and events refused
        </Pill>
      </Pills>
    </>
  )
}

const Pills = ({ label, children }: { label: string; children: ReactNode }) => (
  <div className={css['pills']} role="group" aria-label={label}>
    {children}
  </div>
)

const Pill = ({
  pressed,
  disabled,
  title,
  onClick,
  children,
}: {
  pressed: boolean
  disabled: boolean
  title?: string
  onClick: () => void
  children: ReactNode
}) => (
  <button type="button" className={css['pill']} aria-pressed={pressed} {...{ disabled, title, onClick }}>
    {children}
  </button>
)

const Head = ({ title, note }: { title: string; note: string }) => (
  <div className={css['partHead']}>
    <h2>{title}</h2>
    <span className="quiet">{note}</span>
  </div>
)
