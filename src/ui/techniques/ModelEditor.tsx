import { lazy, type ReactNode, Suspense, useMemo } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { FieldProblem } from '#core/lib/refusal.ts'
import type { DraftAnswer } from '#core/techniques/draft.ts'
import { written } from '#core/techniques/lines.ts'
import { criteria } from '#core/techniques/models.ts'
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
    text
      .split(',')
      .map((each) => each.trim())
      .filter(Boolean)
      .map((each, at) => (
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

export function ModelEditor({ own, answer, refused, disabled, lit }: Props) {
  const problems = useProblems(own, refused)
  const { model } = own
  const lines = (
    section: string,
    of: { label: string; placeholder: string; shown?: (line: string) => ReactNode; indents?: boolean },
  ) => (
    <LineList
      {...of}
      disabled={disabled}
      lines={own.source[section] ?? []}
      onChange={(next) => own.setLines(section, next)}
      {...(problems.get(section) && { problems: problems.get(section)! })}
    />
  )
  if (model.technique === 'combos') {
    const { parameters, strength } = model.body
    const all = Object.values(parameters).reduce((product, values) => product * values.length, 1)
    const ruledOut = answer?.detail.technique === 'combos' ? answer.detail.answer.infeasible : 0
    const strengths = ['value', 'pair', 'triple', 'quadruple', 'quintuple', 'sextuple']
    return (
      <>
        <Head
          title="Parameters"
          note={`${counted(Object.keys(parameters).length, 'parameter')}, ${all > 1e15 ? 'countless' : all.toLocaleString('en-GB').replaceAll(',', ' ')} combinations`}
        />
        {lines('parameters', {
          label: 'Parameters',
          placeholder: 'name: value, value … | value that must be refused',
          shown: boldNames,
        })}
        <Head
          title="Rules"
          note={ruledOut > 0 ? `${counted(ruledOut, answer!.unit[0], answer!.unit[1])} ruled out` : ''}
        />
        {lines('rules', { label: 'Rules', placeholder: 'when … is …, … is … · never … with …', shown: boldRule })}
        <Head title="Strength" note="" />
        <div className={css['pills']} role="group" aria-label="Strength">
          {strengths.slice(0, 3).map((name, at) => (
            <button
              key={name}
              type="button"
              className={css['pill']}
              aria-pressed={strength === at + 1}
              disabled={disabled}
              onClick={() => own.setRest({ ...model, body: { ...model.body, strength: at + 1 } })}
            >
              every {name}
            </button>
          ))}
          <Choice
            label="Higher strength"
            value={strength > 3 ? String(strength) : ''}
            disabled={disabled}
            options={[
              { value: '', label: 'higher' },
              ...strengths.slice(3).map((name, at) => ({ value: String(at + 4), label: `every ${name}` })),
            ]}
            onChoose={(value) => value && own.setRest({ ...model, body: { ...model.body, strength: Number(value) } })}
          />
        </div>
        {lines('groups', {
          label: 'Stronger groups',
          placeholder: `triples of ${Object.keys(parameters).slice(0, 3).map(written).join(', ') || 'a, b, c'}`,
        })}
      </>
    )
  }
  if (model.technique === 'boundaries')
    return (
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
        <Head title="Values at an edge" note="" />
        <div className={css['pills']} role="group" aria-label="Values at an edge">
          {([2, 3] as const).map((values) => (
            <button
              key={values}
              type="button"
              className={css['pill']}
              aria-pressed={model.body.values === values}
              disabled={disabled}
              onClick={() => own.setRest({ ...model, body: { ...model.body, values } })}
            >
              {values === 2 ? 'the edge and its neighbour' : 'one step on both sides'}
            </button>
          ))}
        </div>
      </>
    )
  if (model.technique === 'decisions')
    return (
      <>
        <Head
          title="Conditions"
          note={`${counted(
            Object.values(model.body.conditions).reduce((product, values) => product * values.length, 1),
            'combination',
          )}`}
        />
        {lines('conditions', { label: 'Conditions', placeholder: 'resident: yes, no', shown: boldNames })}
        <Head title="Rules" note={counted(model.body.rules.length, 'rule')} />
        <DecisionGrid
          model={model}
          answer={answer?.detail.technique === 'decisions' ? answer.detail.answer : null}
          refused={refused}
          disabled={disabled}
          onChange={own.setRest}
        />
        <Head title="Impossible together" note="" />
        {lines('impossible', {
          label: 'Impossible combinations',
          placeholder: 'never resident yes with age infant',
          shown: boldRule,
        })}
        <div className={css['pills']} role="group" aria-label="Cases">
          {(['rule', 'combination'] as const).map((per) => (
            <button
              key={per}
              type="button"
              className={css['pill']}
              aria-pressed={model.per === per}
              disabled={disabled}
              onClick={() => own.setRest({ ...model, per })}
            >
              one case per {per}
            </button>
          ))}
        </div>
      </>
    )
  return (
    <>
      <Head
        title="States and transitions"
        note={`${counted(new Set(model.body.transitions.flatMap(({ from, to }) => [from, to])).size, 'state')}, ${counted(model.body.transitions.length, 'transition')}`}
      />
      <Suspense fallback={<p className="quiet">The graph is being drawn …</p>}>
        <StateGraph model={model} lit={lit} disabled={disabled} onChange={own.setModel} />
      </Suspense>
      {lines('transitions', { label: 'Transitions', placeholder: 'held -pay [card accepted]-> paid' })}
      <Head title="Cover" note="" />
      <div className={css['pills']} role="group" aria-label="Criterion">
        {criteria.map((criterion) => (
          <button
            key={criterion}
            type="button"
            className={css['pill']}
            aria-pressed={model.criterion === criterion}
            disabled={disabled}
            onClick={() => own.setRest({ ...model, criterion })}
          >
            every {criterion === 'pairs' ? 'pair of transitions' : criterion.slice(0, -1)}
          </button>
        ))}
        <button
          type="button"
          className={css['pill']}
          aria-pressed={model.invalid}
          disabled={disabled}
          title="One walk to each state, and every event there that must change nothing"
          onClick={() => own.setRest({ ...model, invalid: !model.invalid })}
        >
          and events refused
        </button>
      </div>
    </>
  )
}

const Head = ({ title, note }: { title: string; note: string }) => (
  <div className={css['partHead']}>
    <h2>{title}</h2>
    <span className="quiet">{note}</span>
  </div>
)
