import type { BodyOf, OutputOf } from '#core/lib/contract.ts'
import type { fetchOutside, RequirementSheet, updateRequirement } from '#core/requirements/contract.ts'
import { kindOf, requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { ComponentFact, OwnerFact } from '#ui/shell/SheetParts.tsx'
import css from '#ui/shell/sheet.module.css'
import { gradeIn, gradeText, priorities } from './grades.ts'
import { Outside } from './Outside.tsx'
import { RiskGrid } from './RiskGrid.tsx'
import { Targets } from './Targets.tsx'

type Set = (changes: BodyOf<typeof updateRequirement>) => void

/** What is known of a requirement, as a sentence whose words are set where they stand. */
export const RequirementFacts = ({
  of,
  onSet,
  onFetched,
}: {
  of: RequirementSheet
  onSet: Set
  onFetched: (fetched: OutputOf<typeof fetchOutside> | null) => void
}) => (
  <p className={css['facts']}>
    <Choice label="State" value={of.state} options={requirementStates} onChoose={(state) => onSet({ state })} />,{' '}
    <Choice label="Kind" value={kindOf(of.kind)} options={requirementKinds} onChoose={(kind) => onSet({ kind })} />;
    testable from <Targets of={of} onSet={(targets) => onSet({ targets })} />; risk <Risk of={of} onSet={onSet} />;
    priority{' '}
    <Choice
      label="Priority"
      value={gradeText(of.priority)}
      options={priorities}
      onChoose={(priority) => onSet({ priority: gradeIn(priority) })}
    />
    <OwnerFact id={of.ownerId} onSet={(ownerId) => onSet({ ownerId })} />
    <ComponentFact value={of.component} onSet={(component) => onSet({ component })} />
    <Outside of={of} onSet={(outsideRef) => onSet({ outsideRef })} onFetched={onFetched} />
  </p>
)

/** From here on a risk is shown as one. */
const high = 16

function Risk({ of: { risk, likelihood, impact }, onSet }: { of: RequirementSheet; onSet: Set }) {
  const tone = risk !== null && risk >= high ? { color: 'var(--danger)' } : undefined
  return (
    <Pop title="Risk" label={risk === null ? 'not given' : <span style={tone}>{`${likelihood} × ${impact}`}</span>}>
      <RiskGrid likelihood={likelihood} impact={impact} onSet={(to, and) => onSet({ likelihood: to, impact: and })} />
    </Pop>
  )
}
