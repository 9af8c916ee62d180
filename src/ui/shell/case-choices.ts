import { useHere } from './here.ts'

/** What may be chosen in a filter of cases and of the requirements they prove, as far as the project says it. */
export function useCaseChoices(): Readonly<Record<string, readonly string[]>> {
  const { project } = useHere()
  const people = project.people.map(({ name }) => name)
  return {
    owner: people,
    tester: people,
    'defect.owner': people,
    component: project.components,
    'requirement.owner': people,
    'requirement.component': project.components,
    'requirement.release': project.releases.map(({ name }) => name),
    'requirement.iteration': [...new Set(project.iterations.map(({ name }) => name))],
  }
}
