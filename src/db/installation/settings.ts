import { eq } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { setting } from './tables.ts'

export const readSetting = (tx: Tx, name: string): string | null =>
  tx.select().from(setting).where(eq(setting.name, name)).get()?.value ?? null

export function writeSetting(tx: Tx, name: string, value: string | null): void {
  tx.delete(setting).where(eq(setting.name, name)).run()
  if (value !== null) tx.insert(setting).values({ name, value }).run()
}
