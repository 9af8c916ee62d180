import { readFileSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { expect } from 'chai'
import { drawn } from './draw-areas.ts'
import { areaOf, type Graph, graphOf, home, type Module, modulesOf } from './modules.ts'

/** Which layers each may import; what is not listed may import anything below it. */
const mayImport: Readonly<Record<string, readonly string[]>> = {
  core: ['core'],
  db: ['core', 'db'],
  server: ['core', 'db', 'server'],
  ui: ['core', 'ui'],
  pages: ['core', 'server', 'ui'],
  cli: ['core', 'server', 'ui', 'cli', 'demo'],
  demo: ['core', 'server', 'db', 'demo', 'standins'],
  'middleware.ts': ['server'],
}
/** Packages that ask nothing of the machine: no files, no page, no clock, no chance. */
const pure = ['xss', 'zod', '@cucumber/gherkin', '@cucumber/messages', 'saxes']

const layerOf = (module: Module, target: string): string | null =>
  target.startsWith('#')
    ? (target.slice(1).split('/')[0] ?? null)
    : target.startsWith('.')
      ? (relative(home, resolve(home, dirname(module.file), target))
          .replace(/^src\//, '')
          .split('/')[0] ?? null)
      : null

/** Imports that go where their layer may not. */
export function wrongImports(modules: readonly Module[]): string[] {
  return modules.flatMap((module) =>
    module.imports.flatMap((target) => {
      const layer = layerOf(module, target)
      const allowed = mayImport[module.layer]
      if (layer !== null) return allowed && !allowed.includes(layer) ? [`${module.file} imports ${target}`] : []
      if (module.layer === 'core') return pure.includes(target) ? [] : [`${module.file} imports ${target}`]
      return /^(drizzle-orm|better-sqlite3)/.test(target) && module.layer !== 'db'
        ? [`${module.file} imports ${target}`]
        : []
    }),
  )
}

/** A way round a cycle of modules, or `null`; imports of types alone do not tie modules together. */
export function cycleIn(modules: readonly Module[], read: (file: string) => string): string[] | null {
  const known = new Set(modules.map(({ file }) => file))
  const fileOf = (module: Module, target: string): string | null =>
    target.startsWith('#')
      ? target.replace(/^#demo/, 'demo').replace(/^#/, 'src/')
      : target.startsWith('.')
        ? relative(home, resolve(home, dirname(module.file), target))
        : null
  const targetsOf = (module: Module): string[] => {
    const text = read(module.file)
    const typesOnly = (target: string): boolean =>
      new RegExp(`import type [^;]*?from '${target.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}'`).test(text)
    return module.imports
      .filter((target) => !typesOnly(target))
      .flatMap((target) => fileOf(module, target) ?? [])
      .filter((file) => known.has(file))
  }
  return roundOf(new Map(modules.map((module) => [module.file, new Set(targetsOf(module))])))
}

const ours = [...modulesOf(home, 'src'), ...modulesOf(home, 'demo')]
it('keeps every import within its layer', () => {
  expect(ours.length).to.be.greaterThan(120)
  expect(wrongImports(ours)).to.deep.equal([])
})
it('has no cycle', () => expect(cycleIn(ours, (file) => readFileSync(join(home, file), 'utf8'))).to.equal(null))
it('bites: a wrong import and a cycle are found', () => {
  const wrong: Module[] = [
    { file: 'src/core/runs/bad.ts', layer: 'core', imports: ['node:fs', '#db/open.ts'] },
    { file: 'src/ui/x.tsx', layer: 'ui', imports: ['#server/http/route.ts'] },
  ]
  expect(wrongImports(wrong)).to.have.length(3)
  const round: Module[] = [
    { file: 'src/core/a.ts', layer: 'core', imports: ['./b.ts'] },
    { file: 'src/core/b.ts', layer: 'core', imports: ['#core/a.ts'] },
  ]
  expect(cycleIn(round, () => '')).to.deep.equal(['src/core/a.ts', 'src/core/b.ts', 'src/core/a.ts'])
})

/** Areas of a layer that import each other in a circle, types included; a test may import anything. */
export const areaCycle = (modules: readonly Module[], layer: string): string[] | null =>
  roundOf(graphOf(modules, areaOf(layer)))

function roundOf(graph: Graph): string[] | null {
  const done = new Set<string>()
  const visit = (at: string, path: readonly string[]): string[] | null => {
    if (path.includes(at)) return [...path.slice(path.indexOf(at)), at]
    if (done.has(at)) return null
    for (const next of graph.get(at) ?? []) {
      const found = visit(next, [...path, at])
      if (found) return found
    }
    done.add(at)
    return null
  }
  for (const at of graph.keys()) {
    const found = visit(at, [])
    if (found) return found
  }
  return null
}

for (const layer of ['core', 'db', 'server'])
  it(`lets areas of ${layer} import each other along one order`, () => expect(areaCycle(ours, layer)).to.equal(null))
it('bites: areas that import each other, directly or through others, are found', () => {
  const of = (area: string, target: string): Module => ({
    file: `src/server/${area}/x.ts`,
    layer: 'server',
    imports: [`#server/${target}/y.ts`],
  })
  expect(areaCycle([of('runs', 'cases'), of('cases', 'talk')], 'server')).to.equal(null)
  expect(areaCycle([of('runs', 'cases'), of('cases', 'talk'), of('talk', 'runs')], 'server')).to.deep.equal([
    'runs',
    'cases',
    'talk',
    'runs',
  ])
})
it('is drawn in docs/architecture.md as it is', () => {
  const { before, after } = drawn()
  expect(before, 'run `npx tsx test/rules/draw-areas.ts`').to.equal(after)
})
