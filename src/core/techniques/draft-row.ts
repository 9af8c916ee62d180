import { z } from 'zod'
import { boundariesModel, combosModel, criteria, decisionsModel, pathsModel } from './models.ts'

/** A model of any technique, with what else decides its cases. */
export const draftModel = z.discriminatedUnion('technique', [
  z.object({ technique: z.literal('boundaries'), body: boundariesModel }),
  z.object({ technique: z.literal('combos'), body: combosModel }),
  z.object({
    technique: z.literal('decisions'),
    body: decisionsModel,
    per: z.enum(['rule', 'combination']).default('rule'),
  }),
  z.object({
    technique: z.literal('paths'),
    body: pathsModel,
    criterion: z.enum(criteria).default('transitions'),
    invalid: z.boolean().default(false),
  }),
])
export type DraftModel = z.infer<typeof draftModel>

/**
 * What a case was accepted with: a value for each name; of a path its transitions as text, one a line, under `path`, and under
 * `refused` the events, one a line, that must change nothing in the state it leads to.
 */
export type DraftRow = Readonly<Record<string, string>>

/** Rows that say the same of every name have the same text here, in whatever order they say it. */
export const rowKey = (row: DraftRow): string =>
  JSON.stringify(Object.entries(row).sort(([a], [b]) => (a < b ? -1 : 1)))
export const sameRow = (a: DraftRow, b: DraftRow): boolean => rowKey(a) === rowKey(b)

/** The names a row of a model has a value for; a path has none. */
export const namesOf = (model: DraftModel): string[] =>
  model.technique === 'combos'
    ? Object.keys(model.body.parameters)
    : model.technique === 'boundaries'
      ? Object.keys(model.body.inputs)
      : model.technique === 'decisions'
        ? Object.keys(model.body.conditions)
        : []

/** Cells of a row that are no names of its model, as at `row.path`, stay out of titles and data. */
export const rowText = (row: DraftRow): string =>
  row['path'] === undefined
    ? Object.entries(row)
        .map(([name, value]) => `${name} ${value}`)
        .join(', ')
    : `${pathText(row['path'])}${row['refused'] === undefined ? '' : refusedText(row['refused'].split('\n'))}`

const refusedText = (events: readonly string[]): string =>
  `, where ${events.length > 2 ? `${events.length} events are` : events.length === 2 ? `${events.join(' and ')} are` : `${events[0]!} is`} refused`

/** The states of a path. Where nothing is walked, the one it stays in. */
const pathText = (path: string): string => {
  if (!path.includes('→ ')) return path
  const states = path.split('\n').map((line) => line.replace(/^.*→ /, ''))
  return [/^(.*?) –/.exec(path)?.[1] ?? '', ...states].join(' → ')
}

/** A title by a pattern: `{name}` becomes the row's value, `{all}` the whole row, `{n}` its number. Unknown names stay as they are. */
export const titleBy = (pattern: string, row: DraftRow, number: number): string =>
  pattern
    .replace(/\{([^{}]+)\}/g, (whole, name: string) =>
      name === 'all' ? rowText(row) : name === 'n' ? String(number) : Object.hasOwn(row, name) ? row[name]! : whole,
    )
    .slice(0, 300)
