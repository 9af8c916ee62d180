import type { CaseSheet } from '#core/cases/contract.ts'
import type { BuildSheet } from '#core/projects/builds-contract.ts'
import type { findings } from '#core/finding/fields.ts'
import type { Meter } from '#core/projects/contract.ts'
import type { Scope } from '#core/projects/scope.ts'
import type { Filter } from '#core/lib/filter.ts'
import type { Known, RunReason } from '#core/runs/compose.ts'
import type { BoardAnswer, CoverageAnswer, GapsAnswer, StaleRow } from '#core/reports/contract.ts'
import type { CarryGroup } from '#core/plans/carry.ts'
import type { Ask, SlotSet } from '#core/plans/asks.ts'
import type { Matrix, matrixFinds, MatrixRow, PlanPrice } from '#core/plans/asks-contract.ts'
import type { Rule } from '#core/plans/source.ts'
import type { CriterionRule, EvaluatedShort } from '#core/plans/criteria.ts'
import type { SuiteChanges } from '#core/plans/members.ts'
import type { ShortestWay } from '#core/reports/shortest-way.ts'
import type { Sequence } from '#core/reuse/repeats.ts'
import type { DesignedRow } from '#core/techniques/contract.ts'
import type { SharedFailures } from '#core/runs/share.ts'
import type { Knowing } from '#db/runs/knowing.ts'
import type { ObservedOf, OpenItem } from '#db/runs/observations.ts'
import type { Fallen } from '#core/reports/doubt.ts'
import type { ListQuery, OrderAnswer } from '#core/lib/shapes.ts'
import type { SpentBy } from '#core/schedule/minutes-contract.ts'
import type { spentOf } from '#db/schedule/spent.ts'
import type { OpenWork } from '#db/schedule/worth.ts'
import type { WorthWeights } from '#core/projects/weights.ts'
import type { Part } from '#core/schedule/worth.ts'
import type { NextBest } from '#core/schedule/contract.ts'
import type { Line } from '#core/schedule/line.ts'
import type { Changes } from '#core/schedule/what-if-contract.ts'
import { job } from './job.ts'
import type { RenewedMinutes } from '#db/schedule/minutes.ts'

// What may be asked of the threads of long reads. Who asks and who answers are different areas; both know only this.

export interface InScope {
  readonly projectId: number
  readonly scope: Scope
}

export type CoverageQuestion = InScope & { readonly ids: readonly number[] | 'all' | null }
export const coverageJob = job<CoverageQuestion, CoverageAnswer>('coverage')

export const minutesJob = job<{ readonly projectId: number }, RenewedMinutes>('minutes', 'comparing')

/** An item still to be executed with what it is worth now. */
export type WeighedItem = OpenWork & {
  /** The place of its case and the drafting targets that it answers. */
  readonly parts: readonly Part[]
  /** How many drafting targets its case answers. */
  readonly targets: number
  /** The environment of that place in the scope. */
  readonly answers: number
  readonly chance: number
  /** What each term leaves of the chance of learning nothing, in the order of `chanceToLearn`. */
  readonly leaves: readonly number[]
  readonly requirements: readonly number[]
  readonly why: string
}
export type WorthQuestion = InScope & { readonly run: number; readonly weights: WorthWeights; readonly now: number }
export interface WorthReply {
  readonly rate: number
  readonly items: readonly WeighedItem[]
}
export const worthJob = job<WorthQuestion, WorthReply>('worth')
/** What a line is drawn over: a run as it goes or would go, a plan's runs, or what is somebody's own. */
export type LineOf =
  | { readonly kind: 'run'; readonly ref: number; readonly changes: Changes | null }
  | { readonly kind: 'plan'; readonly ref: number }
  | { readonly kind: 'day'; readonly person: string }
export interface LineQuestion {
  readonly projectId: number
  readonly of: LineOf
  /** Above the line; `null`: as it is drawn, else the hours there are. */
  readonly minutes: number | null
  readonly basis: boolean
  readonly now: number
}
/** What was read for a line stays on the thread that read it, by this number; what is asked of a solver is text, which costs the request nothing. */
export interface LineAsked {
  readonly token: number
  readonly items: string
  readonly minutes: number
}
export const askLineJob = job<LineQuestion, LineAsked>('ask line')
export type LineDrawn = LineQuestion & { readonly token: number; readonly line: Line }
export const lineTextJob = job<LineDrawn, string>('line text')
/** `above`: only what is above the line. */
export const levelModelJob = job<LineDrawn & { readonly above: boolean }, string>('level model')
export type LineLevelled = LineDrawn & { readonly told: string }
export const levelTextJob = job<LineLevelled & { readonly above: boolean }, string>('level text')
export const wayTextJob = job<LineLevelled, string>('way text')
/** What a plan of days rests on, and as of which change of the project it was looked at. */
export const basisJob = job<
  { readonly projectId: number; readonly ref: number; readonly now: number },
  { readonly basis: string; readonly seen: number }
>('basis')
export const nextBestJob = job<
  { readonly projectId: number; readonly person: string; readonly not: number | null; readonly now: number },
  { readonly best: NextBest['best']; readonly among: number }
>('next best')
export const calendarJob = job<
  { readonly projectId: number; readonly from: string; readonly days: number; readonly now: number },
  string
>('calendar', 'comparing')

/** What a thread with a solver does: it is asked, and answers, in text. */
export const lineJob = job<{ readonly items: string; readonly minutes: number }, Promise<Line>>('line', 'solving')
export const levelJob = job<string, Promise<string>>('level', 'solving')

export const spentJob = job<
  { readonly projectId: number; readonly by: SpentBy; readonly since: number; readonly personId: string },
  ReturnType<typeof spentOf>
>('spent', 'comparing')

export type FindingsQuestion = InScope & { readonly of: 'requirements' | 'cases' }
export type FindingsReply = Record<(typeof findings)[number], number[]>
export const findingsJob = job<FindingsQuestion, FindingsReply>('findings')

export interface MeterReply {
  readonly meter: Meter
  readonly uncovered: number
}
export const meterJob = job<InScope, MeterReply>('meter')

export type SlotAnswer = CaseSheet['slots'][number]
export type SlotsQuestion = InScope & { readonly cases: readonly number[]; readonly suspect: readonly number[] }
export const slotsJob = job<SlotsQuestion, Record<number, SlotAnswer[]>>('slots')

export const gapsJob = job<InScope, GapsAnswer>('gaps')

export type StaleQuestion = InScope & {
  readonly requirement: number | null
  readonly cursor: number
  readonly limit: number
}
export interface StaleReply {
  readonly rows: StaleRow[]
  readonly total: number
}
export const staleJob = job<StaleQuestion, StaleReply>('stale')

export type PlanQuestion = InScope & { readonly plan: number }
export type MatrixQuestion = PlanQuestion & {
  readonly by: 'requirements' | 'cases'
  readonly cursor: number
  readonly limit: number
}
type Wordless<T> = T extends unknown ? Omit<T, 'key' | 'title'> : never
export interface MatrixReply {
  readonly columns: readonly number[]
  readonly figures: Matrix['figures']
  readonly rows: readonly Wordless<MatrixRow>[]
  readonly total: number
}
export const matrixJob = job<MatrixQuestion, MatrixReply>('matrix')
export type MatrixSlotsQuestion = PlanQuestion & { readonly find: (typeof matrixFinds)[number] }
export interface MatrixSlotsReply {
  readonly slots: { readonly case: number; readonly environment: number }[]
  readonly total: number
}
export const matrixSlotsJob = job<MatrixSlotsQuestion, MatrixSlotsReply>('matrix slots')
export type PriceQuestion = PlanQuestion & Pick<Ask, 'about' | 'id'>
export type PriceReply = Omit<PlanPrice, 'notAllowed' | 'lacking' | 'notYet' | 'notYetTotal'> & {
  readonly notYet: readonly { readonly id: number; readonly from: string }[]
  readonly notAllowed: readonly (readonly [id: number, rule: string])[]
  readonly lacking: readonly { readonly id: number; readonly environments: readonly number[] }[]
}
export const priceJob = job<PriceQuestion, PriceReply>('price')
interface DealSaid {
  readonly case: number
  readonly environment: number
}
export const freshDealsJob = job<
  { readonly projectId: number; readonly plans: readonly number[] },
  readonly { readonly plan: number; readonly deals: readonly DealSaid[] }[]
>('fresh deals')
export const dealAgainJob = job<
  PlanQuestion,
  {
    readonly deals: readonly DealSaid[]
    readonly moved: readonly {
      readonly case: number
      readonly from: number
      readonly to: number
      readonly verdict: string | null
    }[]
    readonly before: readonly DealSaid[]
  }
>('deal again')

export const carryJob = job<
  PlanQuestion,
  readonly { readonly id: number; readonly group: CarryGroup; readonly minutes: number }[]
>('carry over')

/** What a build makes stale: the scope names it. */
export const buildEffectJob = job<InScope, BuildSheet['effect']>('build effect')

export const boardJob = job<InScope, BoardAnswer>('board')

interface RepeatRow {
  readonly length: number
  readonly saved: number
  readonly steps: readonly Sequence['steps'][number][]
  readonly places: readonly { readonly id: number; readonly at: number }[]
}
export const repeatsJob = job<
  { readonly projectId: number; readonly caseId: number | null; readonly limit: number },
  { readonly rows: RepeatRow[]; readonly total: number }
>('repeats', 'comparing')

export const sameJob = job<
  { readonly projectId: number; readonly caseId: number; readonly at: number; readonly length: number },
  readonly { readonly id: number; readonly title: string; readonly at: number }[]
>('same', 'comparing')

export const alikeJob = job<
  { readonly projectId: number; readonly atLeast: number; readonly limit: number },
  {
    readonly rows: { readonly likeness: number; readonly ids: readonly number[] }[]
    readonly total: number
    readonly whole: boolean
  }
>('alike', 'comparing')

export const designedJob = job<{ readonly projectId: number; readonly number: number | null }, readonly DesignedRow[]>(
  'designed',
)

/** Criteria of some plans of one release and iteration, by plan; each by its place in the list. */
export interface CriteriaQuestion extends InScope {
  readonly plans: readonly {
    readonly rules: readonly CriterionRule[]
    readonly branches: { readonly inside: readonly number[]; readonly outside: readonly number[] } | null
  }[]
  /** So much of what is missing is told. */
  readonly most: number
}
export const sharedJob = job<{ readonly projectId: number; readonly of: ObservedOf }, SharedFailures<OpenItem>>(
  'shared',
)

export interface DoubtQuestion extends CriteriaQuestion {
  /** The attempts that are not believed. */
  readonly ids: readonly number[]
}
export interface DoubtReply {
  readonly fallen: readonly Fallen[]
  readonly repair: readonly { readonly case: number; readonly environment: number }[]
  readonly requirements: readonly { readonly id: number; readonly from: string; readonly to: string }[]
  readonly passing: { readonly before: number | null; readonly after: number | null }
  /** Outcomes of the criteria of each plan, before and after. */
  readonly criteria: readonly (readonly { readonly from: string; readonly to: string }[])[]
}
export const doubtJob = job<DoubtQuestion, DoubtReply>('doubt')
export const criteriaJob = job<CriteriaQuestion, EvaluatedShort[][]>('criteria')

/** The way to meet the criteria of a plan that are not waived. */
export type WayQuestion = InScope & CriteriaQuestion['plans'][number]
/** It may take seconds, in which the figures of others must not wait. */
export const wayJob = job<WayQuestion, ShortestWay>('shortest way', 'comparing')

export interface SuiteQuestion {
  readonly projectId: number
  readonly suite: number
  readonly cursor: number
  readonly limit: number
}
export interface SuiteReply {
  readonly total: number
  readonly minutes: number
  readonly rows: readonly { readonly id: number; readonly by: readonly number[]; readonly why: string | null }[]
  readonly sources: readonly { readonly id: number; readonly cases: number; readonly problem: string | null }[]
}
export const suiteJob = job<SuiteQuestion, SuiteReply>('suite')

export interface RuleReply {
  readonly total: number
  readonly minutes: number
  readonly first: readonly number[]
  readonly problem: string | null
}
export const ruleJob = job<{ readonly projectId: number; readonly rule: Rule; readonly limit: number }, RuleReply>(
  'rule',
)

export interface BestReply {
  readonly total: number
  readonly minutes: number
  readonly rows: readonly { readonly id: number; readonly why: string }[]
}
export const bestJob = job<
  { readonly projectId: number; readonly minutes: number; readonly requirement: number | null },
  BestReply
>('best')

export const suiteChangesJob = job<{ readonly projectId: number }, SuiteChanges[]>('suite changes', 'comparing')

/** Out of what a run is composed, and for which reasons. */
export interface ComposeQuestion extends InScope {
  /** Ids of earlier runs; with no run and no plan it is all that the scope asks for. */
  readonly runs: readonly number[]
  readonly plan: number | null
  /** Scopes of other releases in which some of the runs were. */
  readonly others: readonly Scope[]
  readonly reasons: readonly RunReason[]
  readonly words: string
  readonly filter: Filter | null
  readonly now: number
}
export interface ComposedUnit extends Known {
  readonly case: number
  readonly environment: number
  readonly reasons: readonly RunReason[]
  readonly minutes: number
  readonly attempt: number | null
  readonly at: number | null
}
export interface ComposedReply {
  readonly looked: number
  readonly counts: Readonly<Record<RunReason, number>>
  readonly one: number
  readonly several: number
  readonly total: number
  readonly minutes: number
  readonly mark: string
  readonly rows: readonly ComposedUnit[]
}
export const composeJob = job<ComposeQuestion & { readonly cursor: number; readonly limit: number }, ComposedReply>(
  'compose',
)
export const composeItemsJob = job<
  ComposeQuestion,
  {
    readonly mark: string
    readonly total: number
    readonly items: { readonly case: number; readonly environment: number; readonly reasons: RunReason[] }[]
  }
>('compose items')

/** Members of suites in their order, then whatever covers requirements, each once. */
export const membersJob = job<
  { readonly projectId: number; readonly suites: readonly number[]; readonly requirements: readonly number[] },
  number[]
>('members')
interface AttemptsQuestion {
  readonly projectId: number
  readonly query: ListQuery
  readonly now: number
}
/** Which attempts a page of the list has: at a million of them a filter that few pass goes through all. */
export const attemptsJob = job<
  AttemptsQuestion,
  { readonly ids: number[]; readonly total: number; readonly next: number | null }
>('attempts', 'comparing')
export const attemptOrderJob = job<AttemptsQuestion, OrderAnswer>('order of attempts', 'comparing')

/** What people have to do with cases. */
export const knowingJob = job<
  { readonly projectId: number; readonly cases: readonly number[]; readonly people: readonly string[] },
  readonly Knowing[]
>('knowing', 'comparing')
/** What a plan asks for case by case; nothing where it says no more than every case in each environment. */
export const asksJob = job<
  { readonly projectId: number; readonly plan: number },
  readonly (readonly [id: number, sets: readonly SlotSet[]])[] | null
>('asks')
