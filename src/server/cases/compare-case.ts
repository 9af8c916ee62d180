import { keyOf } from '#core/lib/key.ts'
import type {
  CaseComparison,
  compareCase as compareContract,
  restoreVersion as restoreContract,
} from '#core/cases/contract.ts'
import { compareVersions, type Comparison, type Setting } from '#core/cases/compare.ts'
import { type StepText, versionName, withTexts } from '#core/cases/steps.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type CaseStored, findCase, saveCase } from '#db/cases/cases.ts'
import {
  readContent,
  type VersionStored,
  versionById,
  versionsOf,
  workingCopy,
  writeContent,
} from '#db/cases/versions.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { cutFrom } from './cut-version.ts'

export function compareCase(
  context: Context,
  { params, query }: Input<typeof compareContract>,
): Answer<typeof compareContract> {
  const stored = found(findCase(context.tx, context.project.id, params.ref), keyOf('case', params.ref))
  const [from, to] = [sideOf(context, stored, query.from), sideOf(context, stored, query.to)]
  const comparison = compareVersions(plainContent(context, from.version), plainContent(context, to.version))
  return { from: from.side, to: to.side, ...comparisonAnswer(comparison) }
}

export function comparisonAnswer(comparison: Comparison): Omit<CaseComparison, 'from' | 'to'> {
  const rows = (all: readonly Readonly<Record<string, string>>[]) => all.map((row) => ({ ...row }))
  return {
    same: comparison.same,
    preconditions: [...comparison.preconditions],
    parameters: { before: [...comparison.parameters.before], after: [...comparison.parameters.after] },
    rows: { before: rows(comparison.rows.before), after: rows(comparison.rows.after) },
    setting: { before: settingTold(comparison.setting.before), after: settingTold(comparison.setting.after) },
    steps: comparison.steps.map((step) => ({
      ...step,
      action: [...step.action],
      expected: [...step.expected],
      data: [...step.data],
    })),
  }
}

const settingTold = ({ needs = [], environment = '', table }: Setting) => ({
  needs: [...needs],
  environment,
  table: table ? `${table.mode === 'one' ? 'one row of' : 'each row of'} ${table.name}` : '',
})

/** What is inserted is compared as it is named: what it says is compared where it is written. */
const named = (step: StepText): StepText =>
  step.use
    ? {
        id: step.id,
        action: `${step.use.ref} ${step.use.name} ${step.action}`,
        expected: '',
        data: Object.entries(step.use.values)
          .map(([name, value]) => `${name} = ${value}`)
          .join(', '),
      }
    : step

/** Words are compared as they read, without their marks. */
function plainContent({ tx }: Context, version: VersionStored) {
  const content = readContent(tx, version)
  return {
    ...content,
    preconditions: plainText(content.preconditions),
    steps: content.steps.map((step) => withTexts(named(step), plainText)),
  }
}

function sideOf(
  { tx }: Context,
  stored: CaseStored,
  which: number | 'working',
): { version: VersionStored; side: CaseComparison['from'] } {
  const version = which === 'working' ? workingCopy(tx, stored.id) : versionById(tx, which)
  if (!version || version.caseId !== stored.id || (version.major ?? 0) < 0)
    throw new Refusal('not-found', `${keyOf('case', stored.number)} has no such version.`)
  const told = versionsOf(tx, stored.id).find(({ id }) => id === version.id)
  return {
    version,
    side: {
      id: which === 'working' ? null : version.id,
      name: version.major === null ? 'working copy' : versionName(version.major, version.minor ?? 0),
      state: version.state,
      at: version.major === null ? stored.updatedAt : version.createdAt,
      by: told?.by ?? null,
      why: version.why,
    },
  }
}

/** The working copy says again what a version says; what it said before is cut as a version, so that nothing is lost. */
export function restoreVersion(
  context: Context,
  { params, body }: Input<typeof restoreContract>,
): Answer<typeof restoreContract> {
  const { tx } = context
  const stored = found(findCase(tx, context.project.id, params.ref), keyOf('case', params.ref))
  const { version, side } = sideOf(context, stored, body.version)
  const working = workingCopy(tx, stored.id)
  if (working.fingerprint === version.fingerprint) return { kept: null }
  const kept = cutFrom(context, stored, `kept before ${side.name} was restored`)
  const content = readContent(tx, version)
  writeContent(tx, { id: working.id, caseId: stored.id }, content, version.fingerprint)
  saveCase(tx, stored.id, { steps: content.steps.length, updatedAt: context.now })
  context.change({
    kind: 'case',
    id: stored.id,
    ref: keyOf('case', stored.number),
    action: 'restored',
    detail: { 'working copy': [kept.name, side.name] },
  })
  return { kept: kept.cut ? kept.name : null }
}
