import { dayOf, timeOf } from '../clock.ts'
import { takeBackFor } from '../rules/times.ts'
import { bookingsOn } from '../world.ts'
import { type Acting, openSailing } from './book.ts'
import { refuseUnless } from './refused.ts'
import { wordsIn } from '../words.ts'

/** Cancels a sailing because of the weather and tells everybody who has a place on it, each once and in their language. */
export function cancelSailing({ world, has }: Acting, id: string): number {
  const sailing = openSailing(world, id)
  const told = bookingsOn(world, id).filter(
    ({ state, atQuay }) => state !== 'held' && (!atQuay || !has('quay-sales-not-told')),
  )
  world.cancelled.set(id, world.now())
  for (const { code, email, language } of told) {
    const words = wordsIn(language)
    const text = `${words.cancelledForWeather}: ${timeOf(sailing.departs)}, ${dayOf(sailing.departs)}`
    for (let n = 0; n < (has('told-twice') ? 2 : 1); n++)
      world.messages.push({ at: world.now(), to: email || code, code, text })
  }
  return told.length
}

export function takeBack({ world }: Acting, id: string): void {
  const at = world.cancelled.get(id)
  refuseUnless(at !== undefined, 'This sailing is not cancelled.')
  refuseUnless(world.now() - (at ?? 0) <= takeBackFor, 'It was cancelled more than ten minutes ago; that stands now.')
  world.cancelled.delete(id)
}
