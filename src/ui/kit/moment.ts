/** `27 Nov, 14:05`. */
export const momentText = (at: number): string =>
  new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })
