/** Searching and booking: see `read-basis.ts` for how this is written. */
export const booking = `
# Searching and booking | Booking
## Search sailings by date and port | 2x3 | Function | Done | 2.3/1 | Ansa Lind | HARB-101
> A clerk or a passenger finds all sailings between two ports on a day, in the order of departure, each with its arrival and the places that are left. Only ports that are connected are offered: Ovemouth with Tarnsey and with Low Skerrin. A sailing that has left is not listed; where none is left on that day, the next one is named and leads to its day. A cancelled sailing stays in the list and says so.
risk: Used by everybody, but a wrong list is seen at once.
- +Sailings of a day are listed by departure
  @ Known state
  @ Find sailings: Ovemouth; Tarnsey; Wed 13 May
  Read the column of departures => 06:30, 08:15, 10:40, 14:20, 17:50 and 20:30, in this order
  Read the places of the 10:40 => 116 of 120 are left: four are sold
- Sailings that have left are not listed
  @ Known state
  Search from Ovemouth to Tarnsey on Tue 12 May => The first sailing listed is the 10:40; 06:30 and 08:15 have left
  On the test bench set the clock to 10:40 and search again => The first sailing listed is the 14:20
- No sailing left on the day offers the next one
  @ Known state
  On the test bench set the clock to Tue 12 May, 20:31 => The clock reads 20:31
  Search from Ovemouth to Tarnsey on Tue 12 May => “No sailing left on this day. The next one is Wed 13 May 2026, 06:30”
  Follow that link => The sailings of Wed 13 May are listed
- Ports that are not connected are not offered
  Open “Find a sailing” and choose from Tarnsey => Only Ovemouth is offered as the other port
  Choose from Low Skerrin and press “Search” => Only Ovemouth is offered; Tarnsey is not
- ~Search keeps its date when the port is changed
  @ Known state
  @ Find sailings: Ovemouth; Tarnsey; Thu 14 May
  Choose Low Skerrin in place of Tarnsey without pressing “Search” => The day is Thu 14 May still <search-forgets-date>
  Press “Search” => The sailings of Thu 14 May to Low Skerrin are listed: 07:00, 10:40, 16:10
- Sailing is chosen by keyboard alone
  before: The mouse is put away.
  @ Find sailings: Ovemouth; Tarnsey; Wed 13 May
  Press Tab until a sailing has the focus, then Enter => The booking of that sailing opens <sailing-needs-mouse>
  Press Shift+Tab from the first field of the booking => The focus goes to the ways above and nowhere else
- ~Arrival follows from the length of the crossing
  @ Find sailings: {from}; {to}; Wed 13 May
  Read the arrival of the sailing at {departs} => It is {arrives}
  = from | to | departs | arrives
  | Ovemouth | Tarnsey | 08:15 | 09:10
  | Ovemouth | Low Skerrin | 10:40 | 12:30
  | Tarnsey | Ovemouth | 21:45 | 22:40
## Passenger age bands decide the fare | 3x5 | Rule | Agreed | 2.3/1 | Ansa Lind | HARB-104
> The band of a passenger is decided by their age in whole years on the day of sailing: infants are under 4, children 4 to 15, adults 16 to 64, seniors 65 and over. The birthday itself belongs to the new age. Who was born on 29 February has their birthday on 1 March in a year without that day. A date of birth after the day of sailing is refused. Example: born 13 May 2022, sailing 13 May 2026: child.
risk: Decides every fare; an error at a boundary is wrong for hundreds a week and is found by passengers.
- !Child on the fourth birthday pays the child fare
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Under “Who travels” write Kit Moor, born {born}, press “Add” => Kit Moor stands in the list
  Read the line of Kit Moor under “Fare” => It says {band} and {fare} <infant-on-fourth-birthday>
  = born | band | fare
  |! 2022-05-13 | child | 4.50
  | 2022-05-12 | child | 4.50
  | 2022-05-14 | infant | 0.00
- +Infant on the last day before four travels free
  @ Hold a place: Ovemouth; Low Skerrin; Wed 13 May; 10:40
  @ Add a traveller: Bo Lund; 2022-05-14
  Read the line of Bo Lund under “Fare” => infant, 0.00
  Read the total => 0.00
- +Sixteenth birthday on the day of sailing pays the adult fare
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  @ Add a traveller: Tor Vik; 2010-05-13
  Read the line of Tor Vik under “Fare” => adult, 9.00: the day of sailing counts, not the day of booking <age-on-booking-day>
- Fifteen-year-old pays the child fare
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  @ Add a traveller: Una Vik; 2010-05-14
  Read the line of Una Vik under “Fare” => child, 4.50
- Senior from 65 pays the senior fare
  @ Hold a place: Ovemouth; Low Skerrin; Wed 13 May; 16:10
  Add Alva Berg, born {born} => Alva Berg is {band} and pays {fare}
  = born | band | fare
  | 1961-05-13 | senior | 9.00
  | 1961-05-14 | adult | 12.00
- Leap-day birthday is counted on 1 March
  On the test bench set the clock to {today}, 09:00 => The clock reads {today}
  Hold the 10:40 from Ovemouth to Tarnsey on {sails} and add Lea Dahl, born 2024-02-29 => She is {band}
  = today | sails | band
  | 2028-02-27 | 2028-02-28 | infant
  | 2028-02-28 | 2028-02-29 | child
  | 2089-02-27 | 2089-02-28 | adult
  | 2089-02-28 | 2089-03-01 | senior
- ~Date of birth in the future is refused
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Write Nils Holm, born 2030-01-01, press “Add” => “The date of birth is after the day of sailing.” <birth-in-future>
  Read the list of who travels => Nils Holm is not in it
- ~Date of birth that is no day is refused
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Write Nils Holm, born {typed}, press “Add” => “Write the date of birth like 2019-05-12.”
  = typed
  | 2019-02-30
  | 12.5.2019
  | yesterday
- Names are asked for
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Leave the name empty, write 1984-03-02, press “Add” => “Write a name.”; nobody is added
## Vehicle length and height bands | 4x5 | Rule | Agreed | 2.4/2 | Ansa Lind | HARB-109
> A vehicle is charged by its whole length, trailer included: up to 4.50 m small (29.00), up to 6.00 m middle (38.00), up to 9.00 m large (64.00). Longer is freight and asks for a quote. A motorcycle pays 11.00 whatever its length. The limit belongs to the smaller band. Height counts with whatever is on the roof: above 2.10 m a vehicle must not be placed on the car deck. Lengths are typed in metres, with a point or a comma.
risk: Each centimetre moves money, and a vehicle that is too high damages the deck.
- !Car of 4.51 m pays the middle band
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  @ Add a vehicle: car; {length}; 1.60
  Read the line of the car under “Fare” => It says {band} and {fare} <band-cut-to-decimetres>
  = length | band | fare
  |! 4.51 | middle | 38.00
  | 4.50 | small | 29.00
  |! 4.55 | middle | 38.00
- +Car of exactly 4.50 m pays the small band
  @ Hold a place: Ovemouth; Low Skerrin; Wed 13 May; 07:00
  @ Add a vehicle: car; 4.50; 1.55
  Read the line of the car under “Fare” => small, 29.00
- Camper of exactly 6 m pays the middle band
  @ Hold a place: Ovemouth; Tarnsey; Thu 14 May; 10:40
  Add a camper of 6.00 m, 2.90 m high => The camper is in the booking: middle, 38.00
  Change its length to 6.10 m => large, 64.00
- Coach of exactly 9 m pays the large band
  @ Hold a place: Ovemouth; Tarnsey; Thu 14 May; 14:20
  Add a coach of 9.00 m, 3.40 m high => The coach is in the booking: large, 64.00
- Trailer adds to the length
  @ Hold a place: Ovemouth; Tarnsey; Thu 14 May; 17:50
  Add a car of 4.40 m, 1.60 m high, with a trailer of 1.60 m => middle, 38.00: 6.00 m in all
  Change the trailer to 1.70 m => large, 64.00
- ~Motorcycle pays the fixed fare
  @ Hold a place: Ovemouth; Tarnsey; Thu 14 May; 08:15
  Add a motorcycle of {length} m, 1.20 m high => It pays 11.00
  = length
  | 1.90
  | 2.60
- Length is read with comma and with point
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 17:50
  Add a car, length typed as {typed}, 1.60 m high => The booking says {read} m <comma-cuts-length>
  = typed | read
  |! 4,55 | 4.55
  | 4.55 | 4.55
  | 4,5 | 4.50
- ~Length that is none is refused
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 17:50
  Add a car, length typed as {typed} => “Write the length in metres, such as 4.50.”; no vehicle is in the booking
  = typed
  | four
  | -4
  | 4.555
- Van of 2.11 m is not placed on the car deck
  @ Hold a place: Ovemouth; Tarnsey; Fri 15 May; 10:40
  @ Add a vehicle: van; 4.90; 2.11
  Sign in as clerk and open the deck plan of that sailing => The van stands in a lane of the freight deck
- +Van of 2.10 m is placed on the car deck
  @ Hold a place: Ovemouth; Tarnsey; Fri 15 May; 14:20
  @ Add a vehicle: van; 4.90; 2.10
  Sign in as clerk and open the deck plan of that sailing => The van stands in C1
- Roof box counts for the height
  @ Hold a place: Ovemouth; Tarnsey; Fri 15 May; 17:50
  Add a car of 4.40 m; with its roof box it is 2.15 m high => “The car deck is 2.10 m high: this car cannot be placed there.”
- Freight of 9.01 m asks for a quote
  @ Hold a place: Ovemouth; Tarnsey; Fri 15 May; 08:15
  Add freight of 9.01 m, 3.80 m high => “Freight longer than 9 m asks for a quote: call the office.”
  Choose van in place of freight with the same length => “Longer than 9 m is freight: choose freight, or ask the office for a quote.”
## Pets and bicycles on board | 2x3 | Function | Agreed | 2.3/2 | Yusra Dahl
> Pets travel in the pet area, at most twelve a sailing, for 3.00 each; bicycles go on the rack, at most thirty, for 2.00 each. More than fits is refused with the number that is left. A guide dog is no pet and needs no place.
risk: Seldom full, and the crew finds room.
- Thirteenth pet is refused
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  Write 1 pet and press “Store” => “There are 0 places for pets left on this sailing.” <thirteenth-pet>
- Twelfth pet is accepted
  @ Hold a place: Ovemouth; Tarnsey; Thu 14 May; 14:20
  Write 12 pets and press “Store” => 12 pets stand in the fare for 36.00
- Bicycle rack that is full names what is left
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 17:50
  Write 1 bicycle and press “Store” => “There are 0 places for bicycles left; the next sailing may have more.”
- Pets and bicycles are charged by the piece
  @ Hold a place: Ovemouth; Tarnsey; Thu 14 May; 10:40
  Write {pets} pets and {bicycles} bicycles, press “Store” => The total is {total}
  = pets | bicycles | total
  | 1 | 0 | 3.00
  | 0 | 2 | 4.00
  | 2 | 3 | 12.00
- ?Guide dog needs no place
## Hold a place for 20 minutes | 4x4 | Function | Agreed | 2.3/2 | Mira Kell | HARB-231
> A place is held for 20 minutes from the first choice of a sailing. The clock counts on every page of the booking and is not begun anew by a reload, by leaving the page or by a declined card. What is not paid when it ends is free again for everybody, and the code says so. Paying at 19:59 keeps the place.
risk: Two parties with one place; complaints at the quay.
- !Hold ends after 20 minutes and frees the place
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  @ Add a traveller: Jens Holt; 1984-03-02
  @ Move the clock: 20
  Open the booking again => “The hold has ended and the place is free again. Choose a sailing anew.”
  Search from Ovemouth to Tarnsey on Wed 13 May => The 10:40 has 116 places again
- +Paying shortly before the end keeps the place
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  @ Add a traveller: Jens Holt; 1984-03-02
  On the test bench move the clock on by 19 minutes => The booking is held for another minute <hold-a-minute-short>
  @ Pay by card: 4000 0000 0000 0077
- Hold survives a reload of the page
  before: One window, no other tab of the same booking.
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  @ Move the clock: 5
  Open the booking and load it again => The clock goes on from about 15:00 <hold-begins-again>
- Clock of the hold is on the page of payment too
  @ Hold a place: Ovemouth; Low Skerrin; Wed 13 May; 16:10
  @ Add a traveller: Rut Aas; 1979-11-30
  Press “To payment” => The time that is left stands above the fare and counts down
- Booking given up frees its place at once
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 20:30
  @ Add a traveller: Rut Aas; 1979-11-30
  Press “Cancel the booking” => The receipt says cancelled and nothing is given back
  Search that day again => The 20:30 has 120 places
- ?Second hold by the same passenger
## Wait-list moves up when a place frees | 3x4 | Function | Draft | 2.4/3 | | HARB-233
> When a place frees on a full sailing, the first on its wait-list is offered it for two hours; after that the next. Who takes it pays the fare of the day on which they were put on the list.
risk: Without it full sailings leave with empty places.
## Booking for a group of ten or more | 2x4 | Function | Agreed | 2.4/1 | Yusra Dahl
> Ten or more travellers in one booking are a group and get 20 % off the passenger fare, each of them; nine are none. Who leaves the group before it is paid changes the fare of all.
risk: Schools and clubs notice each cent.
- +Group of nine is not offered the group fare
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  Add nine adults => The total is 81.00 and no line names a reduction <group-of-nine>
  Add a tenth adult => Each of the ten pays 7.20; the total is 72.00
- One traveller leaves the group and the fare is worked out again
  @ Hold a place: Ovemouth; Tarnsey; Thu 14 May; 17:50
  Add ten adults => The total is 72.00, group
  Take one of them out => The total is 81.00 and the reduction is gone
- Infant counts for the group and stays free
  @ Hold a place: Ovemouth; Tarnsey; Thu 14 May; 20:30
  Add nine adults and an infant born 2025-09-01 => The nine pay 7.20 each, the infant 0.00
- ?Group with two vehicles
## Change a booking to another sailing | 3x3 | Function | Agreed | 2.4/2 | Tobin Rask | HARB-236
> A paid booking moves to another sailing between the same ports, against the difference in fare, until its check-in closes. A dearer sailing charges the difference to the card that paid, a cheaper one gives it back. A vehicle goes along where the other sailing has a lane for it; otherwise nothing is changed.
risk: Money goes both ways, and a vehicle may stay behind.
- +Cheaper sailing gives the difference back
  @ Known state
  @ Look up a booking: TF-1001
  Move it to Wed 13 May, 20:30 => “Moved; 2.70 are paid back.”: the evening sailing is off-peak
  Open the bank’s test desk => TF-1001 has a charge of 18.00 and one of -2.70
- Dearer sailing charges the difference
  @ Known state
  Hold the 06:30 of Wed 13 May from Ovemouth to Tarnsey for one adult and pay by card => The receipt says 7.65, off-peak
  Move the booking to the 10:40 of that day => “Moved; 1.35 more were charged.”
- Change after check-in has closed is refused
  @ Known state
  On the test bench set the clock to Tue 12 May, 10:30 => The 10:40 leaves in ten minutes
  Look up TF-1007 and move it to the 14:20 => “Check-in of this sailing has closed; the booking can no longer be changed.” <change-after-cut-off>
- Same fare moves without a charge
  @ Known state
  Look up TF-1001 and move it to Wed 13 May, 14:20 => “Moved; nothing to pay.”
  Count the charges of TF-1001 at the bank’s test desk => There is one
- ?Vehicle longer than the new sailing can take
## Sell a place at the desk and at the quay | 2x4 | Function | Agreed | 2.3/2 | Mira Kell
> A clerk sells places from their own port; a place sold at the quay is marked so and is in no way less than others: it is told of delays and cancellations, and is on the list for the master. A clerk sees the bookings from their own port and no others.
risk: Places sold late are forgotten easily.
- Clerk sells a place from the own port
  @ Known state
  @ Sign in: clerk
  Under “Sell a place” choose Wed 13 May 10:40 OV–TA and press “Hold a place” => A booking opens, held for another 20:00
  Add Mia Lien, born 1990-01-01, and pay by card 4000 0000 0000 0077 => The receipt opens; the booking is in the list of the clerk
- +Clerk sees the bookings of the own port alone
  before: Nobody else is signed in on this build.
  @ Known state
  Sign in as clerk, sign out, sign in again, three times, and watch the list from the first moment => Only bookings from Ovemouth are shown, at no moment those of Tarnsey <other-port-for-a-moment>
  Sign in as tarnis => Only TF-1006 from Tarnsey is listed
- List of bookings can be read to its last row on a tablet
  before: The window is as large as a tablet: 820 by 1180.
  On the test bench look as WebKit, tablet => The bench says so
  @ Sign in: clerk
  Scroll to the end of the list => The last row can be read and the footer lies below it <footer-over-last-row>
`
