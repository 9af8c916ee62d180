import { useHere } from '#ui/shell/here.ts'

/** Who is of a run's team, of all who may execute. */
export function TeamPick({ team, onChoose }: { team: readonly string[]; onChoose: (team: string[]) => void }) {
  const { project } = useHere()
  return project.people
    .filter(({ role, ended }) => role !== 'viewer' && !ended)
    .map(({ id, name }) => {
      const on = team.includes(id)
      return (
        <p key={id}>
          <label>
            <input
              type="checkbox"
              checked={on}
              onChange={() => onChoose(on ? team.filter((each) => each !== id) : [...team, id])}
            />{' '}
            {name}
          </label>
        </p>
      )
    })
}
