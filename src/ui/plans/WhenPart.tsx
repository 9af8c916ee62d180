import { useState } from 'react'
import type { PlanSheet } from '#core/plans/contract.ts'
import { minutesText, percent, percentText } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { useHere } from '#ui/shell/here.ts'
import { Part } from '#ui/shell/SheetParts.tsx'
import sheet from '#ui/shell/sheet.module.css'
import css from './Plan.module.css'
import type { PartProps } from './PlanSheet.tsx'

import { FreeText, Head } from './PlanBits.tsx'

/** Who tests it, and when? People and their parts, milestones, runs. */
export function WhenPart(props: PartProps) {
  const { of } = props
  const has = of.people.reduce((sum, each) => sum + (each.minutes ?? 0), 0)
  const takes = of.minutes * Math.max(1, of.environmentList.length)
  return (
    <>
      <Head title="Who and when?">
        {of.dueOn === null ? 'The release has no due day.' : `Due ${dayText(of.dueOn)}.`}{' '}
        {of.people.length > 0 && of.dueOn !== null && (
          <>
            One pass takes <b>{minutesText(takes)}</b> of the <b>{minutesText(has)}</b> there are
            {takes > has ? `: ${minutesText(takes - has)} too much` : ''}.
          </>
        )}
      </Head>
      <People {...props} />
      <Milestones {...props} />
      <Runs of={of.runList} />
      <FreeText {...props} part="when" placeholder="Anything else that says who does what, and when" />
    </>
  )
}

function People({ of, may, edit }: PartProps) {
  const { project, key } = useHere()
  const put = (people: readonly { id: string; part: string }[]) =>
    edit({ people: people.map(({ id, part }) => ({ id, part })) })
  const others = project.people.filter(({ id, ended }) => !ended && !of.people.some((each) => each.id === id))
  return (
    <Part title="People">
      <table className={css['table']}>
        <tbody>
          {of.people.map((person) => (
            <tr key={person.id}>
              <td>
                <a href={`/p/${key}/people/${person.id}`}>{person.name}</a>
              </td>
              <td>
                {may ? (
                  <PartOf
                    of={person}
                    onStore={(part) => put(of.people.map((each) => (each === person ? { ...each, part } : each)))}
                  />
                ) : (
                  person.part
                )}
              </td>
              <td data-end>{person.minutes === null ? '' : minutesText(person.minutes)}</td>
              <td>
                {may && (
                  <button
                    type="button"
                    aria-label={`${person.name} takes no part`}
                    onClick={() => void put(of.people.filter((each) => each !== person))}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {may && others.length > 0 && (
        <Choice
          label="Somebody else"
          look="box"
          value=""
          options={[
            { value: '', label: 'add somebody…' },
            ...others.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChoose={(id) => (id === '' ? undefined : void put([...of.people, { id, part: '' }]))}
        />
      )}
    </Part>
  )
}

function PartOf({ of, onStore }: { of: PlanSheet['people'][number]; onStore: (part: string) => Promise<boolean> }) {
  const [text, setText] = useState(of.part)
  return (
    <TextInput
      aria-label={`Part of ${of.name}`}
      placeholder="part, such as fares on the phone"
      value={text}
      maxLength={200}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => (text.trim() === of.part ? undefined : void onStore(text.trim()))}
    />
  )
}

function Milestones({ of, may, edit }: PartProps) {
  const [title, setTitle] = useState('')
  const [on, setOn] = useState('')
  const add = async () => {
    if (!(await edit({ milestones: [...of.milestones, { title: title.trim(), on }] }))) return
    setTitle('')
    setOn('')
  }
  return (
    <Part title="Milestones">
      <table className={css['table']}>
        <tbody>
          {of.milestones.map((milestone) => (
            <tr key={`${milestone.on}${milestone.title}`}>
              <td>{dayText(milestone.on)}</td>
              <td>{milestone.title}</td>
              <td>
                {may && (
                  <button
                    type="button"
                    aria-label={`Take away ${milestone.title}`}
                    onClick={() => void edit({ milestones: of.milestones.filter((each) => each !== milestone) })}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {may && (
        <Form className={css['line']} onSend={() => (title.trim() === '' || on === '' ? undefined : void add())}>
          <input
            type="date"
            aria-label="Day of the milestone"
            value={on}
            onChange={(event) => setOn(event.target.value)}
          />
          <TextInput
            type="text"
            aria-label="Milestone"
            placeholder="Milestone, such as the last build is offered"
            value={title}
            maxLength={200}
            onChange={(event) => setTitle(event.target.value)}
          />
          <Button type="submit" disabled={title.trim() === '' || on === ''}>
            Add
          </Button>
        </Form>
      )}
    </Part>
  )
}

function Runs({ of }: { of: PlanSheet['runList'] }) {
  const { key } = useHere()
  return (
    <Part title="Runs">
      {of.length === 0 && <p className="quiet">No run yet.</p>}
      <ul className={sheet['rows']}>
        {of.map((run) => (
          <li key={run.key}>
            <span />
            <span className="key">{run.key}</span>
            <a href={`/p/${key}/${run.key}`}>{run.title}</a>
            <span className={sheet['note']}>
              {run.state}, {percentText(percent(run.done, run.items))} of {run.items}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  )
}
