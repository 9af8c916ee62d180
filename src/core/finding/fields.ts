import type { FieldDefinition } from '#core/lib/filter.ts'
import type { CustomField } from '#core/projects/custom.ts'
import { automations, importances, versionStates } from '#core/cases/case.ts'
import { requirementStates } from '#core/requirements/requirement.ts'
import { defectStates, severities } from '#core/defects/state.ts'
import { planStates, suiteStates } from '#core/plans/state.ts'
import { spoilers } from '#core/projects/policy.ts'
import { runReasons } from '#core/runs/compose.ts'
import { timings } from '#core/runs/timing.ts'
import { waitStates } from '#core/runs/waits.ts'
import { runStates } from '#core/runs/state.ts'
import { finalVerdicts, verdicts } from '#core/lib/verdict.ts'

const text = (name: string, label: string): FieldDefinition => ({ name, label, kind: 'text' })
const number = (name: string, label: string): FieldDefinition => ({ name, label, kind: 'number' })
const choice = (name: string, label: string, choices?: readonly string[]): FieldDefinition => ({
  name,
  label,
  kind: 'choice',
  ...(choices && { choices }),
})

/** What every kind with a key and a title is found by. */
const keyed: readonly FieldDefinition[] = [number('id', 'Chosen rows'), number('number', 'Key'), text('title', 'Title')]

/** What the results of a scope say about an object; answered for the scope the list is asked with. */
export const findings = ['uncovered', 'never run', 'failing', 'stale', 'in scope'] as const

export const requirementFields: readonly FieldDefinition[] = [
  ...keyed,
  choice('kind', 'Kind'),
  choice('component', 'Component'),
  choice('state', 'State', requirementStates),
  number('risk', 'Risk'),
  number('likelihood', 'Likelihood'),
  number('impact', 'Impact'),
  number('priority', 'Priority'),
  choice('release', 'Testable from release'),
  choice('iteration', 'Testable from iteration'),
  choice('owner', 'Owner'),
  text('outside', 'Outside reference'),
  number('cases', 'Cases'),
  number('suspect', 'Suspect links'),
  number('revision', 'Revision'),
  text('tags', 'Tags'),
  text('text', 'Text'),
  number('made', 'Made, days ago'),
  number('changed', 'Changed, days ago'),
  choice('finding', 'Found in scope', findings),
]
/** What was found out about a case by executing it. */
const executedFields: readonly FieldDefinition[] = [
  choice('tester', 'Executed by'),
  choice('earlier', 'Any result so far', finalVerdicts),
  choice('unreliable', 'Unreliable', ['yes', 'no']),
  choice('quarantined', 'In quarantine', ['yes', 'no']),
  choice('defect.state', 'Linked defect: state', defectStates),
  choice('defect.severity', 'Linked defect: severity', severities),
  choice('defect.owner', 'Linked defect: owner'),
]
export const caseFields: readonly FieldDefinition[] = [
  ...keyed,
  choice('importance', 'Importance', importances),
  choice('state', 'State', versionStates),
  choice('type', 'Type'),
  choice('component', 'Component'),
  choice('owner', 'Owner'),
  choice('automation', 'Automation', automations),
  number('estimate', 'Estimate, min'),
  choice('folder', 'Folder'),
  number('steps', 'Steps'),
  number('requirements', 'Requirements'),
  choice('retired', 'Retired', ['yes', 'no']),
  text('tags', 'Tags'),
  number('attempts', 'Attempts'),
  number('defects', 'Open defects'),
  number('folderId', 'Folder number'),
  number('made', 'Made, days ago'),
  number('changed', 'Changed, days ago'),
  number('versions', 'Versions'),
  choice('suite', 'Suite'),
  choice('finding', 'Found in scope', findings),
  ...executedFields,
]

/** Begins the name of a field of the requirements a case proves. */
export const ofRequirements = 'requirement.'

/** What can be asked of the requirements a case proves: it holds when it does of one of them; what denies, when it does of all. */
const requirementFieldsOfCase = (own: readonly FieldDefinition[]): FieldDefinition[] =>
  [...requirementFields, ...own]
    .filter(({ name }) => !['id', 'cases', 'suspect', 'made', 'changed', 'finding'].includes(name))
    .map((field) => ({
      ...field,
      name: `${ofRequirements}${field.name}`,
      label: `Requirement: ${field.label.charAt(0).toLowerCase()}${field.label.slice(1)}`,
    }))

/** The project's own fields, of cases and of requirements. */
export interface OwnFields {
  readonly case: readonly CustomField[]
  readonly requirement: readonly CustomField[]
}

/** What can be asked of cases: their fields, the project's own, and those of the requirements they prove. */
export const allCaseFields = (own: OwnFields): FieldDefinition[] => [
  ...caseFields,
  ...ownFieldDefinitions(own.case),
  ...requirementFieldsOfCase(ownFieldDefinitions(own.requirement)),
]

/**
 * What a rule of a suite may ask. Not what is found out by executing, which would make coverage depend on itself; not an age, for a
 * suite would change by nothing but the clock; not suites, which are a source of their own.
 */
export const ruleFields = (own: OwnFields): FieldDefinition[] =>
  allCaseFields(own).filter(
    ({ name }) =>
      !['id', 'finding', 'attempts', 'defects', 'made', 'changed', 'suite', 'retired'].includes(name) &&
      !executedFields.some((field) => field.name === name),
  )

/** What may be asked of what is executed again; what results say of it in the scope are its reasons. */
export const composeFields = (own: OwnFields): FieldDefinition[] =>
  allCaseFields(own).filter(({ name }) => !['id', 'finding', 'retired'].includes(name))

export const itemFields: readonly FieldDefinition[] = [
  number('id', 'Chosen rows'),
  number('case', 'Case'),
  text('title', 'Title'),
  choice('environment', 'Environment'),
  choice('assignee', 'Assigned to'),
  choice('verdict', 'Verdict', verdicts),
  number('estimate', 'Estimate, min'),
  choice('importance', 'Importance', importances),
  choice('component', 'Component'),
  choice('suite', 'Suite'),
  choice('requirement', 'Requirement'),
  choice('folder', 'Folder'),
  choice('reason', 'In the run because', runReasons),
  choice('executedBy', 'Executed by'),
  choice('executedOn', 'Executed on build'),
  number('executed', 'Executed, days ago'),
  choice('free', 'Free to take', ['yes', 'no']),
  choice('word', 'Own verdict'),
  choice('spoiled', 'Spoiled by', spoilers),
  choice('waits', 'Waits', waitStates),
  choice('quarantined', 'In quarantine', ['yes', 'no']),
  number('people', 'Testers who judge it'),
  choice('moved', 'Case changed since it was put in', ['yes', 'no']),
]
/** How an attempt counts: it stands, it does not any more, it is doubted, or it was struck out. */
const attemptCounts = ['stands', 'earlier', 'doubted', 'struck out', 'not final'] as const
export const attemptFields: readonly FieldDefinition[] = [
  number('id', 'Chosen rows'),
  number('case', 'Case'),
  text('title', 'Title'),
  choice('verdict', 'Verdict', verdicts),
  choice('word', 'Own verdict'),
  choice('reason', 'Reason'),
  choice('environment', 'Environment'),
  choice('build', 'Build'),
  choice('release', 'Release'),
  number('run', 'Run'),
  choice('person', 'Executed by'),
  choice('importance', 'Importance'),
  choice('component', 'Component'),
  number('age', 'Finished, days ago'),
  number('minutes', 'Minutes spent'),
  choice('timing', 'Minutes told by', timings),
  number('defects', 'Defects'),
  number('evidence', 'Evidence'),
  choice('counts', 'Counts', attemptCounts),
]
export const defectFields: readonly FieldDefinition[] = [
  ...keyed,
  choice('state', 'State', defectStates),
  choice('severity', 'Severity', severities),
  number('priority', 'Priority'),
  choice('component', 'Component'),
  choice('owner', 'Owner'),
  choice('foundIn', 'Found in'),
  choice('fixedIn', 'Fixed in'),
  number('results', 'Results'),
]
export const routineFields: readonly FieldDefinition[] = [
  ...keyed,
  number('steps', 'Steps'),
  number('uses', 'Used by'),
  number('behind', 'Behind the newest'),
]
export const suiteFields: readonly FieldDefinition[] = [
  ...keyed,
  choice('state', 'State', suiteStates),
  number('cases', 'Cases'),
  number('minutes', 'Minutes'),
  number('plans', 'Plans'),
]
export const planFields: readonly FieldDefinition[] = [
  ...keyed,
  choice('state', 'State', planStates),
  choice('release', 'Release'),
]
export const runFields: readonly FieldDefinition[] = [
  ...keyed,
  choice('state', 'State', runStates),
  choice('release', 'Release'),
  choice('build', 'Build'),
  text('tags', 'Tags'),
]

/** A project's own fields as they can be filtered, sorted and grouped by. */
export const ownFieldDefinitions = (fields: readonly CustomField[]): FieldDefinition[] =>
  fields.map(({ id, name, kind, choices }) =>
    kind === 'number'
      ? number(`own:${id}`, name)
      : kind === 'choice'
        ? choice(`own:${id}`, name, choices)
        : text(`own:${id}`, name),
  )
