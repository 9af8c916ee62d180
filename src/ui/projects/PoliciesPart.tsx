import { useState } from 'react'
import type { Project } from '#core/projects/contract.ts'
import { setPolicy } from '#core/projects/words-contract.ts'
import { samePolicy } from '#core/projects/policy.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { PolicyForm } from '#ui/runs/PolicyForm.tsx'
import { useEdit } from '#ui/shell/answers.tsx'
import { History } from '#ui/shell/History.tsx'

/** The rules runs of the project are executed under; a lead changes them, everybody reads them. */
export function PoliciesPart({ of }: { of: Project }) {
  const lead = of.role === 'lead'
  const edit = useEdit(setPolicy, { key: of.key }, { ...of.policy, version: of.policyVersion })
  const [draft, setDraft] = useState<Project['policy'] | null>(null)
  const shown = draft ?? of.policy
  const store = async (to: Project['policy'], told: string, back?: Project['policy']) => {
    if (!(await edit(to))) return
    setDraft(null)
    notify(told, back ? { undo: () => void store(back, 'The rules are as before.') } : {})
  }
  return (
    <>
      {!lead && <p className="quiet">A lead can change what stands here.</p>}
      <Form onSend={() => store(shown, 'The rules are changed; runs without rules of their own follow.', of.policy)}>
        <PolicyForm of={shown} from={of.policy} disabled={!lead} onChange={setDraft} />
        <p className="quiet" style={{ marginBlock: 14 }}>
          A run may have rules of its own. Attempts keep the rules they began under: what was recorded is never read
          anew.
        </p>
        {lead && (
          <>
            <Button look="main" type="submit" disabled={samePolicy(shown, of.policy)}>
              Store the rules
            </Button>{' '}
            {draft && !samePolicy(draft, of.policy) && (
              <Button onClick={() => setDraft(null)}>As they are stored</Button>
            )}
          </>
        )}
      </Form>
      <History about={of.key} />
    </>
  )
}
