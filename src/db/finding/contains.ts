import { type SQL, sql } from 'drizzle-orm'
import { folded } from '#db/open.ts'

/** Does a text hold the word, in any case? Signs that stand for others in a pattern stand for themselves. */
export const contains = (text: SQL, word: string): SQL =>
  // SQLite knows the cases of ASCII letters only; it is many times faster where they are enough.
  /^[ -~]*$/.test(word)
    ? sql`${text} like ${`%${word.replace(/[\\%_]/g, '\\$&')}%`} escape '\\'`
    : sql`instr(folded(${text}), ${folded(word)}) > 0`
