import { useMemo } from 'react'
import { type CustomField, type CustomValues, listCustomFields } from '#core/projects/custom.ts'
import type { Project } from '#core/projects/contract.ts'
import type { Column } from '#ui/list/columns.ts'
import { useAnswer } from './answers.tsx'
import { useHere } from './here.ts'

interface OwnRow {
  readonly tags: readonly string[]
  readonly custom: CustomValues
}

/** The fields a project gave its requirements or cases itself. */
export function useOwnFields(owner: CustomField['owner']): readonly CustomField[] {
  const { key } = useHere()
  const { data } = useAnswer(listCustomFields, { params: { key } })
  return useMemo(() => (data?.rows ?? []).filter((field) => field.owner === owner), [data, owner])
}

/** A column for the tags and for each own field, hidden until somebody chooses it. */
export const ownColumns = <T extends OwnRow>(fields: readonly CustomField[], project: Project): Column<T>[] => [
  { name: 'tags', label: 'Tags', width: 130, usual: false, cell: (row) => row.tags.join(', ') },
  ...fields.map((field): Column<T> => ({
    name: `own:${field.id}`,
    label: field.name,
    width: 110,
    usual: false,
    ...(field.kind === 'number' && { align: 'end' as const }),
    cell: (row) => shown(field, row.custom[String(field.id)] ?? [], project),
  })),
]

const shown = (field: CustomField, values: readonly string[], project: Project): string =>
  (field.kind === 'person'
    ? values.map((id) => project.people.find((person) => person.id === id)?.name ?? id)
    : values
  ).join(', ')
