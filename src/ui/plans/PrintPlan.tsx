import type { PlanSheet } from '#core/plans/contract.ts'
import { printPlan } from '#core/plans/versions-contract.ts'
import { callFile } from '#ui/call.ts'
import { takeFile } from '#ui/formats/take-file.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Plan.module.css'

/** A plan, or one of its versions, as a file to be read away from the screen. */
export function PrintPlan({ of, version }: { of: PlanSheet; version?: number }) {
  const { key } = useHere()
  const take = (as: 'pdf' | 'markdown') =>
    takeFile(
      (signal) =>
        callFile(printPlan, {
          params: { key, ref: of.key },
          query: { as, ...(version !== undefined && { version }) },
          signal,
        }),
      ({ name }) => `${name} is written.`,
    )
  const what = version === undefined ? `${of.key} as it stands` : `version ${version} of ${of.key}, as it was put up`
  return (
    <Pop label="Print" title={`Print ${what}`}>
      <p>
        {what[0]?.toUpperCase()}
        {what.slice(1)}, with its tables, criteria and signatures:
      </p>
      <p className={css['line']}>
        <Button onClick={() => void take('pdf')}>PDF</Button>
        <Button onClick={() => void take('markdown')}>Markdown</Button>
      </p>
    </Pop>
  )
}
