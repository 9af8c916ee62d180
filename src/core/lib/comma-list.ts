/** What stands between commas, without white space round it; nothing where nothing stands. */
export const commaList = (text: string): string[] =>
  text
    .split(',')
    .map((each) => each.trim())
    .filter((each) => each !== '')
