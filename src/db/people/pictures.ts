import { eq } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { personPicture } from './tables.ts'

export const pictureOf = (tx: Tx, personId: string): { mime: string; bytes: Buffer } | undefined =>
  tx
    .select({ mime: personPicture.mime, bytes: personPicture.bytes })
    .from(personPicture)
    .where(eq(personPicture.personId, personId))
    .get()

export const hasPicture = (tx: Tx, personId: string): boolean =>
  tx.select({ id: personPicture.personId }).from(personPicture).where(eq(personPicture.personId, personId)).get() !==
  undefined

export function setPicture(tx: Tx, personId: string, picture: { mime: string; bytes: Buffer } | null): void {
  tx.delete(personPicture).where(eq(personPicture.personId, personId)).run()
  if (picture !== null)
    tx.insert(personPicture)
      .values({ personId, ...picture })
      .run()
}
