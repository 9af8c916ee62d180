import type { exportFormats } from '#core/formats/contract.ts'

export type ExportFormat = (typeof exportFormats)[number]

/** What a file of a format is called by its last letters, and by those who carry it. */
export const fileKinds: Readonly<Record<ExportFormat, { readonly ending: string; readonly mime: string }>> = {
  csv: { ending: 'csv', mime: 'text/csv; charset=utf-8' },
  xlsx: { ending: 'xlsx', mime: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet' },
  gherkin: { ending: 'feature', mime: 'text/plain; charset=utf-8' },
  markdown: { ending: 'md', mime: 'text/markdown; charset=utf-8' },
  reqif: { ending: 'reqif', mime: 'application/xml' },
  reqifz: { ending: 'reqifz', mime: 'application/zip' },
  pdf: { ending: 'pdf', mime: 'application/pdf' },
}
