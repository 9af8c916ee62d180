import { addMember } from '#db/people/members.ts'
import { addPerson } from '#db/people/people.ts'
import { addProject } from '#db/projects/projects.ts'
import { eventHub } from '#server/http/events.ts'
import { hashPassword, signInLibrary } from '#server/http/sign-in.ts'
import { type App, memoryApp, startOfTests } from './app.ts'
import { memoryDb } from './memory.ts'

/** The server with its real sign-in, and a project whose testers have a password; an e-mail is the id at shop.example. */
export async function appWithSignIn(
  password: string,
  people: readonly { readonly id: string; readonly name: string; readonly administrator: boolean }[],
): Promise<App & { readonly projectId: number }> {
  const db = memoryDb()
  const app = memoryApp(db)
  const passwordHash = await hashPassword(password)
  const projectId = addProject(db, { key: 'SHOP', name: 'Shop', product: 'Till', createdAt: startOfTests })
  for (const each of people) {
    addPerson(db, { ...each, email: `${each.id}@shop.example`, passwordHash }, startOfTests)
    addMember(db, projectId, each.id, { role: 'tester' })
  }
  Object.assign(app.services, {
    signIn: signInLibrary(db, { secret: 'x'.repeat(64), secure: false }),
    events: eventHub(),
  })
  return { ...app, projectId }
}
