import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { areaOf, type Graph, graphOf, home, modulesOf } from './modules.ts'

/** An arrow that a longer way says too is left out. */
function reduced(graph: Graph): [string, string][] {
  const reaches = (from: string, to: string): boolean =>
    [...(graph.get(from) ?? [])].some((next) => next === to || reaches(next, to))
  return [...graph].flatMap(([from, targets]) =>
    [...targets]
      .filter((to) => ![...targets].some((other) => other !== to && reaches(other, to)))
      .map((to): [string, string] => [from, to]),
  )
}

const mermaid = (arrows: readonly (readonly [string, string])[]): string =>
  ['```mermaid', 'flowchart TB', ...arrows.map(([from, to]) => `  ${from} --> ${to}`).sort(), '```'].join('\n')

function drawing(): string {
  const modules = [...modulesOf(home, 'src'), ...modulesOf(home, 'demo')]
  const layer = (path: string) => /^(?:src\/)?(core|db|server|ui|pages|cli|demo)\//.exec(path)?.[1]
  return [
    'Layers:',
    mermaid(reduced(graphOf(modules, layer))),
    ...['server', 'db', 'core'].flatMap((of) => [
      `Areas of \`${of}\`:`,
      mermaid(reduced(graphOf(modules, areaOf(of)))),
    ]),
  ].join('\n\n')
}

const begin = '<!-- drawn from the imports by test/rules/draw-areas.ts -->'
const end = '<!-- end of the drawing -->'
const path = join(home, 'docs/architecture.md')

/** The document as it is, and as it would be with the drawing made anew. */
export function drawn(): { readonly before: string; readonly after: string } {
  const before = readFileSync(path, 'utf8')
  const [head = '', rest = ''] = before.split(begin)
  const tail = rest.slice(rest.indexOf(end))
  return { before, after: `${head}${begin}\n\n${drawing()}\n\n${tail}` }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(path, drawn().after)
