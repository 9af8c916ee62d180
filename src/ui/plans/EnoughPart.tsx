import { useState } from 'react'
import {
  addCriterion,
  changeCriterion,
  type CriterionShown,
  type PlanCriteria,
  readCriteria,
  readShortestWay,
  removeCriterion,
  tallyWords,
  waiveCriterion,
} from '#core/plans/criteria-contract.ts'
import type { CriterionRule, CriterionSide } from '#core/plans/criteria.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { NewRun } from '#ui/runs/NewRun.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { CriterionDialog } from './CriterionDialog.tsx'
import css from './Plan.module.css'

import { Criteria, type CriterionOpen, Waive } from './Criteria.tsx'
import { ShortestWay } from './ShortestWay.tsx'
import { Versions } from './Versions.tsx'

export function useCriteria(ref: string) {
  const { key } = useHere()
  const query = scopeIn(useParams(...scopeNames))
  return useAnswer(readCriteria, { params: { key, ref }, query }, { keep: true })
}

/** When is it enough? The criteria, what is missing to each, and the shortest way there. */
export function EnoughPart({ of, may }: { of: PlanSheet; may: boolean }) {
  const { key } = useHere()
  const { data, error } = useCriteria(of.key)
  const [open, setOpen] = useState<CriterionOpen | null>(null)
  const [at, setAt] = useState<number | null>(null)
  const acts = useCriterionActs(of)
  const query = scopeIn(useParams(...scopeNames))
  const way = useAnswer(readShortestWay, { params: { key, ref: of.key }, query }, { keep: true }).data
  const unmet = data?.criteria.filter(({ outcome }) => outcome !== 'met') ?? []
  const current = unmet.find(({ id }) => id === at) ?? (at === null ? unmet[0] : undefined)
  useEnoughKeys({ may, current, wayThere: (way?.total ?? 0) > 0, open: setOpen })
  if (error && !data) return <p role="alert">{error.message}</p>
  if (!data) return null
  const side = (of: CriterionSide) => data.criteria.filter((each) => each.side === of)
  return (
    <>
      <Head of={data} onAdd={may ? () => setOpen({ dialog: 'criterion', of: null }) : null} />
      {(['exit', 'entry'] as const).map((each) => (
        <Criteria
          key={each}
          side={each}
          criteria={side(each)}
          may={may}
          onAt={setAt}
          onOpen={setOpen}
          onRemove={(own) => void acts.remove(own)}
          onUnwaive={(own) => void acts.waive(own, { until: null, reason: '' })}
          onPlace={(own, before) => void acts.place(own, before)}
        />
      ))}
      <ShortestWay of={of} onRun={() => setOpen({ dialog: 'run' })} />
      <Versions of={of} may={may} />
      {open?.dialog === 'criterion' && (
        <CriterionDialog of={open.of} onStore={(said) => acts.store(open.of, said)} onClose={() => setOpen(null)} />
      )}
      {open?.dialog === 'waiver' && (
        <Waive of={open.of} onStore={(said) => acts.waive(open.of, said)} onClose={() => setOpen(null)} />
      )}
      {open?.dialog === 'run' && way && (
        <NewRun
          plan={{
            id: of.id,
            title: 'Shortest way to go',
            releaseId: of.releaseId,
            environments: [],
          }}
          slots={way.slots}
          onClose={() => setOpen(null)}
        />
      )}
    </>
  )
}

function useCriterionActs(of: PlanSheet) {
  const { key } = useHere()
  const adding = useWrite(addCriterion)
  const changing = useWrite(changeCriterion)
  const removing = useWrite(removeCriterion)
  const waiving = useWrite(waiveCriterion)
  const params = { key, ref: of.key }
  const at = (criterion: number) => ({ ...params, criterion })
  return {
    /** Puts one before another, or last. */
    place: (own: CriterionShown, before: number | null) => changing.attempt({ params: at(own.id), body: { before } }),
    store: async (before: CriterionShown | null, said: { side: CriterionSide; rule: CriterionRule }) => {
      if (before) {
        if (!(await changing.attempt({ params: at(before.id), body: said }))) return false
        const back = { side: before.side, rule: before.rule }
        notify('The criterion is changed.', {
          undo: () => void changing.attempt({ params: at(before.id), body: back }),
        })
        return true
      }
      const made = await adding.attempt({ params, body: said })
      if (!made) return false
      notify('The criterion is added.', { undo: () => void removing.attempt({ params: at(made.id), query: {} }) })
      return true
    },
    remove: async (own: CriterionShown) => {
      if (await removing.attempt({ params: at(own.id), query: {} }))
        notify('The criterion is taken away.', {
          undo: () => void removing.attempt({ params: at(own.id), query: { undo: 'yes' } }),
        })
    },
    waive: async (own: CriterionShown, said: { until: string | null; reason: string }): Promise<boolean> => {
      if (!(await waiving.attempt({ params: at(own.id), body: said }))) return false
      const { waiver } = own
      const back = waiver ? { until: waiver.until, reason: waiver.reason } : { until: null, reason: '' }
      notify(said.until === null ? 'The waiver is ended.' : `Waived until ${dayText(said.until)}.`, {
        undo: () => void waiving.attempt({ params: at(own.id), body: back }),
      })
      return true
    },
  }
}

function useEnoughKeys({
  may,
  current,
  wayThere,
  open,
}: {
  may: boolean
  /** The criterion whose row has the focus, where it is not met; the first of these where none has. */
  current: CriterionShown | undefined
  wayThere: boolean
  open: (open: CriterionOpen) => void
}): void {
  useKeys([
    ...(may
      ? [{ id: 'criterion', keys: 'n', label: 'a criterion', run: () => open({ dialog: 'criterion', of: null }) }]
      : []),
    ...(may && current
      ? [{ id: 'waive', keys: 'w', label: 'waive', run: () => open({ dialog: 'waiver', of: current }) }]
      : []),
    ...(wayThere
      ? [{ id: 'way-run', keys: 'o', label: 'open the way as a run', run: () => open({ dialog: 'run' }) }]
      : []),
  ])
}

function Head({ of, onAdd }: { of: PlanCriteria; onAdd: (() => void) | null }) {
  return (
    <>
      <header className={css['head']}>
        <h2>When is it enough?</h2>
        <p className="quiet">
          {of.exit.of > 0 && <>Exit {tallyWords(of.exit)}</>}
          {of.exit.of > 0 && of.entry.of > 0 && '; '}
          {of.entry.of > 0 && <>entry {tallyWords(of.entry)}</>}
        </p>
        {onAdd && <Button onClick={onAdd}>Add a criterion</Button>}
      </header>
      {of.criteria.length === 0 && (
        <p className="quiet">
          No criterion yet. Say what has to hold before this plan is done, such as no open Critical defect, or all cases
          that are High or above executed on the newest build; it is told from the data from then on.
        </p>
      )}
    </>
  )
}
