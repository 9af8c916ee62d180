import { counted, minutesText } from '#core/lib/figures.ts'
import { mostReserve } from '#core/projects/reserve.ts'
import type { Changes, WhatIf, WhatIfList } from '#core/schedule/what-if-contract.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import css from './WhatIf.module.css'
import { percentTyped } from './line-figures.ts'
import { namesIn } from './WhatIfPage.tsx'

interface Props {
  readonly of: WhatIfList
  /** Another way; without one it is the present. */
  readonly row?: WhatIf
  readonly onChange?: (some: Partial<Changes>) => void
}

const unnamed = '+'

/** What a way is different in, or how the present has it: team, last day, environments, reserve. */
export function WayChanges({ of, row, onChange }: Props) {
  const { run } = of
  return (
    <dl className={css['changes']}>
      <div>
        <dt>Team</dt>
        <dd>
          <Team team={run.team} {...(row && { row })} {...(onChange && { onChange })} />
        </dd>
      </div>
      <div data-changed={(row && row.changes.endOn !== null) || undefined}>
        <dt>Last day</dt>
        <dd>
          {onChange && row ? (
            <input
              type="date"
              aria-label={`Last day, ${row.name}`}
              value={row.changes.endOn ?? run.endOn}
              min={run.startOn}
              onChange={({ target }) =>
                target.value !== '' && onChange({ endOn: target.value === run.endOn ? null : target.value })
              }
            />
          ) : (
            dayText(row?.changes.endOn ?? run.endOn)
          )}
        </dd>
      </div>
      <div data-changed={(row && row.changes.without.length > 0) || undefined}>
        <dt>Without</dt>
        <dd>
          <Without of={of} {...(row && { row })} {...(onChange && { onChange })} />
        </dd>
      </div>
      <div data-changed={(row && row.changes.reservePercent !== null) || undefined}>
        <dt title="Kept for retests">Reserve</dt>
        <dd>
          {onChange && row ? (
            <EditText
              label={`Kept for retests, ${row.name}`}
              value={`${row.changes.reservePercent ?? run.reserve} %`}
              onStore={(text) => keep(text, run.reserve, onChange)}
            />
          ) : (
            `${row?.changes.reservePercent ?? run.reserve} %`
          )}
        </dd>
      </div>
    </dl>
  )
}

function keep(text: string, present: number, onChange: NonNullable<Props['onChange']>): void {
  const percent = percentTyped(text)
  if (percent === null) notify(`“${text}” is no part of the time; type 0 to ${mostReserve}.`, { tone: 'problem' })
  else onChange({ reservePercent: percent === present ? null : percent })
}

function Team({ team, row, onChange }: Pick<Props, 'row' | 'onChange'> & { team: readonly string[] }) {
  const { project } = useHere()
  const names = namesIn(project)
  if (!row) return <span title={team.map(names.person).join(', ')}>{team.length} testers</span>
  const { join, more } = row.changes
  const free = project.people.filter(
    ({ id, role, ended }) => role !== 'viewer' && !ended && !team.includes(id) && !join.includes(id),
  )
  const take = (value: string) => {
    if (value === unnamed) onChange?.({ more: more + 1 })
    else if (value !== '') onChange?.({ join: [...join, value] })
  }
  return (
    <>
      {join.length + more === 0 && !onChange && `${team.length} testers`}
      {join.map((id) => (
        <Chip
          key={id}
          words={`+ ${names.person(id)}`}
          {...(onChange && { onDrop: () => onChange({ join: join.filter((each) => each !== id) }) })}
        />
      ))}
      {more > 0 && (
        <Chip words={`+ ${more} unnamed`} {...(onChange && { onDrop: () => onChange({ more: more - 1 }) })} />
      )}
      {onChange && (
        <Choice
          label={`Who joins, ${row.name}`}
          value=""
          options={[
            { value: '', label: join.length + more === 0 ? 'as now' : 'add' },
            ...free.map(({ id, name }) => ({ value: id, label: shortName(name) })),
            { value: unnamed, label: 'one more, not named yet' },
          ]}
          onChoose={take}
        />
      )}
    </>
  )
}

function Without({ of, row, onChange }: Props) {
  const { project } = useHere()
  const without = row?.changes.without ?? []
  if (!onChange && without.length === 0) return <>nothing left out</>
  return (
    <>
      {without.map((id) => (
        <Chip
          key={id}
          words={namesIn(project).environment(id)}
          {...(onChange && { onDrop: () => onChange({ without: without.filter((each) => each !== id) }) })}
        />
      ))}
      {onChange && (
        <Choice
          label={`Leave out, ${row?.name ?? ''}`}
          value=""
          options={[
            { value: '', label: without.length === 0 ? 'nothing left out' : 'add' },
            ...placeOptions(of, without),
          ]}
          onChoose={(id) => id !== '' && onChange({ without: [...without, Number(id)] })}
        />
      )}
    </>
  )
}

/** Environments something is left to do in, with how much. */
export const placeOptions = ({ run }: WhatIfList, without: readonly number[]) =>
  run.environments
    .filter(({ id }) => !without.includes(id))
    .map(({ id, name, items, minutes }) => ({
      value: String(id),
      label: `${name}, ${counted(items, 'item')}, ${minutesText(minutes)}`,
    }))

const Chip = ({ words, onDrop }: { words: string; onDrop?: () => void }) => (
  <span className={css['chip']}>
    {words}
    {onDrop && (
      <button type="button" aria-label={`Take ${words.replace('+ ', '')} out again`} onClick={onDrop}>
        ×
      </button>
    )}
  </span>
)
