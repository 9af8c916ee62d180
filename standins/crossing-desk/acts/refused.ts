/** Something that Crossing Desk does not do, with the sentence people read. */
export class Refused extends Error {}

export const refuseUnless = (holds: boolean, sentence: string): void => {
  if (!holds) throw new Refused(sentence)
}
