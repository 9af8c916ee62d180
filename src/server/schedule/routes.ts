import * as calendar from '#core/schedule/calendar-contract.ts'
import * as contract from '#core/schedule/contract.ts'
import * as minutes from '#core/schedule/minutes-contract.ts'
import * as ways from '#core/schedule/what-if-contract.ts'
import { on, onOpen, onParts, type Route } from '#server/http/route.ts'
import { createCalendarAddress, listCalendarAddresses, revokeCalendarAddress } from './calendar-addresses.ts'
import { readCalendarFile } from './calendar-file.ts'
import { drawRunLine, holdAtLine } from './keep-line.ts'
import { applyWhatIf, createWhatIf, dropWhatIf, listWhatIfs, putRunWay, updateWhatIf } from './keep-ways.ts'
import { levelRun } from './level-run.ts'
import { moveOnDays, placeOnDays, restoreOnDays } from './place-days.ts'
import { readNextBest } from './next-best.ts'
import { listDayItems, readCalendar } from './read-calendar.ts'
import { readLine, readOwnLine, readPlanLine } from './read-line.ts'
import { listMinutes, readSpent } from './read-minutes.ts'
import { weighWhatIf } from './weigh-way.ts'

/** What may be asked of this area, each endpoint once. */
export const scheduleRoutes: readonly Route[] = [
  onOpen(contract.readLine, readLine),
  onOpen(contract.readPlanLine, readPlanLine),
  onOpen(contract.readOwnLine, readOwnLine),
  onOpen(contract.readNextBest, readNextBest),
  on(minutes.listMinutes, listMinutes),
  onOpen(minutes.readSpent, readSpent),
  on(contract.drawRunLine, drawRunLine),
  on(contract.holdAtLine, holdAtLine),
  onOpen(contract.levelRun, levelRun),
  onParts(contract.placeOnDays, placeOnDays),
  on(contract.moveOnDays, moveOnDays),
  on(contract.restoreOnDays, restoreOnDays),
  on(ways.listWhatIfs, listWhatIfs),
  onOpen(ways.weighWhatIf, weighWhatIf),
  on(ways.createWhatIf, createWhatIf),
  on(ways.updateWhatIf, updateWhatIf),
  on(ways.dropWhatIf, dropWhatIf),
  on(ways.applyWhatIf, applyWhatIf),
  on(ways.putRunWay, putRunWay),
  onOpen(calendar.readCalendar, readCalendar),
  on(calendar.listDayItems, listDayItems),
  on(calendar.listCalendarAddresses, listCalendarAddresses),
  on(calendar.createCalendarAddress, createCalendarAddress),
  on(calendar.revokeCalendarAddress, revokeCalendarAddress),
  onOpen(calendar.readCalendarFile, readCalendarFile),
]
