import { table } from './says.ts'

export const weatherFaults = table({
  'quay-sales-not-told': {
    from: '2.4.0-beta2',
    fixed: '2.4.0-rc1',
    where: 'messages',
    see: 'Who was sold a place at the quay gets no message when the sailing is cancelled.',
    defect: 'Weather cancel leaves out passengers added by the quay',
    severity: 'Major',
  },
  'rebooking-costs': {
    from: '2.4.0-beta2',
    fixed: '2.4.0-rc1',
    where: 'my booking',
    see: 'Rebooking after a weather cancellation asks for 3.00.',
    defect: 'Rebooking after bad weather is not free',
    severity: 'Major',
  },
  'told-twice': {
    from: '2.4.0-rc1',
    fixed: '2.4.0-rc2',
    where: 'messages',
    see: 'Each passenger of a cancelled sailing has two messages.',
    defect: 'Messages of a cancelled sailing go out twice',
    severity: 'Minor',
  },
})
