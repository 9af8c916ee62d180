import { useState } from 'react'
import { minutesText } from '#core/lib/figures.ts'
import type { AskWay } from '#core/plans/asks.ts'
import { type PlanPrice, readPrice } from '#core/plans/asks-contract.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { waysOffered, wayWords } from '#core/plans/ask-words.ts'
import type { PartProps } from './PlanSheet.tsx'
import { Ticks } from './Ticks.tsx'
import type { AskOf } from './Costs.tsx'
import css from './Matrix.module.css'

interface Props extends Pick<PartProps, 'may' | 'edit'> {
  readonly plan: PlanSheet
  readonly about: AskOf
  readonly onClose: () => void
}

const explains: Readonly<Record<AskWay, string>> = {
  all: 'each case in each of them',
  pairs: 'each case in the least set that has every pair of values',
  spread: 'each case once, dealt evenly over them',
  any: 'each case once, wherever one likes',
}

/** Chooses which environments are asked for, with what each way would cost all of the plan. */
export function AskDialog({ plan, about, may, edit, onClose }: Props) {
  const { key, project } = useHere()
  const before = plan.asks.find((ask) => ask.about === about.about && ask.id === about.id)
  const [way, setWay] = useState<AskWay>(before?.way ?? 'all')
  const [own, setOwn] = useState<readonly number[]>(before?.environments ?? [])
  const { data } = useAnswer(
    readPrice,
    { params: { key, ref: plan.key }, query: { about: about.about, id: about.id } },
    { keep: true },
  )
  const { rest, put } = useAsks({ plan, before, edit, onClose })
  const store = () =>
    put(
      [...rest, { about: about.about, id: about.id, way, environments: own.length === 0 ? null : [...own] }],
      `${about.about === 'plan' ? 'All of the plan' : about.key}: ${wayWords[way]}.`,
    )
  return (
    <Dialog
      title={about.about === 'plan' ? 'What is asked of all' : `What is asked of ${about.key} ${about.title}`}
      onClose={onClose}
    >
      <Form onSend={() => void store()}>
        <Ways price={data} way={way} may={may} onChoose={setWay} />
        <p className="quiet">The price is of all of the plan, as it would be then.</p>
        <Ticks
          legend={
            own.length === 0 ? 'Of the environments of the plan; or of these alone' : 'Of these environments alone'
          }
          all={project.environments.filter(({ isAny }) => !isAny)}
          ticked={own}
          onTick={setOwn}
        />
        {may && (
          <p className={css['acts']}>
            <Button look="main" type="submit">
              Ask so
            </Button>
            {before && (
              <Button look="word" onClick={() => void put(rest, 'What was said of it is taken away.')}>
                say nothing of it
              </Button>
            )}
          </p>
        )}
      </Form>
    </Dialog>
  )
}

type Ask = PlanSheet['asks'][number]
type Asks = NonNullable<Parameters<PartProps['edit']>[0]['asks']>
type AskSent = Omit<Ask, 'key' | 'title'>
const sent = ({ about, id, way, environments }: Ask): AskSent => ({ about, id, way, environments })

/** What is asked beside, and a way to store all of it, which is taken back by storing it as it was. */
function useAsks({
  plan,
  before,
  edit,
  onClose,
}: Pick<PartProps, 'edit'> & { plan: PlanSheet; before: Ask | undefined; onClose: () => void }) {
  const as = (asks: readonly AskSent[]) => ({ asks: asks as unknown as Asks })
  const put = async (asks: readonly AskSent[], told: string) => {
    const all = plan.asks.map(sent)
    if (!(await edit(as(asks)))) return
    notify(told, { undo: () => void edit(as(all)) })
    onClose()
  }
  return { rest: plan.asks.filter((ask) => ask !== before).map(sent), put }
}

/** The ways there are, each with what all of the plan would cost then. */
function Ways({
  price,
  way,
  may,
  onChoose,
}: {
  price: PlanPrice | undefined
  way: AskWay
  may: boolean
  onChoose: (way: AskWay) => void
}) {
  return (
    <table className={css['costs']}>
      <tbody>
        {waysOffered.map((each) => {
          const cost = price?.ways.find((one) => one.way === each)
          return (
            <tr key={each} data-now={each === way ? '' : undefined}>
              <td>
                <label>
                  <input
                    type="radio"
                    name="way"
                    data-first={each === way || undefined}
                    checked={each === way}
                    disabled={!may}
                    onChange={() => onChoose(each)}
                  />{' '}
                  <b>{wayWords[each]}</b> <span className="quiet">{explains[each]}</span>
                </label>
              </td>
              <td>{cost ? `${cost.slots} slots` : ''}</td>
              <td>{cost ? minutesText(cost.minutes) : ''}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
