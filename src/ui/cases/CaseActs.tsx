import { lazy, Suspense, useState } from 'react'
import { type CaseSheet, deleteCases } from '#core/cases/contract.ts'
import { createTemplate } from '#core/reuse/template-contract.ts'
import { duplicateCases } from '#core/reuse/copy-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { go } from '#ui/shell/address.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import sheet from '#ui/shell/sheet.module.css'
import { CutReason } from '#ui/review/Reviews.tsx'

const RepeatsDialog = lazy(async () => ({ default: (await import('#ui/reuse/RepeatsDialog.tsx')).RepeatsDialog }))

/** A copy with its links, opened at once; whoever may delete can take it back. */
function useDuplicate(of: CaseSheet): () => void {
  const { key, project } = useHere()
  const duplicating = useWrite(duplicateCases)
  const deleting = useWrite(deleteCases)
  const duplicate = async () => {
    const done = await duplicating.attempt({ params: { key }, body: { ids: [of.id] } })
    const made = done?.keys[0]
    if (!done || made === undefined) return
    const undo = () => {
      go({ path: `/p/${key}/${of.key}` })
      void deleting.attempt({ params: { key }, body: { ids: [...done.ids] } })
    }
    notify(`${made} is a copy of ${of.key}, with its links.`, project.role === 'lead' ? { undo } : {})
    go({ path: `/p/${key}/${made}` })
  }
  return () => void duplicate()
}

/** What can be done with the case as a whole. */
export function CaseActs({ of }: { of: CaseSheet }) {
  const { project } = useHere()
  const [dialog, setDialog] = useState<'template' | 'repeats' | null>(null)
  const duplicate = useDuplicate(of)
  const may = project.role !== 'viewer'
  useKeys(may ? [{ id: 'duplicate', keys: 'Ctrl+d', label: 'duplicate', quiet: true, run: duplicate }] : [])
  if (!may) return null
  return (
    <div className={sheet['acts']} data-print="no">
      <Button look="word" onClick={duplicate}>
        duplicate
      </Button>
      {of.steps > 0 && (
        <Button look="word" onClick={() => setDialog('template')}>
          keep as a template
        </Button>
      )}
      {of.steps > 1 && (
        <Button look="word" onClick={() => setDialog('repeats')}>
          find its steps elsewhere
        </Button>
      )}
      {dialog === 'template' && <KeepTemplate of={of} onClose={() => setDialog(null)} />}
      {dialog === 'repeats' && (
        <Suspense>
          <RepeatsDialog own={of.key} onClose={() => setDialog(null)} />
        </Suspense>
      )}
    </div>
  )
}

function KeepTemplate({ of, onClose }: { of: CaseSheet; onClose: () => void }) {
  const { key } = useHere()
  const keeping = useWrite(createTemplate)
  const keep = async (name: string) => {
    if (!(await keeping.attempt({ params: { key }, body: { name, case: of.key } }))) return false
    notify(`New cases can start from “${name}”.`)
    onClose()
    return true
  }
  return (
    <CutReason
      place={`template.${of.key}`}
      title="Keep as a template"
      label="Name of the template"
      action="Keep it"
      onClose={onClose}
      onReason={keep}
    />
  )
}
