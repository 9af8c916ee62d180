import { z } from 'zod'
import { plainText } from '#core/lib/plain-text.ts'

export const requirementStates = ['Draft', 'Agreed', 'Done', 'Dropped'] as const
export const requirementState = z.enum(requirementStates)
/** Kinds a requirement is of; one from elsewhere reads as the first. */
export const requirementKinds = ['Function', 'Rule', 'Interface', 'Quality', 'Constraint'] as const

/** Likelihood × impact, each 1–5; `null` while either is open. */
export const riskOf = (likelihood: number | null, impact: number | null): number | null =>
  likelihood === null || impact === null ? null : likelihood * impact

/** A link is suspect when the requirement has changed in title or text since somebody confirmed it. */
export const isSuspect = (confirmedRevision: number, revision: number): boolean => revision > confirmedRevision

/** Sentences of a requirement's text, as a link can name one: a line or what ends with a full stop. */
export const sentencesOf = (text: string): string[] =>
  plainText(text)
    .split(/\n+|(?<=[.!?])\s+(?=\p{Lu})/u)
    .map((part) => part.replace(/^- /, '').trim())
    .filter((part) => part.length > 3)

export type RequirementKind = (typeof requirementKinds)[number]
export const kindOf = (text: string): RequirementKind =>
  requirementKinds.find((kind) => kind === text) ?? requirementKinds[0]
