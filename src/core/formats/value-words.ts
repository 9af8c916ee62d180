import type { automations, importances } from '#core/cases/case.ts'
import { plainly } from './plain-word.ts'

// Words by which values of fixed sets are known, in the languages of `header-words.ts`. What is none of them is mapped by a person.

type Words = Readonly<Record<string, string>>

const importanceWords: Readonly<Record<(typeof importances)[number], string>> = {
  Critical:
    'critical|highest|very high|urgent|blocker|p1|kritisch|sehr hoch|höchste|dringend|critique|très haute|très élevée|bloquant|crítica|crítico|muy alta|urgente|muito alta|critica|critico|molto alta|krytyczny|krytyczna|bardzo wysoki|najwyższy|kritiek|zeer hoog|hoogste|kritická|kritický|velmi vysoká|nejvyšší|kritisk|mycket hög|最高|致命的|緊急|非常に高い|最高级|致命|紧急|非常高|매우 높음|최상|치명적|긴급',
  High: 'high|p2|hoch|haute|haut|élevé|élevée|importante|alta|alto|wysoki|wysoka|wysokie|hoog|vysoká|vysoký|hög|高|高い|高级|높음|상',
  Medium:
    'medium|normal|moderate|average|p3|mittel|moyen|moyenne|normale|media|medio|média|médio|średni|średnia|normalny|gemiddeld|normaal|střední|běžná|medel|mellan|中|普通|中等|一般|中级|보통|중|중간',
  Low: 'low|lowest|minor|p4|p5|niedrig|gering|basse|bas|faible|baja|bajo|baixa|baixo|bassa|basso|niski|niska|laag|nízká|nízký|låg|低|低い|低级|较低|낮음|하',
}
const automationWords: Readonly<Record<(typeof automations)[number], string>> = {
  Manual:
    'manual|manually|no|n|not automated|manuell|von hand|nein|manuel|manuelle|non|manuale|manualmente|não|ręczny|ręczna|ręcznie|ręczne|nie|handmatig|nee|ruční|ručně|ne|nej|手動|手作業|いいえ|手动|手工|否|수동|아니오|아니요',
  Candidate:
    'candidate|to automate|to be automated|planned|kandidat|zu automatisieren|geplant|candidat|à automatiser|candidata|candidato|por automatizar|a automatizar|da automatizzare|do automatyzacji|te automatiseren|k automatizaci|att automatisera|自動化予定|待自动化|자동화 예정',
  Automated:
    'automated|automatic|automatically|auto|yes|y|automatisiert|automatisch|ja|automatisé|automatisée|automatique|oui|automatizado|automatizada|automático|sí|sim|automatizzato|automatizzata|automatico|sì|zautomatyzowany|zautomatyzowana|automatyczny|automatyczna|tak|geautomatiseerd|automatizovaný|automatizovaná|automatizováno|ano|automatiserad|automatiserat|自動|自動化|はい|自动|自动化|是|자동|자동화|예',
}

const byWord = (of: Readonly<Record<string, string>>): ReadonlyMap<string, string> =>
  new Map(
    Object.entries(of).flatMap(([value, words]) => words.split('|').map((word) => [plainly(word), value] as const)),
  )
const known: Readonly<Record<string, ReadonlyMap<string, string>>> = {
  importance: byWord(importanceWords),
  automation: byWord(automationWords),
}

/** The value a word stands for: as the project names it, as a person mapped it, or as a language says it; `null` for none. */
export function valueOf(field: string, text: string, choices: readonly string[], mapped: Words = {}): string | null {
  const word = plainly(text)
  const own = Object.entries(mapped).find(([from]) => plainly(from) === word)?.[1]
  if (own !== undefined && choices.includes(own)) return own
  return choices.find((choice) => plainly(choice) === word) ?? known[field]?.get(word) ?? null
}

/** Are these the words of a field, so that their column is told by them? */
export const areWordsOf = (field: 'importance' | 'automation', texts: readonly string[]): boolean =>
  texts.length > 0 && texts.every((text) => known[field]?.has(plainly(text)))
