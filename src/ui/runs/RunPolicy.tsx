import { useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import type { RunSheet, updateRun } from '#core/runs/contract.ts'
import { samePolicy } from '#core/projects/policy.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './RunSheet.module.css'
import { PolicyForm, PolicyWords } from './PolicyForm.tsx'

interface Props {
  readonly of: RunSheet
  readonly onEdit: (body: BodyOf<typeof updateRun>) => Promise<unknown>
}

/** The rules a run is executed under, what of them is its own, and the way to change them. */
export function RunPolicy({ of, onEdit }: Props) {
  const { key, project } = useHere()
  const [open, setOpen] = useState(false)
  return (
    <section aria-label="Policy">
      <div className={css['teamHead']}>
        <h2>Policy</h2>
        {project.role === 'lead' && (
          <Button look="word" onClick={() => setOpen(true)} title="Change the policy">
            change
          </Button>
        )}
      </div>
      <PolicyWords of={of.policy} from={project.policy} />
      {!of.ownPolicy && (
        <p className="quiet">
          As the <a href={`/p/${key}/set-up/policies`}>project</a> says.
        </p>
      )}
      {open && <Change of={of} onEdit={onEdit} onClose={() => setOpen(false)} />}
    </section>
  )
}

function Change({ of, onEdit, onClose }: Props & { onClose: () => void }) {
  const { project } = useHere()
  const [policy, setPolicy] = useState(of.policy)
  const store = async (to: typeof policy | null) => {
    if ((await onEdit({ policy: to })) !== false) onClose()
  }
  return (
    <Dialog title={`The policy of ${of.key}`} onClose={onClose} wide>
      <Form onSend={() => store(samePolicy(policy, project.policy) && !of.ownPolicy ? null : policy)}>
        <div data-first tabIndex={-1}>
          <PolicyForm of={policy} from={project.policy} onChange={setPolicy} />
        </div>
        <p className="quiet" style={{ marginBlock: 12 }}>
          Attempts keep the rules they began under. What is shaded is not as in the project.
        </p>
        <Button look="main" type="submit" disabled={samePolicy(policy, of.policy)}>
          Change the policy
        </Button>{' '}
        {of.ownPolicy && <Button onClick={() => void store(null)}>As the project</Button>}
      </Form>
    </Dialog>
  )
}
