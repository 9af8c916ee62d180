import { addSecurityEvent } from '#db/people/security.ts'
import type { Db } from '#db/open.ts'

/** Writes down that somebody at the machine made a backup: a copy of all there is. */
export const noteBackup = (db: Db, out: string, withKey: boolean): void =>
  addSecurityEvent(db, {
    at: Date.now(),
    kind: 'backup',
    told: `A backup ${withKey ? 'with the key of the installation ' : ''}was begun, to ${out}`,
    personId: null,
    byId: null,
    projectId: null,
    address: 'command line',
  })
