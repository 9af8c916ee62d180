/** Payment and refunds: see `read-basis.ts` for how this is written. */
export const payment = `
# Payment and refunds | Payment
## Card is charged once | 5x5 | Rule | Agreed | 2.3/1 | Mira Kell | HARB-124
> A card is charged exactly once for a booking, whatever is pressed, reloaded, repeated or lost on the way. When the answer of the bank does not come, the charge is looked for before another is made. A declined card leaves the place held, and another can be tried as long as the hold goes on.
risk: Money of passengers; twice in the press last summer.
- !Card is charged once on a double tap
  before: The bank’s test desk is open beside; charges of other bookings are noted.
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  @ Add a traveller: Jens Holt; 1984-03-02
  Press “To payment”, write card 4000 0000 0000 0077, tap “Pay” twice within half a second => The receipt opens
  Count the charges of the booking at the bank’s test desk => There is one <double-tap-charges-twice>
- !Reload after paying does not charge again
  before: The bank’s test desk is open beside.
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  @ Add a traveller: Jens Holt; 1984-03-02
  @ Pay by card: 4000 0000 0000 0077
  Load the receipt again and, where the browser asks, send it once more => The receipt is the same
  Look the booking up at the bank’s test desk => One charge of 9.00 <reload-charges-again>
- +Back and pay again shows the paid booking
  Pay a booking for one adult by card => The receipt opens
  Go back in the browser and press “Pay” again => The receipt of the same booking; at the bank’s test desk is one charge
- +Lost answer of the bank is asked for again
  before: The bank’s test desk is open beside; card 4000 0000 0000 0119 loses its answer.
  @ Known state
  @ Hold a place: Ovemouth; Low Skerrin; Wed 13 May; 10:40
  @ Add a traveller: Rut Aas; 1979-11-30
  Pay by card 4000 0000 0000 0119 => “The bank did not answer. Ask again with the same card: nothing is charged twice.”
  Write the same card and press “Pay” again => The receipt opens
  Look at the bank’s test desk for this booking => One charge of 12.00
- Declined card leaves the place held
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 17:50
  @ Add a traveller: Rut Aas; 1979-11-30
  Pay by card 4000 0000 0000 0002 => “The bank declined this card. The place is held still: try another card.”
  Look the booking up => Its state is held <declined-frees-place>
- Second card can be tried within the hold
  Let card 4000 0000 0000 0002 be declined for a booking of one adult => The page of payment stands there still
  Pay by card 4000 0000 0000 0085 => The receipt opens; the bank has one charge, of •••• 0085
- ~Unknown card is refused before the bank is asked
  Pay a booking by card {card} => “The bank does not know this card. Check its number.”; the bank has no charge for it
  = card
  | 1234 5678 9012 3456
  | 4000
- ~Card number with and without blanks is the same
  Pay one booking by card 4000000000000077, another by 4000 0000 0000 0077 => Both are paid by •••• 0077
- Booking without anybody is not paid
  @ Hold a place: Ovemouth; Tarnsey; Thu 14 May; 06:30
  Press “To payment”, write card 4000 0000 0000 0077, press “Pay” => “Add somebody who travels first.”
- ?Bank answers after the hold has ended
## Vouchers, in whole or part | 3x4 | Function | Agreed | 2.4/1 | Yusra Dahl | HARB-127
> A voucher pays a booking in whole or in part; a card pays the rest. What is left of it stays usable until its last day, that day included. Blanks in the number do not matter. Used up, late, unknown and foreign ones are refused with the reason.
risk: Worth money to who holds one; the rest of a voucher is a promise.
- Voucher covers the whole fare
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  @ Add a traveller: Mona Li; 1992-08-19
  Pay by voucher TV44102207 => The receipt says voucher, 51.00 left on it <voucher-rest-lost>
- +Voucher covers part of the fare, the card the rest
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  @ Add a traveller: Mona Li; 1992-08-19
  Pay by voucher TV44102215 and card 4000 0000 0000 0077 => voucher 5.00, card 4.00
  Read the charge at the bank’s test desk => 4.00
- Voucher used up is refused
  Pay a booking by voucher TV44105550 => “This voucher is used up.”; the booking is held still
- Voucher on its last day is accepted
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Tue 12 May; 14:20
  @ Add a traveller: Mona Li; 1992-08-19
  Pay by voucher TV44109911, whose last day is today => The receipt opens; 11.00 are left on it <voucher-last-day>
- Voucher one day late is refused with its date
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Tue 12 May; 17:50
  @ Add a traveller: Mona Li; 1992-08-19
  Pay by voucher TV44100042 => “This voucher could be used until 2026-05-11.”
- ~Voucher number with blanks is understood
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 17:50
  @ Add a traveller: Mona Li; 1992-08-19
  Pay by voucher TV 4410 2207, typed with its blanks => The receipt opens <voucher-with-blanks>
- Rest of a voucher is shown after paying and can be used
  @ Known state
  Pay 9.00 of voucher TV44102207 for one adult to Tarnsey => The receipt says 51.00 left on it <voucher-rest-lost>
  Pay 12.00 by the same voucher for one adult to Low Skerrin => The receipt says 39.00 left on it
- Voucher of another company is refused
  Pay a booking by voucher NX20031177 => “This voucher is of another company.”
- Unknown voucher is refused
  Pay a booking by voucher TV00000000 => “There is no voucher TV00000000.”
- ?Two vouchers in one booking
## Refund when weather cancels | 4x5 | Function | Agreed | 2.3/2 | Mira Kell | HARB-130
> When the weather cancels a sailing, every paid booking on it may be refunded in full or moved free of charge. The money goes back the way it came: the card gets what the card paid, a voucher becomes a new voucher over the same amount. A booking is refunded once. What was moved is not refunded as well.
risk: Hundreds at once on the worst day of the year.
- !Weather cancel refunds the full fare
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Look up TF-1001 and press “Refund the whole fare” => “18.00 are given back.”; the state is refunded
- !Refund reaches the card that paid
  before: TF-1001 is paid by card •••• 0077, 18.00.
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Look up TF-1001 and press “Refund the whole fare” => The receipt says back by card •••• 0077 <refund-as-voucher>
  Look for TF-1001 at the bank’s test desk => It has -18.00
- Refund twice is refused
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Look up TF-1002, press “Refund the whole fare”, and do so again => “This booking was refunded already.” <refund-twice>
  Count the refunds of TF-1002 at the bank’s test desk => One, of -9.00
- Refund of a voucher gives a new voucher
  @ Known state
  Pay one adult on the 10:40 of Wed 13 May by voucher TV44102207 => The receipt opens
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Refund that booking => The receipt says back by voucher, with a new number, 9.00
- +Moved booking is not refunded as well
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Look up TF-1001 and rebook it to the 14:20 => “Moved; nothing to pay.”
  Look for “Refund the whole fare” => It is not offered
- Sailing that is not cancelled gives no refund of this kind
  Look up TF-1004 of Wed 13 May, 14:20 => Moving and cancelling are offered, no refund of the whole fare
- Refund is on the receipt
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Refund TF-1003 and open its receipt => It shows 9.00 paid, 9.00 given back, and the state refunded
- ?Refund after 30 days needs the office
- ?Refund list for the office adds up
## Refund of a cancelled booking | 3x4 | Rule | Agreed | 2.4/2 | Tobin Rask | HARB-238
> A passenger who cancels gets 100 % back up to seven days before departure, 50 % up to one day, then nothing. Days are 24 hours each, counted to the departure; the limit itself belongs to the larger share. The money goes to the voucher first, then to the account, then to the card.
risk: Passengers count the hours.
- +Cancel seven days before gives all back
  @ Known state
  Hold the 10:40 of Tue 19 May from Ovemouth to Tarnsey for one adult and pay by card => The receipt opens
  On the test bench set the clock to Tue 12 May, 10:40 and cancel the booking => “9.00 are given back.”
- +Cancel six days and 23 hours before gives half
  @ Known state
  Hold the 10:40 of Tue 19 May from Ovemouth to Tarnsey for one adult and pay by card => The receipt opens
  On the test bench set the clock to Tue 12 May, 11:40 and cancel the booking => “4.50 are given back.” <cancel-counts-days-up>
- Cancel at the limits of the shares
  @ Known state
  Hold the 10:40 of Tue 19 May from Ovemouth to Tarnsey for one adult and pay by card => The receipt opens
  Set the clock to {when} and cancel the booking => {back} are given back
  = when | back
  | Mon 18 May, 10:40 | 4.50
  | Mon 18 May, 10:41 | 0.00
  | Tue 19 May, 09:00 | 0.00
- Held booking that is cancelled costs nothing
  @ Hold a place: Ovemouth; Low Skerrin; Fri 15 May; 10:40
  Press “Cancel the booking” => “0.00 are given back.”; the bank has no charge
- Cancelled booking cannot be cancelled again
  Cancel TF-1005 and look it up => Neither moving nor cancelling is offered; the state is cancelled
- Voucher gets its part back before the card
  @ Known state
  Pay one adult on the 10:40 of Tue 19 May by voucher TV44102215 and card 4000 0000 0000 0077 => voucher 5.00, card 4.00
  Set the clock to Tue 12 May, 12:00 and cancel it => 4.50 are given back, all of it as a voucher
## Payment by account for companies | 3x4 | Function | Agreed | 2.4/3 | Piet Vonk | HARB-239
> Companies with an account are invoiced monthly, up to their limit; what would go above it is refused with what is left. A blocked account pays nothing.
risk: An invoice above the limit is not paid.
- Booking within the limit is invoiced
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  @ Add a traveller: Gro Fiske; 1980-01-01
  Pay by account A-22, which has 10.00 left => The receipt says account A-22, 9.00
  Read what is left for A-22 on the test bench => 1.00
- +Booking above the limit is refused
  @ Known state
  @ Hold a place: Ovemouth; Low Skerrin; Wed 13 May; 10:40
  @ Add a traveller: Gro Fiske; 1980-01-01
  Pay by account A-22, which has 10.00 left => “Skerrin Fish has 10.00 left this month, and this costs 12.00.” <account-above-limit>
- Blocked account pays nothing
  Pay a booking by account A-31 => “The account of Old Quay Works is blocked; call the office.”
- Unknown account is refused
  Pay a booking by account A-99 => “There is no account A-99.”
`
