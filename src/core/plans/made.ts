import { counted } from '#core/lib/figures.ts'
import type { SourceKind } from './source.ts'

const one: Readonly<Record<SourceKind, readonly [string, string]>> = {
  branch: ['branch', 'branches'],
  rule: ['rule', 'rules'],
  suite: ['suite', 'suites'],
  best: ['choice by minutes', 'choices by minutes'],
}

/** What a suite is made of, in few words: `12 pinned, 2 rules`; empty where it is made of nothing yet. */
export const madeWords = (of: Readonly<Record<SourceKind, number>> & { readonly pins: number }): string =>
  [
    ...(of.pins > 0 ? [`${of.pins} pinned`] : []),
    ...(['branch', 'rule', 'suite', 'best'] as const).flatMap((kind) =>
      of[kind] > 0 ? [counted(of[kind], ...one[kind])] : [],
    ),
  ].join(', ')
