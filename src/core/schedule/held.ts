/** On which side of the line an item was put by hand. */
export const heldSides = ['above', 'below'] as const
export type HeldSide = (typeof heldSides)[number]
