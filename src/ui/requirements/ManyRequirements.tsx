import type { CustomField } from '#core/projects/custom.ts'
import type { RequirementRow, RequirementSet } from '#core/requirements/contract.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { Button } from '#ui/kit/Button.tsx'
import type { Ticked } from '#ui/list/ListPage.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { useHere } from '#ui/shell/here.ts'
import type { Many } from '#ui/shell/many.ts'
import { ManyFields } from '#ui/shell/ManyFields.tsx'
import { peopleOptions } from '#ui/shell/people.ts'
import { ofBranches, SuiteOf } from '#ui/plans/NewSuite.tsx'
import { RunOf, runOfRequirements } from '#ui/runs/RunOf.tsx'
import { gradeIn, priorities } from './grades.ts'
import { targetChoices, targetIn } from '#ui/shell/target.ts'

interface Props {
  readonly ticked: Ticked<RequirementRow>
  readonly many: Many<RequirementSet>
  readonly fields: readonly CustomField[]
  readonly onDelete: () => void
}

/** What can be done with ticked requirements. */
export function ManyRequirements({ ticked: { ids, rows, clear }, many, fields, onDelete }: Props) {
  const { project } = useHere()
  const set = (to: RequirementSet) => void many.set(ids, to)
  return (
    <>
      <SetTo label="State" words="set state" options={requirementStates} onSet={(state) => set({ state })} />
      <SetTo
        label="Owner"
        words="set owner"
        options={peopleOptions(project)}
        onSet={(ownerId) => set({ ownerId: ownerId || null })}
      />
      <SetTo label="Kind" words="set kind" options={requirementKinds} onSet={(kind) => set({ kind })} />
      <SetTo
        label="Priority"
        words="set priority"
        options={priorities}
        onSet={(priority) => set({ priority: gradeIn(priority) })}
      />
      <SetTo
        label="Testable from"
        options={targetChoices(project, 'any release', (release) => `Release ${release}`)}
        onSet={(value) => set({ targets: [targetIn(value)].filter((target) => target !== null) })}
      />
      <ManyFields fields={fields} onEdit={(edit) => void many.edit(ids, edit)} />
      <SuiteOf seed={ofBranches(rows)} />
      <RunOf seed={runOfRequirements(rows)} />
      <Button
        look="word"
        onClick={() => {
          onDelete()
          clear()
        }}
      >
        Delete
      </Button>
    </>
  )
}
