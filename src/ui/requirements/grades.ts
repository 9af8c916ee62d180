import type { Options } from '#ui/kit/Choice.tsx'

export type GradeText = '' | '1' | '2' | '3' | '4' | '5'

/** Likelihood, impact and priority as a choice; empty is not given. */
export const grades: Options<GradeText> = [{ value: '', label: 'open' }, '1', '2', '3', '4', '5']

/** Which of them comes first when there is not time for all; 1 before 5. */
export const priorities: Options<GradeText> = [
  { value: '', label: 'no priority' },
  { value: '1', label: '1, first' },
  '2',
  '3',
  '4',
  { value: '5', label: '5, last' },
]

export const gradeIn = (text: GradeText): number | null => (text === '' ? null : Number(text))

/** A stored grade as its choice. */
export const gradeText = (grade: number | null): GradeText =>
  (['1', '2', '3', '4', '5'] as const).find((each) => Number(each) === grade) ?? ''
