import { useState } from 'react'
import { caseLinesSay } from '#core/cases/case-lines.ts'
import { writeCaseLines } from '#core/cases/contract.ts'
import { listTemplates } from '#core/reuse/template-contract.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { Lines } from '#ui/kit/Lines.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

/** Cases as lines; where `choosing`, they can start from a template. */
export function CaseWriter({
  requirement,
  folder = null,
  choosing = false,
}: {
  requirement: number | null
  folder?: number | null
  choosing?: boolean
}) {
  const { key } = useHere()
  const { attempt } = useWrite(writeCaseLines)
  const { data } = useAnswer(listTemplates, { params: { key } }, { enabled: choosing })
  const [template, setTemplate] = useState('')
  return (
    <>
      {(data?.rows.length ?? 0) > 0 && (
        <p style={{ marginBlockEnd: 8 }}>
          They start{' '}
          <Choice
            label="Template"
            value={template}
            options={[
              { value: '', label: 'empty' },
              ...(data?.rows ?? []).map(({ id, name, steps }) => ({
                value: String(id),
                label: `from “${name}”, ${steps} steps`,
              })),
            ]}
            onChoose={setTemplate}
          />
          .
        </p>
      )}
      <Lines
        label="Cases, a line each"
        place={`cases.${requirement ?? ''}`}
        says={caseLinesSay}
        placeholder="Type a case title, or paste many as lines…"
        action="Store"
        onStore={async (lines) => {
          const made = await attempt({
            params: { key },
            body: { lines, requirement, folder, template: template === '' ? null : Number(template) },
          })
          if (made)
            notify(
              `${made.keys.length === 1 ? made.keys[0] : `${made.keys.length} cases`} stored${requirement === null ? '' : ' and linked'}.`,
            )
          return made !== null
        }}
      />
    </>
  )
}
