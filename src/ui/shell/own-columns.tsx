import type { CustomField, CustomValues } from '#core/projects/custom.ts'
import type { Project } from '#core/projects/contract.ts'
import type { Column } from '#ui/list/columns.ts'

interface OwnRow {
  readonly tags: readonly string[]
  readonly custom: CustomValues
}

/** A column for the tags and for each own field, hidden until somebody chooses it. */
export function ownColumns<T extends OwnRow>(fields: readonly CustomField[], project: Project): Column<T>[] {
  const shown = (field: CustomField, values: readonly string[]) =>
    (field.kind === 'person'
      ? values.map((id) => project.people.find((person) => person.id === id)?.name ?? id)
      : values
    ).join(', ')
  return [
    { name: 'tags', label: 'Tags', width: 130, usual: false, cell: (row) => row.tags.join(', ') },
    ...fields.map((field): Column<T> => ({
      name: `own:${field.id}`,
      label: field.name,
      width: 110,
      usual: false,
      ...(field.kind === 'number' && { align: 'end' as const }),
      cell: (row) => shown(field, row.custom[String(field.id)] ?? []),
    })),
  ]
}
