import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { readRequirement } from '#core/requirements/contract.ts'
import type { SourceSaid } from '#core/plans/source.ts'
import {
  addSource,
  changeSource,
  listSuites,
  pinCases,
  removeSource,
  type SourceShown,
  type SuiteSheet,
} from '#core/plans/suite-contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { Part } from '#ui/shell/SheetParts.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { BestDialog } from './BestDialog.tsx'
import css from './Plans.module.css'
import { RuleDialog, useRuleFields } from './RuleDialog.tsx'
import { bestSaid, sourceWords } from '#core/plans/source-words.ts'

/** What is being added or changed. */
type Open =
  { readonly kind: 'pins' | 'branch' | 'suite' } | { readonly kind: 'rule' | 'best'; readonly of: SourceShown | null }

function useSources(of: SuiteSheet) {
  const { key } = useHere()
  const adding = useWrite(addSource)
  const changing = useWrite(changeSource)
  const removing = useWrite(removeSource)
  const at = { key, ref: of.key }
  const add = async (said: SourceSaid): Promise<boolean> => {
    const made = await adding.attempt({ params: at, body: said })
    if (!made) return false
    const params = { ...at, source: made.id }
    notify('The source is added.', { undo: () => void removing.attempt({ params, query: {} }) })
    return true
  }
  return {
    add,
    change: async (source: number, said: SourceSaid): Promise<boolean> =>
      (await changing.attempt({ params: { ...at, source }, body: said, version: of.version })) !== null,
    remove: async (source: number, told: string) => {
      const params = { ...at, source }
      if (await removing.attempt({ params, query: {} }))
        notify(`Taken away: ${told}.`, { undo: () => void removing.attempt({ params, query: { undo: 'yes' } }) })
    },
  }
}

/** Where a suite's cases come from: pins, branches, rules, suites, the best in some minutes. */
export function Sources({ of, may }: { of: SuiteSheet; may: boolean }) {
  const [open, setOpen] = useState<Open | null>(null)
  const sources = useSources(of)
  const shut = () => setOpen(null)
  const toggle = (to: Open) => setOpen(open?.kind === to.kind ? null : to)
  useKeys(
    may
      ? [
          { id: 'pin', keys: 'p', label: 'pin cases', run: () => toggle({ kind: 'pins' }) },
          { id: 'branch', keys: 'b', label: 'a branch', run: () => toggle({ kind: 'branch' }) },
          { id: 'rule', keys: 'r', label: 'a rule', run: () => setOpen({ kind: 'rule', of: null }) },
        ]
      : [],
  )
  const word = (label: string, to: Open) => (
    <Button look="word" onClick={() => toggle(to)}>
      {label}
    </Button>
  )
  return (
    <Part title="Where its cases come from">
      <ul className={css['sources']}>
        {of.pins > 0 && <Pins of={of} />}
        {of.sources.map((source) => (
          <Source
            key={source.id}
            of={source}
            may={may}
            onEdit={(kind) => setOpen({ kind, of: source })}
            onFreeze={(frozen) => void sources.change(source.id, bestSaid(source, frozen))}
            onRemove={(told) => void sources.remove(source.id, told)}
          />
        ))}
        {of.pins + of.sources.length === 0 && (
          <li className="quiet">Nothing yet: pin cases, or say what brings them.</li>
        )}
      </ul>
      {may && (
        <p className={css['adding']}>
          Add {word('pinned cases', { kind: 'pins' })} {word('a branch', { kind: 'branch' })}{' '}
          {word('a rule', { kind: 'rule', of: null })} {word('a suite', { kind: 'suite' })}{' '}
          {word('the best in some minutes', { kind: 'best', of: null })}
        </p>
      )}
      {open && <Adding of={of} open={open} sources={sources} onClose={shut} />}
    </Part>
  )
}

const Pins = ({ of }: { of: SuiteSheet }) => (
  <li>
    <span>{counted(of.pins, 'case')} pinned by hand</span>
    {of.idle > 0 && <span className={css['problem']}>{of.idle} of them retired or deleted: they count no more</span>}
  </li>
)

interface SourceProps {
  readonly of: SourceShown
  readonly may: boolean
  readonly onEdit: (kind: 'rule' | 'best') => void
  readonly onFreeze: (frozen: boolean) => void
  readonly onRemove: (told: string) => void
}

function Source({ of, may, onEdit, onFreeze, onRemove }: SourceProps) {
  const { key } = useHere()
  const told = sourceWords(of, useRuleFields())
  const [named] = [of.requirement ?? of.suite]
  return (
    <li data-broken={of.problem !== null || undefined}>
      <span>
        {(of.kind === 'rule' || of.kind === 'best') && may ? (
          <Button look="word" onClick={() => onEdit(of.kind === 'rule' ? 'rule' : 'best')}>
            {told}
          </Button>
        ) : named && of.problem === null ? (
          <a href={`/p/${key}/${named.key}`}>{told}</a>
        ) : (
          told
        )}
        {of.frozen && <span className="quiet"> frozen</span>}
      </span>
      <span className="quiet">{of.problem === null ? counted(of.cases, 'case') : 'brings nothing'}</span>
      {may && (
        <span className={css['acts']}>
          {of.kind === 'best' && (
            <Button look="word" onClick={() => onFreeze(!of.frozen)}>
              {of.frozen ? 'let it live' : 'freeze'}
            </Button>
          )}
          <button type="button" aria-label={`Take away: ${told}`} onClick={() => onRemove(told)}>
            ×
          </button>
        </span>
      )}
      {of.problem !== null && <Broken of={of} />}
    </li>
  )
}

/** Why a source brings nothing, and what it held when it could be followed last. */
function Broken({ of }: { of: SourceShown }) {
  const { key } = useHere()
  return (
    <div className={css['broken']}>
      <p className={css['problem']}>{of.problem} Change it or take it away.</p>
      {of.last.length > 0 && (
        <Unfold summary={`The ${counted(of.last.length, 'case')} it held last, kept apart: they count no more`}>
          <ul>
            {of.last.map(({ id, key: ref, title }) => (
              <li key={id}>
                <a href={`/p/${key}/${ref}`}>
                  <span className="key">{ref}</span> {title}
                </a>
              </li>
            ))}
          </ul>
        </Unfold>
      )}
    </div>
  )
}

function Adding({
  of,
  open,
  sources,
  onClose,
}: {
  of: SuiteSheet
  open: Open
  sources: ReturnType<typeof useSources>
  onClose: () => void
}) {
  const store = (before: SourceShown | null) => (said: SourceSaid) =>
    before ? sources.change(before.id, said) : sources.add(said)
  switch (open.kind) {
    case 'pins':
      return <PinBox of={of} onClose={onClose} />
    case 'branch':
      return <BranchBox onAdd={sources.add} onClose={onClose} />
    case 'suite':
      return <SuiteBox of={of} onAdd={sources.add} onClose={onClose} />
    case 'rule':
      return <RuleDialog suite={of.key} of={open.of} onStore={store(open.of)} onClose={onClose} />
    case 'best':
      return <BestDialog suite={of.key} of={open.of} onStore={store(open.of)} onClose={onClose} />
  }
}

function PinBox({ of, onClose }: { of: SuiteSheet; onClose: () => void }) {
  const { key } = useHere()
  const pinning = useWrite(pinCases)
  const params = { key, ref: of.key }
  const pin = async (refs: string[]) => {
    const done = await pinning.attempt({ params, body: { add: refs } })
    if (!done) return
    onClose()
    if (done.added.length === 0) notify('They are pinned already.')
    else
      notify(`${counted(done.added.length, 'case')} pinned.`, {
        undo: () => void pinning.attempt({ params, body: { remove: done.added } }),
      })
  }
  return <LinkBox onLink={pin} verb="Pin" />
}

type Add = (said: SourceSaid) => Promise<boolean>

function BranchBox({ onAdd, onClose }: { onAdd: Add; onClose: () => void }) {
  const { key } = useHere()
  const add = async (refs: string[]) => {
    try {
      for (const ref of refs) {
        const { id } = await call(readRequirement, { params: { key, ref } })
        if (!(await onAdd({ kind: 'branch', requirement: id }))) return
      }
      onClose()
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
  return <LinkBox to="requirement" onLink={add} verb="Add" />
}

function SuiteBox({ of, onAdd, onClose }: { of: SuiteSheet; onAdd: Add; onClose: () => void }) {
  const { key } = useHere()
  const { data } = useAnswer(listSuites, { params: { key }, query: { limit: 500 } })
  const held = new Set(of.sources.flatMap(({ suite }) => suite?.id ?? []))
  const options = (data?.rows ?? [])
    .filter(({ id }) => id !== of.id && !held.has(id))
    .map(({ id, key: ref, title }) => ({ value: String(id), label: `${ref} ${title}` }))
  return (
    <p>
      All cases of{' '}
      <Choice
        label="Suite"
        look="box"
        value=""
        options={[{ value: '', label: options.length > 0 ? 'choose a suite…' : 'there is no other suite' }, ...options]}
        onChoose={(id) => {
          if (id !== '') void onAdd({ kind: 'suite', suite: Number(id) }).then((added) => added && onClose())
        }}
      />
    </p>
  )
}
