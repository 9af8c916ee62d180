import { useState } from 'react'
import { counted, minutesText, sumOf } from '#core/lib/figures.ts'
import { freeOn } from '#core/schedule/load.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field } from '#ui/kit/Field.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { shortName } from '#ui/shell/people.ts'
import { fullOn } from './TeamDays.tsx'
import { useMoving } from './useMoving.ts'

/** The keyboard's way of dragging items to somebody's day. */
export function GiveDialog({ of, ids, onClose }: { of: LineAnswer; ids: readonly number[]; onClose: () => void }) {
  const move = useMoving(of)
  const [person, setPerson] = useState(of.hands[0]?.id ?? '')
  const [day, setDay] = useState(of.days[0] ?? '')
  const hand = of.hands.find(({ id }) => id === person)
  const at = of.days.indexOf(day)
  const minutes = sumOf(ids, (id) => of.minutes[of.ids.indexOf(id)] ?? 0)
  const free = hand ? Math.max(0, freeOn(hand, at) - (hand.placed[at] ?? 0)) : 0
  const give = async () => {
    if (await move(ids, { person, day })) onClose()
  }
  return (
    <Dialog title={`Give ${counted(ids.length, 'item')} to a tester`} onClose={onClose}>
      {of.hands.length === 0 || of.days.length === 0 ? (
        <p>This run has {of.hands.length === 0 ? 'no team' : 'no day left'} yet; choose that in the run first.</p>
      ) : (
        <PickForm onDo={() => void give()}>
          <Field label="Tester">
            {() => (
              <Choice
                look="box"
                label="Tester"
                value={person}
                options={of.hands.map(({ id, name, skills }) => ({
                  value: id,
                  label: skills.length > 0 ? `${shortName(name)} (${skills.join(', ')})` : shortName(name),
                }))}
                onChoose={setPerson}
              />
            )}
          </Field>
          <Field label="Day">
            {() => (
              <Choice
                look="box"
                label="Day"
                value={day}
                options={of.days.map((each, index) => ({
                  value: each,
                  label: `${dayText(each)}, ${hand ? fullWords(fullOn(hand, index)) : ''}`,
                }))}
                onChoose={setDay}
              />
            )}
          </Field>
          <p>
            {minutesText(minutes)} for {minutesText(free)} that are left
            {minutes > free && `: ${minutesText(minutes - free)} over, which is shown`}. What is given is pinned there:
            levelling again leaves it.
          </p>
          <PickFoot>
            <Button look="main" type="submit">
              Give
            </Button>
          </PickFoot>
        </PickForm>
      )}
    </Dialog>
  )
}

const fullWords = (full: number | null): string =>
  full === null ? 'no hours' : full === Infinity ? 'over' : `${full} % full`
