import type { Project } from '#core/projects/contract.ts'
import type { scopeIn } from '#ui/shell/address.ts'

type Build = Project['builds'][number]

/** Builds of a release that can be tested, the newest first. */
export const buildsOf = (builds: Project['builds'], of: number | undefined): Build[] =>
  builds.filter(({ release, state }) => release === of && state !== 'Withdrawn').reverse()

/** Of these the one that is named, else the newest that is offered. */
export const likelyBuild = (builds: readonly Build[], is: (build: Build) => boolean): Build | null =>
  builds.find(is) ?? builds.find(({ state }) => state === 'Offered') ?? builds[0] ?? null

/** What one tests now: the build of the scope, or the newest that is offered in its release. */
export function buildIn(project: Project, scope: ReturnType<typeof scopeIn>): Build | null {
  const release =
    project.releases.find(({ name }) => name === scope.release) ??
    project.releases.find(({ state }) => state === 'In test') ??
    project.releases.at(-1)
  return likelyBuild(buildsOf(project.builds, release?.id), ({ name }) => name === scope.build)
}
