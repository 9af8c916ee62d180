import { richText } from '#core/lib/plain-text.ts'
import type { CaseRead, FileRead, RequirementRead } from '#core/formats/shapes.ts'
import type { OwnerKind } from '#db/formats/imports.ts'
import { setTags, setValues } from '#db/projects/fields.ts'
import type { Context } from '#server/http/context.ts'
import { cleanHtml } from '#server/http/clean-html.ts'
import type { Entry, ImportOptions, ImportPlan } from './import-read.ts'

/** What an object said before the import, enough to take it back. */
export interface Before {
  readonly id: number
  /** Its edit version after the import: one that moved on since is left alone when the import is undone. */
  readonly version: number
  readonly set: Readonly<Record<string, unknown>>
  readonly tags?: readonly string[]
  readonly values?: Readonly<Record<string, readonly string[]>>
  readonly targets?: readonly { readonly release: number; readonly iteration: number | null }[]
  /** Fingerprint of the content the import gave it. */
  readonly content?: string
  /** What its title became, where that is needed to tell whether it was changed at all. */
  readonly title?: string
}

export interface Job {
  readonly read: FileRead
  readonly plan: ImportPlan
  readonly options: ImportOptions
  readonly act: number
  readonly number: number
  readonly position: number
  /** Index in the file → id of what was made. */
  readonly made: Map<number, number>
  readonly folders: Map<string, number | null>
  /** Fingerprints of contents that wait to be shown, by case. */
  readonly stamps: Map<number, string>
}

export const caseAt = ({ read }: Job, { index }: Entry): CaseRead => {
  const of = read.cases[index]
  if (!of) throw new Error(`case ${index} is not there`)
  return of
}
export const requirementAt = ({ read }: Job, { index }: Entry): RequirementRead => {
  const of = read.requirements[index]
  if (!of) throw new Error(`requirement ${index} is not there`)
  return of
}

export const textOf = ({ read }: Job, of: RequirementRead): string => cleanHtml(read.rich ? of.text : richText(of.text))

/** Tags and own fields of something new. */
export function common(
  context: Context,
  kind: OwnerKind,
  id: number,
  of: CaseRead | RequirementRead,
  entry: Entry,
): void {
  if (of.tags.length > 0) setTags(context.tx, context.project.id, kind, id, of.tags)
  for (const { field, values } of entry.custom) if (values.length > 0) setValues(context.tx, field, id, values)
}

export const contentFields = ['steps', 'preconditions', 'rows']
