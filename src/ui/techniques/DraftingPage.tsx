import { useState } from 'react'
import type { Served } from '#core/lib/question.ts'
import { type Drafting, createModel, type ModelSheet, readDrafting, updateModel } from '#core/techniques/contract.ts'
import type { DraftInput } from '#core/techniques/draft.ts'
import { techniques, type Technique } from '#core/techniques/models.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { go, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { Checklist } from './Checklist.tsx'
import css from './Drafting.module.css'
import { ModelTable } from './ModelTable.tsx'
import { readModelFile } from './model-file.ts'

const techniqueNames: Readonly<Record<Technique, string>> = {
  boundaries: 'Boundaries',
  combos: 'Combinations',
  decisions: 'Decision table',
  paths: 'State graph',
}
const blank: Readonly<Record<Technique, DraftInput>> = {
  boundaries: { technique: 'boundaries', body: { inputs: {} } },
  combos: { technique: 'combos', body: { parameters: {} } },
  decisions: { technique: 'decisions', body: { conditions: {}, rules: [] } },
  paths: { technique: 'paths', body: { initial: 'start', transitions: [] } },
}

export const DraftingPage = ({ initial, ...shell }: ShellProps & { initial: Served<Drafting> }) => (
  <Shell {...shell}>
    <Table initial={initial} />
  </Shell>
)

const freeName = (name: string, models: Drafting['models']): string =>
  [name, ...models.map((_, at) => `${name} ${at + 2}`)].find((each) => !models.some((model) => model.name === each)) ??
  name

/**
 * Models are made blank, or from a file as the commands read it. One that is made is shown before its making is answered; `isFresh`
 * knows it by not having been there when it was asked for.
 */
function useNewModel(of: Drafting | undefined, onMade: (id: number) => void) {
  const { key } = useHere()
  const [before, setBefore] = useState<readonly number[] | null>(null)
  const creating = useWrite(createModel)
  const create = async (name: string, model: DraftInput) => {
    if (!of) return
    setBefore(of.models.map(({ id }) => id))
    const made = await creating.attempt({ params: { key, ref: of.requirement.key }, body: { name, model } })
    if (made) onMade(made.id)
    else setBefore(null)
  }
  const add = (technique: Technique) =>
    void create(freeName(techniqueNames[technique], of?.models ?? []), blank[technique])
  const readFile = async (file: File) => {
    try {
      const model = readModelFile(await file.text())
      const name = file.name.replace(/\.json$/i, '').slice(0, 120)
      await create(name || techniqueNames[model.technique], model)
    } catch (problem) {
      notify(`${file.name}: ${sentenceOf(problem)}`, { tone: 'problem' })
    }
  }
  const isFresh = (id: number): boolean => before !== null && !before.includes(id)
  return { add, readFile: (file: File) => void readFile(file), isFresh }
}

function Table({ initial }: { initial: Served<Drafting> }) {
  const { key, project } = useHere()
  const { path, params } = useAddress()
  const ref = /\/(RQ-\d+)\//.exec(path)?.[1] ?? initial.answer.requirement.key
  const { data, error } = useAnswer(readDrafting, { params: { key, ref } }, { served: initial, keep: true })
  const open = (id: number) => go({ params: { model: String(id) } }, true)
  const making = useNewModel(data, open)
  if (!data)
    return (
      <p className={css['lost']} role="alert">
        {error ? sentenceOf(error) : ''}
      </p>
    )
  const disabled = project.role === 'viewer'
  const chosen = data.models.find(({ id }) => String(id) === params.get('model')) ?? data.models[0]
  return (
    <div className={css['page']}>
      <div className={css['top']}>
        <p className="quiet">
          <span>Drafting table · </span>
          <a href={`/p/${key}/${data.requirement.key}${scopeSearch(params)}`}>
            <span className="key">{data.requirement.key}</span> {data.requirement.title}
          </a>
        </p>
        <nav className={css['tabs']} aria-label="Models">
          <Tabs models={data.models} chosen={chosen?.id} onOpen={open} />
          {!disabled && <NewModels add={making.add} readFile={making.readFile} />}
        </nav>
      </div>
      {chosen ? (
        <ModelTable
          key={chosen.id}
          drafting={data}
          sheet={chosen}
          disabled={disabled}
          begins={making.isFresh(chosen.id)}
        />
      ) : (
        <Empty disabled={disabled} onAdd={making.add} of={data} />
      )}
      <Changed of={data} sheet={chosen} />
    </div>
  )
}

const Tabs = ({
  models,
  chosen,
  onOpen,
}: {
  models: Drafting['models']
  chosen: number | undefined
  onOpen: (id: number) => void
}) =>
  models.map(({ id, name }) => (
    <a
      key={id}
      href={`?model=${id}`}
      aria-current={id === chosen ? 'page' : undefined}
      onClick={(event) => {
        event.preventDefault()
        onOpen(id)
      }}
    >
      {name}
    </a>
  ))

const NewModels = ({ add, readFile }: { add: (technique: Technique) => void; readFile: (file: File) => void }) => (
  <>
    {techniques.map((technique) => (
      <button key={technique} type="button" onClick={() => add(technique)}>
        + {techniqueNames[technique]}
      </button>
    ))}
    <label className={css['file']}>
      from a file
      <input
        type="file"
        accept=".json,application/json"
        className="hidden"
        onChange={({ target }) => {
          const [file] = target.files ?? []
          if (file) readFile(file)
          target.value = ''
        }}
      />
    </label>
  </>
)

const purposes: Readonly<Record<Technique, string>> = {
  boundaries: 'Numbers, dates, lengths and sets in partitions: the values at their edges.',
  combos: 'Parameters and their values: few rows that hold every pair.',
  decisions: 'Conditions and rules: what is missing, contradicted or said twice.',
  paths: 'States and events: the shortest walks over every transition.',
}

function Empty({ disabled, onAdd, of }: { disabled: boolean; onAdd: (technique: Technique) => void; of: Drafting }) {
  useKeys(
    disabled
      ? []
      : techniques.map((technique, at) => ({
          id: `draft-new-${technique}`,
          keys: String(at + 1),
          label: techniqueNames[technique].toLowerCase(),
          run: () => onAdd(technique),
        })),
  )
  return (
    <div className={css['empty']}>
      <div>
        <h1>No model yet</h1>
        <p className="quiet">
          Write down inputs, rules or states, and see the few cases that are enough, each with its reason.
        </p>
        <ul>
          {techniques.map((technique) => (
            <li key={technique}>
              <Button disabled={disabled} onClick={() => onAdd(technique)}>
                {techniqueNames[technique]}
              </Button>
              <span>{purposes[technique]}</span>
            </li>
          ))}
        </ul>
        <Checklist of={of} disabled={disabled} />
      </div>
    </div>
  )
}

/** The requirement was changed after the model was last held against it. */
function Changed({ of, sheet }: { of: Drafting; sheet: ModelSheet | undefined }) {
  const { key } = useHere()
  const edit = useEdit(updateModel, { key, id: sheet?.id ?? 0 }, sheet ?? { version: 0 })
  if (!sheet || sheet.requirementRevision >= of.requirement.revision) return null
  const fits = async () => {
    if (await edit({ fits: true })) notify(`${sheet.name} is held against revision ${of.requirement.revision}.`)
  }
  return (
    <p className={css['changed']} role="status">
      The requirement is at revision {of.requirement.revision}; this model was held against revision{' '}
      {sheet.requirementRevision}. <a href={`/p/${key}/${of.requirement.key}`}>See what changed</a>, change the model,
      or{' '}
      <Button look="word" onClick={() => void fits()}>
        the model still fits
      </Button>
    </p>
  )
}
