/** In intake a build may be executed on, and makes nothing stale. */
export const buildStates = ['Intake', 'Offered', 'Refused', 'Withdrawn'] as const
export type BuildState = (typeof buildStates)[number]

/** What a build touches, where somebody said it; a build that says nothing touches everything. */
export interface Touches {
  readonly components: readonly string[]
  /** Requirements, each with all below it. */
  readonly requirements: readonly number[]
}

/** A line of the table that says which component a changed path belongs to: `src/fares/: Fares`. */
interface PathLine {
  readonly prefix: string
  readonly component: string
}

/** Lines of the table of paths; what is no such line is named. */
export function pathTable(text: string): { readonly lines: readonly PathLine[]; readonly problems: readonly string[] } {
  const lines: PathLine[] = []
  const problems: string[] = []
  for (const line of text.split('\n').map((each) => each.trim())) {
    if (line === '') continue
    const at = line.lastIndexOf(':')
    const [prefix, component] = [line.slice(0, at).trim(), line.slice(at + 1).trim()]
    if (at < 0 || prefix === '' || component === '')
      problems.push(`“${line.slice(0, 60)}”: write a path, a colon and a component, such as src/fares/: Fares.`)
    else lines.push({ prefix: bare(prefix), component })
  }
  return { lines, problems }
}

/** A leading `./` says nothing. */
const bare = (path: string): string => path.replace(/^\.\//, '')

/**
 * Components that changed paths belong to, by the longest line that begins them; `unknown` are paths no line begins: with one of
 * them nobody can say what is not touched.
 */
export function componentsTouched(
  lines: readonly PathLine[],
  paths: readonly string[],
): { readonly components: readonly string[]; readonly unknown: readonly string[] } {
  const components = new Set<string>()
  const unknown: string[] = []
  for (const path of paths.map((each) => bare(each.trim()))) {
    if (path === '') continue
    const own = lines
      .filter(({ prefix }) => path.startsWith(prefix))
      .reduce<PathLine | null>((best, line) => (best && best.prefix.length >= line.prefix.length ? best : line), null)
    if (own) components.add(own.component)
    else unknown.push(path)
  }
  return { components: [...components].sort(), unknown }
}
