import { table } from './says.ts'

export const quayFaults = table({
  'cut-off-ignores-delay': {
    from: '2.3.1',
    fixed: '2.3.2',
    again: { from: '2.4.0-rc2', fixed: null },
    where: 'quay',
    see: 'A sailing is delayed by 40 minutes: check-in closes by the timetable all the same.',
    defect: 'Cut-off ignores the delay of a sailing',
    severity: 'Major',
  },
  'held-is-boarded': {
    from: '2.3.1',
    fixed: '2.3.2',
    where: 'quay',
    see: 'A booking that is held and not paid is let on board at the ramp.',
    defect: 'Held booking is let on board',
    severity: 'Critical',
  },
  'other-sailing-boards': {
    from: '2.4.0-beta1',
    fixed: '2.4.0-beta2',
    where: 'quay',
    see: 'The code of the 14:20 is taken at the ramp of the 10:40.',
    defect: 'Code of another sailing is taken at the ramp',
    severity: 'Major',
  },
  'offline-counts-twice': {
    from: '2.4.0-rc2',
    fixed: null,
    where: 'quay',
    see: 'A code read twice without network is two entries once the reader is back.',
    defect: 'Code read twice counts two persons without network',
    severity: 'Major',
  },
  'infants-not-listed': {
    from: '2.3.0',
    fixed: '2.3.1',
    where: 'passenger list',
    see: 'An infant who is on board is not on the list for the master.',
    defect: 'Infants are missing from the passenger list',
    severity: 'Critical',
  },
})
