import { counted } from '#core/lib/figures.ts'
import { createEnvironment, type Project } from '#core/projects/contract.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { AddLine, tell } from './AddLine.tsx'
import css from './SetUp.module.css'

/** `Gecko, phone`: an environment is added by the values of its first two factors. */
const valuesIn = (name: string): Record<string, string> => {
  const [engine = '', device = ''] = name.split(',').map((part) => part.trim())
  return { ...(engine && { engine }), ...(device && { device }) }
}

export function Environments({ of }: { of: Project }) {
  const { attempt } = useWrite(createEnvironment)
  const add = async (name: string) =>
    tell(await attempt({ params: { key: of.key }, body: { name, values: valuesIn(name) } }), `${name} is added.`)
  return (
    <section className={css['one']}>
      {of.role === 'lead' && <AddLine label="A new environment, such as “Gecko, phone”" action="Add" onAdd={add} />}
      <ul>
        {of.environments.map(({ id, name, values, seats }) => (
          <li key={id}>
            <span>{name}</span>
            <span className="quiet">
              {Object.entries(values)
                .map(([factor, value]) => `${factor} ${value}`)
                .join(', ')}
            </span>
            <span>{seats === null ? '' : counted(seats, 'seat')}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
