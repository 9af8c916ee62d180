import { listPlans, readPlan, updatePlan } from '#core/plans/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { DropTray } from '#ui/list/DropTray.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

/** What suites carry when they are dragged. */
export const suitesType = 'application/x-rovant-suites'

interface Named {
  readonly key: string
  readonly title: string
}

/** Lets a plan ask for suites as well; what it asked for before is one word away. */
function useAsking() {
  const { key } = useHere()
  const { attempt } = useWrite(updatePlan)
  return async (plan: Named, ids: readonly number[]): Promise<void> => {
    const params = { key, ref: plan.key }
    try {
      const before = await call(readPlan, { params })
      const asked = before.suiteList.map(({ id }) => id)
      const news = ids.filter((id) => !asked.includes(id))
      if (news.length === 0) return notify(`${plan.title} asks for ${ids.length > 1 ? 'all of them' : 'it'} already.`)
      const done = await attempt({ params, body: { suites: [...asked, ...news] }, version: before.version })
      if (!done) return
      notify(`${plan.title} asks for ${counted(news.length, 'suite')} more.`, {
        undo: () => void attempt({ params, body: { suites: asked }, version: done.version }),
      })
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
}

const usePlans = () => {
  const { key } = useHere()
  const { data } = useAnswer(listPlans, { params: { key }, query: { limit: 500 } }, { keep: true })
  return (data?.rows ?? []).filter(({ state }) => state !== 'Closed')
}

/** The plans beside the suites, so that rows can be dropped on them. */
export function PlanTray({ onClose }: { onClose: () => void }) {
  const ask = useAsking()
  const places = usePlans().map((plan) => ({ ...plan, note: `${plan.suites}` }))
  return (
    <DropTray
      title="Plans"
      told="Drop suites on a plan to let it ask for them. By key: tick, then “ask for in a plan”."
      type={suitesType}
      places={places}
      onDrop={(plan, carried) => void ask(plan, carried.split(',').map(Number))}
      onClose={onClose}
    />
  )
}

export function AskInPlan({ ids }: { ids: readonly number[] }) {
  const ask = useAsking()
  const plans = usePlans()
  if (plans.length === 0) return <p className="quiet">There is no plan that is open.</p>
  return (
    <ul>
      {plans.map((plan) => (
        <li key={plan.id}>
          <Button look="word" onClick={() => void ask(plan, ids)}>
            {plan.key} {plan.title}
          </Button>
        </li>
      ))}
    </ul>
  )
}
