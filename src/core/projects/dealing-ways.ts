/** To whom the items of a run go: whoever takes them, all alike, or first of all those who know what they test. */
export const dealingWays = ['nobody', 'evenly', 'knowing'] as const
export type DealingWay = (typeof dealingWays)[number]

export const dealingWords: Readonly<Record<DealingWay, string>> = {
  nobody: 'free to take',
  evenly: 'dealt evenly by minutes',
  knowing: 'dealt to those who know it',
}
