/** Check-in and boarding: see `read-basis.ts` for how this is written. */
export const quay = `
# Check-in and boarding | Quay
## Check-in closes at the cut-off | 4x4 | Rule | Agreed | 2.3/2 | Tobin Rask | HARB-150
> Check-in closes 30 minutes before departure with a vehicle and 15 minutes on foot; a bicycle counts as on foot. The second itself is still in time. A delay moves the cut-off by as much. Who comes late is told when it closed.
risk: Passengers stand before a closed gate, rightly or not.
- !Check-in closes at 30 minutes with a vehicle
  @ Known state
  Hold the 14:20 of Tue 12 May for one adult with a car of 4.40 m and pay by card => The receipt opens
  Set the clock to {when}, sign in as quay and check the booking in => {answer}
  = when | answer
  | 13:50:00 | Checked in.
  | 13:50:01 | Check-in closed at 13:50.
- +Foot passenger at 15:00 is accepted, a second later refused
  before: TF-1007 travels on foot on the 10:40 of Tue 12 May.
  @ Known state
  Set the clock to {when}, sign in as quay and check TF-1007 in for the 10:40 => {answer}
  = when | answer
  | 10:25:00 | Checked in.
  | 10:25:01 | Check-in closed at 10:25.
- Delay of the sailing moves the cut-off
  @ Known state
  Sign in as quay and set the delay of the 10:40 to 40 minutes => “The delay is set.”
  Set the clock to Tue 12 May, 10:50 and check TF-1007 in => “Checked in.” <cut-off-ignores-delay>
- Time until the cut-off is shown for both
  @ Known state
  Sign in as quay and open the 10:40 of Tue 12 May => On foot it closes in 85:00, with a vehicle in 70:00, and both count down with each look
- Bicycle counts as on foot
  Pay for one adult and one bicycle on the 14:20 of Tue 12 May and set the clock to 14:00 => Check-in takes the booking
- Unpaid booking is not checked in
  Hold the 14:20 of Tue 12 May for one adult without paying and check it in at the quay => “This booking is held; only a paid one is checked in.”
## Boarding by code at the ramp | 3x4 | Function | Agreed | 2.4/1 | Yusra Dahl | HARB-152
> The ramp reads the code of a booking and lets on board who is checked in for this sailing, each code once. A code of another sailing is refused with its time. What a reader has read without network is sent later and counts once as well.
risk: The count on board is what the rescue goes by.
- +Code read twice counts once
  before: Nobody is on board of the 10:40 yet.
  @ Known state
  Sign in as quay, check TF-1007 in and read its code at the ramp of the 10:40 twice => The second time: “TF-1007 is on board already.”; on board: 1
- Code of another sailing is refused with its time
  @ Known state
  Pay for one adult on the 14:20 of Tue 12 May and check the booking in at the quay => “Checked in.”
  Read its code at the ramp of the 10:40 => “This code is for the 14:20, not for this sailing.” <other-sailing-boards>
- Reader without network keeps its count
  @ Known state
  Sign in as quay and check TF-1007 in => “Checked in.”
  Under “Read without network” send TF-1007 TF-1007 => On board: 1 <offline-counts-twice>
- !Held booking is not let on board
  @ Known state
  Hold the 10:40 of Tue 12 May for one adult without paying => It is held for another 20:00
  Sign in as quay and read its code at the ramp of the 10:40 => “This booking is held; it has to be checked in before it goes on board.” <held-is-boarded>
- Unknown code is refused
  Read TF-9999 at the ramp => “There is no booking TF-9999.”
- Code typed small and with blanks is understood
  Check TF-1007 in, typed as {typed} => “Checked in.”
  = typed
  | tf-1007
  | TF-1007 with a blank before it
## No-show frees the place | 3x3 | Function | Agreed | 2.4/2 | Tobin Rask
> Who is paid and not checked in when check-in has closed is a no-show; the places are free. A no-show gets nothing back.
risk: Empty places on full sailings.
- +No-show frees the place
  @ Known state
  Set the clock to Tue 12 May, 10:26, sign in as quay and press “Close check-in” for the 10:40 => “Check-in is closed: 1 no-shows.”
  Look up TF-1007 => Its state is no-show; nothing can be changed
- Nobody becomes a no-show before the cut-off
  @ Known state
  Set the clock to Tue 12 May, 10:20 and press “Close check-in” for the 10:40 => “Check-in is closed: 0 no-shows.”
- ?Late arrival is booked on the next sailing
## State of a booking follows its path | 3x5 | Rule | Agreed | 2.3/1 | Ansa Lind | HARB-155
> Held, paid, checked in, boarded, sailed, in this order; cancelled, refunded, no-show and lapsed leave that path only where it says. A booking tells on its page what happened to it and when.
risk: Everything else hangs on the state.
- !Paid booking goes through to sailed
  @ Known state
  Sign in as quay and check TF-1007 in, then read its code at the ramp => On board: 1
  Set the clock to Tue 12 May, 10:40 and press “It has sailed” => “1 bookings have sailed.”; TF-1007 is sailed
- Checked-in booking is cancelled with what it is due
  Check TF-1002 in at the quay of the 10:40 of Wed 13 May and cancel it on its page => 4.50 are given back; the state is cancelled
- Sailed booking cannot be changed
  Take TF-1007 through to sailed and look it up => Neither moving nor cancelling is offered
- Refunded booking cannot be paid again
  Refund TF-1003 after a weather cancellation and open its page of payment => The receipt is shown in its place
- Every change of state is on the page of the booking
  Check TF-1007 in, read its code at the ramp and look it up => held, paid, checked in and boarded stand there with their times
- Sailing does not leave before its time
  Press “It has sailed” for the 14:20 of Tue 12 May at 09:00 => “It leaves at 14:20.”
## Passenger list for the master | 2x5 | Function | Agreed | 2.3/1 | Mira Kell | HARB-158
> The master gets the list of all persons on board, infants too, each once, by name, with what they need. It can be opened at any time and is right at that moment.
risk: The rescue reads this list.
- +List holds every boarded person once
  Board TF-1007 and a booking of two adults on the 10:40 of Tue 12 May and open the list => Three names, each once, by the alphabet
- Infants are on the list
  @ Known state
  Pay for an adult and Little Lund, born 2025-09-01, on the 10:40 of Tue 12 May, check in and board => On board: 2
  Open the list for the master => Little Lund is on it <infants-not-listed>
- Needs are marked on the list
  Pay for an adult who needs a place for a wheelchair, check in and board => The list says wheelchair beside the name
- Who is checked in and not on board is not on the list
  Check TF-1007 in without reading its code at the ramp => The list is empty
`
