import type { Member, readMember as contract } from '#core/people/members-contract.ts'
import { dayAfter, dayIn } from '#core/lib/days.ts'
import { minutesOn } from '#core/people/capacity.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { absencesOf, hoursOf } from '#db/people/hours.ts'
import { capacityOf, groupsOf, memberOf, sharesOf, skillsIn } from '#db/people/members.ts'
import { knownPerson } from '#db/people/people.ts'
import { hasPicture } from '#db/people/pictures.ts'
import { attemptsOf, openDefectsOf, ownedIds } from '#db/people/work.ts'
import { versionsAskedOf } from '#db/plans/versions.ts'
import { reviewsAskedOf } from '#db/review/reviews.ts'
import { openItemsOf } from '#db/runs/items.ts'
import type { Context } from '#server/http/context.ts'
import { roleOf } from '#server/http/permission.ts'
import type { Answer, Input } from '#server/http/route.ts'

const daysAhead = 14
const shown = 50

export function readMember(context: Context, { params }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project, now } = context
  const known = knownPerson(tx, params.person)
  const own = memberOf(tx, project.id, params.person)
  const hours = hoursOf(tx, params.person)
  if (!known || !own || !hours) throw new Refusal('not-found', 'That person is not one of this project’s.')
  const today = dayIn(project.timeZone, now)
  const absences = absencesOf(tx, known.id, today)
  return {
    id: known.id,
    name: known.name,
    email: known.email,
    picture: hasPicture(tx, known.id),
    role: own.role,
    givenRole: own.givenRole,
    groups: groupsOf(tx, known.id),
    state: known.state,
    skills: skillsIn(own.skills),
    ...hours,
    sharePercent: own.sharePercent,
    elsewhere: sharesOf(tx, known.id)
      .filter(({ id }) => id !== project.id && roleOf(tx, { id }, context) !== null)
      .map(({ key, name, sharePercent }) => ({ key, name, sharePercent })),
    absences: absences.map(({ id, startOn, endOn, minutes, reason }) => ({ id, startOn, endOn, minutes, reason })),
    days: daysOf(context, known.id, { today, absences }),
    work: workOf(context, known.id),
    done: attemptsOf(tx, project.id, known.id),
  }
}

function daysOf(
  { tx, project }: Context,
  person: string,
  { today, absences }: { readonly today: string; readonly absences: ReturnType<typeof absencesOf> },
): Member['days'] {
  const capacity = capacityOf(tx, project.id, person)
  return Array.from({ length: daysAhead }, (_, ahead) => {
    const day = dayAfter(today, ahead)
    return { day, minutes: capacity ? minutesOn(day, { ...capacity, absences }) : 0 }
  })
}

function workOf({ tx, project }: Context, person: string): Member['work'] {
  const items = openItemsOf(tx, project.id, person)
  return {
    items: items.slice(0, shown).map(({ importance: _, ...item }) => item),
    itemsTotal: items.length,
    itemMinutes: items.reduce((sum, { minutes }) => sum + minutes, 0),
    defects: openDefectsOf(tx, project.id, person).map(({ number, title, state }) => ({
      ref: keyOf('defect', number),
      title,
      state,
    })),
    reviews: [
      ...versionsAskedOf(tx, project.id, person).map(({ ref, title }) => ({ ref, title })),
      ...reviewsAskedOf(tx, project.id, person),
    ],
    requirements: ownedIds(tx, 'requirement', project.id, person).length,
    cases: ownedIds(tx, 'case', project.id, person).length,
  }
}
