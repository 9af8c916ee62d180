/**
 * The demo's requirements and cases, as lines. `#` begins a branch with its component; `##` a requirement with
 * likelihood x impact, kind, state, release and iteration it is testable from, owner and text; `-` a case, with
 * `!` for Critical, `+` for High and `~` for Low importance, `?` for a title that has no steps yet.
 */
export const outline = `
# Searching and booking | Booking
## Search sailings by date and port | 2x3 | Function | Done | 2.3/1 | Ansa Lind | A clerk or passenger finds all sailings between two ports on a day, in order of departure, with free places.
- +Sailings of a day are listed by departure
- No sailing on the chosen day offers the next one
- Ports that are not connected are not offered
- ~Search keeps its date when the port changes
## Passenger age bands decide the fare | 3x5 | Rule | Agreed | 2.3/1 | Ansa Lind | Infants are under 4, children 4 to 15, adults 16 to 64, seniors 65 and over, on the day of sailing.
- !Child on the fourth birthday pays the child fare
- +Infant on the last day before four travels free
- +Fifteen-year-old pays the child fare
- +Sixteenth birthday on the day of sailing pays the adult fare
- Senior from 65 pays the senior fare
- Sixty-four on the day of sailing pays the adult fare
- ~Date of birth in the future is refused
- Leap-day birthday is counted on 1 March
- ~Age is taken on the day of sailing, not of booking
## Vehicle length and height bands | 4x5 | Rule | Agreed | 2.4/2 | Ansa Lind | A vehicle is charged by its length band: up to 4.5 m, up to 6 m, up to 9 m, longer is freight. Above <strong>2.1 m</strong> it must not be placed on the car deck.
- +Car of exactly 4.5 m pays the small band
- !Car of 4.51 m pays the middle band
- +Van of 2.10 m is placed on the car deck
- !Van of 2.11 m is refused on the car deck
- Camper of exactly 6 m pays the middle band
- Coach of exactly 9 m pays the large band
- Trailer adds to the length
- ~Motorcycle pays the fixed fare
- Length is read with comma and with point
- Roof box counts for the height
- Freight of 9.01 m asks for a quote
## Pets and bicycles on board | 2x3 | Function | Agreed | 2.3/2 | Yusra Dahl | Pets travel in the pet area, at most twelve a sailing; bicycles go on the rack, at most thirty.
- Twelfth pet is accepted, the thirteenth is not
- Bicycle rack full offers the next sailing
- ~Guide dog needs no pet place
## Hold a place for 20 minutes | 4x4 | Function | Agreed | 2.3/2 | Mira Kell | A place is held for 20 minutes from the first choice; unpaid, it is free again for everybody.
- !Hold ends after 20 minutes and frees the place
- +Paying at 19:59 keeps the place
- Second hold by the same clerk extends nothing
- Clock shows the time left on every page
- Hold survives a reload of the page
## Wait-list moves up when a place frees | 3x4 | Function | Agreed | 2.4/3 | |  When a place frees, the first on the wait-list is offered it for two hours.
## Booking for a group of ten or more | 2x4 | Function | Agreed | 2.4/1 | Yusra Dahl | Ten or more travellers are booked with one name list and one payment.
- Name list of ten is read from a file
- +Group of nine is not offered the group fare
- One traveller leaves the group and the fare is worked out again
- ?Group with two vehicles
## Change a booking to another sailing | 3x3 | Function | Agreed | 2.4/2 | Tobin Rask | A paid booking moves to another sailing against the difference in fare, up to the check-in cut-off.
- +Later sailing charges the difference
- Earlier sailing gives the difference back
- Change after the cut-off is refused
- Vehicle longer than the new sailing can take is refused
# Fares and concessions | Fares
## Largest reduction wins | 4x5 | Rule | Agreed | 2.4/1 | Ansa Lind | Where several reductions apply, only the largest is given; they never add up.
- !Islander on an off-peak sailing gets one reduction
- +Group of ten with islanders gets the group fare
- +Return within three days beats off-peak
- Equal reductions name the first in the list
- Reduction is shown by name on the receipt
- Senior and islander: the larger counts
- No reduction below the lowest fare
- Reduction on the vehicle is separate from the passengers
- Twelve rules of the fare table
- ~Reduction disappears when its reason is taken out
- Infant stays free under any reduction
## Islander concession | 3x4 | Rule | Agreed | 2.3/1 | Ansa Lind | Holders of an island card pay half the passenger fare and the small vehicle band at most.
- +Valid island card halves the fare
- +Expired island card is refused with its date
- Card of another island is accepted
- Card of a child covers the child only
- ~Card number is checked as it is typed
- Card lost on the quay is replaced by the register
## Return within three days | 3x3 | Rule | Agreed | 2.3/2 | Yusra Dahl | A return that sails within 72 hours of the outward arrival costs 20 % less each way.
- Return after 71:59 hours gets the reduction
- +Return after exactly 72 hours gets the reduction
- Return after 72:01 hours pays in full
- Return changed to later loses the reduction
- ~Outward delayed by weather keeps the reduction
## Off-peak sailings | 2x3 | Rule | Agreed | 2.3/1 | Yusra Dahl | Sailings before 07:00 and after 20:00 from Monday to Thursday cost 15 % less.
- Sailing at 06:59 is off-peak
- Sailing at 07:00 is not
- Friday evening pays in full
- ~Public holiday counts as a Sunday
## Fare table is kept by the office | 2x4 | Function | Agreed | 2.4/2 | Mira Kell | The office changes fares from a date on; bookings before keep their fare.
- +New fare holds from its first day at midnight
- Booking paid before keeps the old fare
- Two tables for the same day are refused
- ?Fare in two currencies
## Receipt shows how the fare came about | 2x2 | Interface | Agreed | 2.4/1 | Tobin Rask | Each line of a receipt names its fare, its reduction and the amount.
- Receipt adds up line by line
- Receipt in the second language
- ~Receipt prints on one page
# Payment and refunds | Payment
## Card is charged once | 5x5 | Rule | Agreed | 2.3/1 | Mira Kell | A card is charged exactly once for a booking, whatever is pressed, reloaded or repeated.
- !Card is charged once on a double tap
- !Reload after paying does not charge again
- +Back and pay again shows the paid booking
- +Lost answer of the bank is asked for again
- Declined card leaves the place held
- Second card can be tried within the hold
- Charge and booking carry the same number
- ~Card number is never shown in full
- Bank answers after the hold has ended
## Vouchers, in whole or part | 3x4 | Function | Agreed | 2.4/1 | Yusra Dahl | A voucher pays a booking in whole or in part; what is left of it stays usable until its date.
- +Voucher covers the whole fare
- +Voucher covers part of the fare, the card the rest
- Voucher used up is refused
- Voucher on its last day is accepted
- Voucher one day late is refused with its date
- Two vouchers in one booking
- Rest of a voucher is shown after paying
- ~Voucher number with blanks is understood
- Voucher of another company is refused
- Refund goes back to the voucher first
## Refund when weather cancels | 4x5 | Function | Agreed | 2.3/2 | Mira Kell | When weather cancels a sailing, every paid booking may be refunded in full or moved free of charge.
- !Weather cancel refunds the full fare
- !Refund reaches the card that paid
- +Moved booking is not refunded as well
- Refund of a voucher gives a new voucher
- Partly used return is refunded for the way not sailed
- Refund twice is refused
- Refund is on the receipt
- ~Refund message names the sailing
- Refund of a group pays the payer
- Refund after 30 days needs the office
- Refund in the second language
- Refund list for the office adds up
## Refund of a cancelled booking | 3x4 | Rule | Agreed | 2.4/2 | Tobin Rask | A passenger who cancels gets 100 % back up to seven days before, 50 % up to one day, then nothing.
- +Cancel seven days before gives all back
- +Cancel six days and 23 hours before gives half
- Cancel one day before gives half
- Cancel on the day gives nothing
- ~Cancel of one passenger gives that share
## Payment by account for companies | 3x4 | Function | Agreed | 2.4/3 | Piet Vonk | Companies with an account are invoiced monthly, up to their limit.
- Booking within the limit is invoiced
- Booking above the limit is refused
- ?Blocked account
# Deck plan | Deck plan
## Lane metres never exceeded | 5x5 | Rule | Agreed | 2.3/1 | Mira Kell | The sum of vehicle lengths and gaps in a lane never exceeds the lane's metres.
- !Lane metres: last car fits exactly
- !Car one centimetre too long goes to the next lane
- +Gap of 0.3 m between vehicles is kept
- Trailer and car stay in one lane
- Lane closed for repair takes no car
- Sum is worked out again when a vehicle leaves
- ~Plan shows free metres per lane
- Motorcycles share a lane of their own
- Coach takes the middle lane only
## Weight is spread over the deck | 4x5 | Rule | Agreed | 2.4/1 | Tobin Rask | No side carries more than 55 % of the weight; the bow never more than 40 %.
- !Heavy freight is not put on one side
- +Side at 55.0 % is accepted, 55.1 % is not
- Bow limit moves freight aft
- Weight unknown counts as the largest of its band
- ?Ballast after unloading in between
## Dangerous goods kept apart | 4x5 | Rule | Agreed | 2.4/2 | Tobin Rask | Vehicles with dangerous goods stand 6 m apart and away from the passengers' stairs; class 1 and class 3 never sail together.
- !Dangerous goods kept apart by 6 m
- !Class 1 and class 3 are not placed on one sailing
- +Dangerous goods stand away from the stairs
- Missing declaration refuses the vehicle
- Declaration in the second language is accepted
## Last on, first off | 2x3 | Rule | Agreed | 2.4/1 | Yusra Dahl | Vehicles for the next port stand so that they leave without moving others.
- Car for Tarnsey stands behind none for Low Skerrin
- Order of leaving is printed for the crew
- ~Change of port moves the vehicle
## Deck plan on paper for the crew | 2x2 | Interface | Agreed | 2.4/3 | Yusra Dahl | The plan prints on one page, with names of lanes and places of dangerous goods.
- Deck plan prints on one page
- ~Plan is legible in grey
# Check-in and boarding | Quay
## Check-in closes at the cut-off | 4x4 | Rule | Agreed | 2.3/2 | Tobin Rask | Check-in closes 30 minutes before departure with a vehicle, 15 minutes on foot.
- !Check-in closes at 30 minutes with a vehicle
- +Check-in at 30:00 is accepted, at 29:59 refused
- +Foot passenger at 15:00 is accepted
- Foot passenger at 14:59 is refused
- Delay of the sailing moves the cut-off
- Bicycle counts as on foot
## Boarding by code at the ramp | 3x4 | Function | Agreed | 2.4/1 | Yusra Dahl | The ramp reads the code of a booking and counts persons and vehicles on board.
- +Code read twice counts once
- Code of another sailing is refused with its time
- Count on board equals the list
- Code from a phone in the dark
- ~Reader without network keeps its count
## No-show frees the place | 3x3 | Function | Agreed | 2.4/2 | Tobin Rask | Who is not checked in at the cut-off is a no-show; the place goes to the quay's wait-list.
- +No-show frees the place
- No-show is not refunded
- Late arrival is booked on the next sailing
## State of a booking follows its path | 3x5 | Rule | Agreed | 2.3/1 | Ansa Lind | Held, paid, checked in, boarded, sailed; cancelled, refunded and no-show leave that path only where it says.
- !Held booking cannot be boarded
- +Paid booking goes through to sailed
- Checked-in booking is cancelled at the quay
- Refunded booking cannot be paid again
- Sailed booking cannot be changed
- Every change of state is in the log
## Passenger list for the master | 2x5 | Function | Agreed | 2.3/1 | Mira Kell | Before departure the master gets the list of all persons on board, with needs.
- +List holds every boarded person once
- Infants are on the list
- Needs are marked on the list
# Weather and rebooking | Weather
## Cancel a sailing for weather | 3x5 | Function | Agreed | 2.3/2 | Mira Kell | The duty officer cancels a sailing; all passengers are told at once and offered a choice.
- !Every passenger of a cancelled sailing is told
- +Only the duty officer can cancel
- Cancelled sailing takes no booking
- Cancel is taken back within ten minutes
## Rebook in one step | 3x4 | Function | Agreed | 2.4/2 | Yusra Dahl | A passenger of a cancelled sailing chooses another from those with room, with nothing to pay.
- +Rebooking costs nothing
- Only sailings with room are offered
- Vehicle goes with the passenger
- Rebooking twice keeps the last
## Messages by mail and text | 2x4 | Interface | Agreed | 2.4/1 | Piet Vonk | Messages go by mail and text in the passenger's language, each once.
- Message in the passenger's language
- No message is sent twice
- ~Wrong number falls back to mail
## Delay is shown everywhere | 2x3 | Function | Draft | 2.4/3 | | A delay is shown in search, on the booking and on the quay's board within a minute.
# Accessibility and languages | Access
## Booking by keyboard and screen reader | 3x4 | Quality | Agreed | 2.4/1 | Ansa Lind | All of a booking can be done by keyboard alone and is read out in a sensible order.
- +Booking is done by keyboard alone
- Errors are read out where they belong
- Focus returns after a dialog
- Time left of the hold is told, not only shown
## Contrast and size of text | 2x2 | Quality | Agreed | 2.4/1 | Ansa Lind | Text keeps a contrast of 4.5 to 1 and can be doubled in size without loss.
- Text at 200 % loses nothing
- ~Colours keep their contrast in the dark theme
## Two languages, Ovian and Skerric | 3x3 | Quality | Agreed | 2.3/2 | Piet Vonk | Every text exists in Ovian and Skerric; names of ports are written as each language writes them.
- +Language stays over sign-in
- No text is left in the other language
- Dates and amounts follow the language
- Long Skerric words do not break the page
## Assistance on board | 2x5 | Function | Agreed | 2.4/2 | Yusra Dahl | Assistance is asked for in the booking and confirmed by the quay.
- Wheelchair place is counted
- Assistance is on the passenger list
- ?Assistance asked for at the ramp
# Load and recovery | Platform
## First day of summer sales | 3x5 | Quality | Agreed | 2.4/3 | Piet Vonk | 2 000 people search and 300 book at once; an answer takes at most two seconds.
- +Three hundred bookings at once keep their places apart
- Search answers within two seconds under load
- ?Queue in front of the sale
## Recovery after a power failure | 2x5 | Quality | Agreed | 2.4/2 | Piet Vonk | After a power failure nothing that was paid is lost; service is back within ten minutes.
- +Paid booking survives a power failure
- Held places are free again after recovery
- Queue of messages is sent once
## Office hours reports | 1x2 | Function | Draft | 2.4/3 | | Daily figures per sailing: persons, vehicles, income.
- Figures of a day add up to the receipts
- ~Report opens in a spreadsheet
## Old booking system is read only | 1x3 | Constraint | Done | 2.3/1 | Piet Vonk | Bookings of the old system can be looked up for two years.
- Old booking is found by its number
- Old booking cannot be changed
`

/** Cases that prove no requirement: somebody wrote them once. */
export const orphanCases = [
  'Sign-in page remembers the last port',
  'Logo leads to the first page',
  'Footer names the harbour office',
  'Old bookmark of the timetable still works',
  'Help opens in a new tab',
  'Cookies are asked for once',
  'Clerk signs out at the end of a shift',
]

/** How cases of a component begin; the last step of each case says what the case is about. */
export const openings: Readonly<Record<string, readonly (readonly [action: string, expected: string])[]>> = {
  Booking: [
    ['Sign in as a clerk', 'The clerk’s first page opens'],
    ['Open a new booking from Ovemouth to Tarnsey for tomorrow', 'The sailings of the day are listed'],
  ],
  Fares: [
    ['Sign in as a clerk', 'The clerk’s first page opens'],
    ['Open a new booking for two adults, outward and return', 'The fare is shown line by line'],
    ['Give the concession the case asks for', 'It is named beside the fare'],
  ],
  Payment: [
    ['Hold a place on the 10:40 to Low Skerrin', 'The hold clock starts at 20:00'],
    ['Go to payment', 'The amount equals the fare'],
    ['Pay as the case says', 'The bank’s page answers'],
  ],
  'Deck plan': [
    ['Open the deck plan of the 14:20 sailing', 'All lanes show their free metres'],
    ['Place the vehicles of the prepared list', 'Each vehicle gets a lane'],
  ],
  Quay: [
    ['Sign in at the quay', 'The next departure is on top'],
    ['Find the booking by its code', 'Its state and travellers are shown'],
  ],
  Weather: [
    ['Sign in as duty officer', 'Sailings of the day are listed with their bookings'],
    ['Choose the 08:15 sailing', 'Its passengers and vehicles are counted'],
  ],
  Access: [
    ['Open the public booking page', 'The page is in the language chosen last'],
    ['Start a booking for one adult', 'The first field has the focus'],
  ],
  Platform: [
    ['Prepare the load data set', '2 000 passengers are known'],
    ['Start the measurement', 'The recorder runs'],
  ],
}

export interface DemoDefect {
  readonly title: string
  readonly severity: 'Critical' | 'Major' | 'Minor' | 'Cosmetic'
  readonly state: 'Reported' | 'Confirmed' | 'In repair' | 'Ready to retest' | 'Closed' | 'Rejected'
  /** Title of the case that found it, or how it begins; empty when no case did. */
  readonly found: string
  readonly text: string
  readonly from: string
  readonly fixed: string | null
  readonly engine?: string
}
type DefectLine = readonly [
  severity: DemoDefect['severity'],
  state: DemoDefect['state'],
  builds: readonly [string, string | null],
  title: string,
  found: string,
  text: string,
  engine?: string,
]
const defect = (...[severity, state, builds, title, found, text, engine]: DefectLine): DemoDefect => ({
  severity,
  state,
  from: builds[0],
  fixed: builds[1],
  title,
  found,
  text,
  ...(engine && { engine }),
})

export const defects: readonly DemoDefect[] = [
  defect(
    'Major',
    'In repair',
    ['2.4.0-rc1', null],
    'Vehicle of 4.51 m falls in the small band',
    'Car of 4.51 m',
    'The band reads up to 4.5 m and the fare is 29.00, not 38.00.',
  ),
  defect(
    'Major',
    'Confirmed',
    ['2.4.0-rc1', null],
    'A car of 4.51 m is charged as 4.5 m',
    'Length is read with comma',
    'Length 4,51 typed with a comma is cut to 4.5.',
  ),
  defect(
    'Critical',
    'Ready to retest',
    ['2.4.0-beta2', '2.4.0-rc2'],
    'Double tap on Pay charges the card twice',
    'Card is charged once on a double tap',
    'Two charges of 57.00 within one second on the phone.',
    'WebKit',
  ),
  defect(
    'Critical',
    'In repair',
    ['2.4.0-rc2', null],
    'Class 1 and class 3 are offered the same sailing',
    'Class 1 and class 3',
    'Both vehicles get a lane on the 14:20.',
  ),
  defect(
    'Major',
    'Ready to retest',
    ['2.4.0-rc1', '2.4.0-rc2'],
    'Refund goes to a new voucher although a card paid',
    'Refund reaches the card',
    'The card gets nothing; a voucher over 57.00 is made.',
  ),
  defect(
    'Major',
    'Ready to retest',
    ['2.4.0-rc1', '2.4.0-rc2'],
    'Hold clock starts again after a reload',
    'Hold survives a reload',
    'After F5 the clock reads 20:00 again.',
  ),
  defect(
    'Minor',
    'Ready to retest',
    ['2.4.0-beta2', '2.4.0-rc1'],
    'Receipt names the second reduction',
    'Reduction is shown by name',
    'The larger one is given, the smaller one is named.',
  ),
  defect(
    'Major',
    'Confirmed',
    ['2.4.0-rc2', null],
    'Return after exactly 72 hours pays in full',
    'Return after exactly 72',
    'The limit is taken as below, not up to.',
  ),
  defect(
    'Major',
    'Reported',
    ['2.4.0-rc2', null],
    'Side at 55.1 % is accepted after a vehicle leaves',
    'Side at 55.0',
    'The share is not worked out again.',
  ),
  defect(
    'Minor',
    'Confirmed',
    ['2.4.0-beta2', null],
    'Skerric port names overflow the ticket',
    'Long Skerric words',
    'Skerravåghamnen runs into the time of departure.',
    'WebKit',
  ),
  defect(
    'Cosmetic',
    'Reported',
    ['2.4.0-rc1', null],
    'Contrast of the hint under the code field is low',
    'Colours keep their contrast',
    'Grey on grey, 2.9 to 1.',
  ),
  defect(
    'Major',
    'In repair',
    ['2.4.0-beta1', null],
    'Trailer is counted in another lane than its car',
    'Trailer and car stay',
    'Lane 2 holds the car, lane 3 the trailer.',
  ),
  defect(
    'Major',
    'Closed',
    ['2.4.0-beta1', '2.4.0-beta2'],
    'Lane sum leaves out the gap of the last vehicle',
    'Gap of 0.3 m',
    'The last gap is missing from the sum.',
  ),
  defect(
    'Critical',
    'Closed',
    ['2.4.0-beta1', '2.4.0-beta2'],
    'Car one centimetre too long is placed',
    'Car one centimetre too long',
    'The comparison rounds to decimetres.',
  ),
  defect(
    'Major',
    'Closed',
    ['2.4.0-beta2', '2.4.0-rc1'],
    'Weather cancel leaves out passengers added by the quay',
    'Every passenger of a cancelled',
    'Three passengers added at the ramp got no message.',
  ),
  defect(
    'Minor',
    'Closed',
    ['2.4.0-beta2', '2.4.0-rc1'],
    'Voucher with blanks is refused',
    'Voucher number with blanks',
    'The number is compared as typed.',
  ),
  defect(
    'Major',
    'Closed',
    ['2.3.0', '2.3.2'],
    'Islander card of another island is refused',
    'Card of another island',
    'Low Skerrin cards are unknown in Tarnsey.',
  ),
  defect(
    'Minor',
    'Closed',
    ['2.3.0', '2.3.1'],
    'Date of birth in the future is accepted',
    'Date of birth in the future',
    'The fare becomes 0.00.',
  ),
  defect(
    'Major',
    'Closed',
    ['2.3.1', '2.3.2'],
    'Cut-off ignores the delay of a sailing',
    'Delay of the sailing moves',
    'Check-in closes by the timetable.',
  ),
  defect(
    'Minor',
    'Rejected',
    ['2.4.0-rc1', null],
    'Off-peak reduction missing on Friday evening',
    'Friday evening pays',
    'Friday is not off-peak by the fare table.',
  ),
  defect(
    'Minor',
    'Reported',
    ['2.4.0-rc2', null],
    'Time left of the hold is not read out',
    'Time left of the hold',
    'The screen reader stays silent until zero.',
  ),
  defect(
    'Major',
    'Confirmed',
    ['2.4.0-rc2', null],
    'Code read twice counts two persons without network',
    'Reader without network',
    'Two entries after the reader is back.',
  ),
  defect(
    'Cosmetic',
    'Reported',
    ['2.4.0-rc2', null],
    'Footer overlaps the last row on a tablet',
    '',
    'Seen while looking for something else.',
  ),
  defect(
    'Major',
    'Reported',
    ['2.4.0-rc2', null],
    'Clerk sees the bookings of another port for a moment',
    '',
    'For about half a second after sign-in.',
  ),
  defect(
    'Minor',
    'In repair',
    ['2.4.0-rc1', null],
    'Receipt in the second language names the wrong port',
    'Receipt in the second',
    'Ovemouth is translated twice.',
  ),
]
