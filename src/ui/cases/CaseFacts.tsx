import type { BodyOf } from '#core/lib/contract.ts'
import { automations, importances } from '#core/cases/case.ts'
import type { CaseSheet, updateCase } from '#core/cases/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { ComponentFact, OwnerFact } from '#ui/shell/SheetParts.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'
import { targetChoices } from '#ui/shell/target.ts'
import { fromIn, fromValue } from './testable-from.ts'
import { withMinutes } from '#ui/shell/minutes.ts'

/** What is known of a case, as a sentence whose words are set where they stand. */
export function CaseFacts({ of, onSet }: { of: CaseSheet; onSet: (changes: BodyOf<typeof updateCase>) => void }) {
  const { project } = useHere()
  return (
    <p className={css['facts']}>
      <b>{of.state}</b> {of.versionName && <span className="key">{of.versionName}</span>}
      {of.unsaved && ' with a newer working copy'}; importance{' '}
      <Choice
        label="Importance"
        value={of.importance}
        options={importances}
        onChoose={(importance) => onSet({ importance })}
      />
      <OwnerFact id={of.ownerId} onSet={(ownerId) => onSet({ ownerId })} />; estimate{' '}
      <EditText
        label="Estimate in minutes"
        value={of.estimate === null ? '' : String(of.estimate)}
        placeholder="open"
        onStore={(value) => withMinutes(value, (estimate) => onSet({ estimate }))}
      />{' '}
      min;{' '}
      <Choice
        label="Automation"
        value={of.automation}
        options={automations}
        onChoose={(automation) => onSet({ automation })}
      />
      ; testable from{' '}
      <Choice
        label="Testable from"
        value={fromValue(of)}
        options={targetChoices(project, 'its requirements')}
        onChoose={(value) => onSet(fromIn(value))}
      />
      {of.notYet !== null && <b>, not yet: {of.notYet}</b>}
      <ComponentFact value={of.component} onSet={(component) => onSet({ component })} />
      {of.folder && (
        <>
          ; in folder <b>{of.folder}</b>
        </>
      )}
      {of.retired && of.mergedInto === null && (
        <>
          ; <b>retired</b>{' '}
          <Button look="word" onClick={() => onSet({ retired: false })}>
            bring back
          </Button>
        </>
      )}
    </p>
  )
}
