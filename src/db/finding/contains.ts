import { type SQL, sql } from 'drizzle-orm'

/** Does a text hold the word, in any case of ASCII letters? Signs that stand for others in a pattern stand for themselves. */
export const contains = (text: SQL, word: string): SQL =>
  sql`${text} like ${`%${word.replace(/[\\%_]/g, '\\$&')}%`} escape '\\'`
