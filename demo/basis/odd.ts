import { readBasis, type WrittenCase } from './read-basis.ts'

/**
 * What every team has as well, and a reviewer is to find: three cases that nobody can execute the same way twice, and three that say
 * again what another says. None of them hangs on a requirement.
 */
const odd = `
# Left over | Booking
## None | 1x1 | Function | Draft | 2.3/1 |
> None of these hangs on a requirement.
risk: None.
- Check booking
  Open the booking and see whether it works => nothing said
- ~Fares ok?
  Check the fares; pay with a voucher; then look at the receipt and refund it => OK
- Van, deck, payment and list
  Book a van of {length} m. Look at the deck plan. Pay, then cancel and try again with other values => Everything is correct, as appropriate
- Van of 2.10 m goes on the car deck
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Fri 15 May; 14:20
  @ Add a vehicle: van; 4.90; 2.10
  Sign in as clerk and open the deck plan of that sailing => The van is shown in C1
- ~Expired island card is refused and its last day named
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Add Per Tarn, born 1984-03-02, with island card TA-1003 => “Island card TA-1003 ended on 2026-04-30.”; he is not in the list
- Card is charged only once on a double tap
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  @ Add a traveller: Jens Holt; 1984-03-02
  Press “To payment”, write card 4000 0000 0000 0077, tap “Pay” two times quickly => The receipt opens
  Count the charges at the bank’s test desk => There is one
`
const unsaid = 'nothing said'
export const oddCases = readBasis(odd).cases.map((own): WrittenCase => ({
  ...own,
  steps: own.steps.map((step) => ('action' in step && step.expected === unsaid ? { ...step, expected: '' } : step)),
}))
