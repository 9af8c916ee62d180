/** Fares and concessions: see `read-basis.ts` for how this is written. */
export const fares = `
# Fares and concessions | Fares
## Largest reduction wins | 4x5 | Rule | Agreed | 2.4/1 | Ansa Lind | HARB-212
> Where several reductions apply to one passenger, only the largest is given; they never add up. In order: islander 50 %, group 20 %, return within three days 20 %, off-peak 15 %; of equal ones the first of this list is named. Nobody who pays pays less than 3.50. Infants are free whatever applies. The vehicle has a reduction of its own and never the one of a group.
risk: Four reductions in any mixture; each wrong one is money, and the office finds it in the accounts only.
- !Islander on an off-peak sailing gets one reduction
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 06:30
  Add Orla Tarn, born 1984-03-02, with island card TA-1001 => Her line says islander, −4.50, and 4.50: not off-peak too
  Pay by card and open the receipt => The receipt names islander for the same amount <receipt-names-second>
- +Group of ten with islanders: each gets the larger one
  @ Hold a place: Ovemouth; Low Skerrin; Thu 14 May; 10:40
  Add nine adults without a card and one with island card TA-1001 => The nine pay 9.60 each (group), the islander 6.00
  Read the total => 92.40
- +Return within three days beats off-peak
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 20:30
  @ Add a traveller: Jorun Eide; 1984-03-02
  Choose the return on Thu 14 May, 15:40, and press “Store” => Both ways say return and 7.20: the evening sailing does not say off-peak
- Equal reductions name the first of the list
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Add ten adults and choose the return on Thu 14 May, 11:35 => Every line says group, none says return <equal-names-last>
  Read the amount of one of them => 7.20 each way
- No reduction goes below the lowest fare
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  Add Eli Tarn, born 2016-01-01, with island card TA-1002 => Eli pays 3.50, not 2.25 <below-lowest-fare>
- Infant stays free under any reduction
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 06:30
  Add Ivo Tarn, born 2025-02-01, with island card LS-2001 => infant, 0.00, and no reduction is named
- Reduction on the vehicle is separate from the passengers
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 06:30
  Add one adult and a car of 5.20 m => The adult pays 7.65, the car 32.30: both off-peak
- Islander pays the small band for a vehicle at most
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 14:20
  Add Orla Tarn, born 1984-03-02, with island card TA-1001, and a {kind} of {length} m => The vehicle costs {fare}
  = kind | length | fare
  | car | 4.40 | 29.00
  | car | 5.80 | 29.00
  | motorcycle | 2.10 | 11.00
- Group fare is not given to the vehicle
  @ Hold a place: Ovemouth; Tarnsey; Fri 15 May; 14:20
  Add ten adults and a camper of 6.00 m, 2.90 m high => The ten pay 7.20 each, the camper 38.00
- Senior with an island card: the larger counts
  @ Hold a place: Ovemouth; Low Skerrin; Fri 15 May; 16:10
  Add Alva Berg, born 1950-06-01, with island card LS-2001 => senior, islander: 4.50 in place of 9.00
- ~Reduction disappears when its reason is taken out
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Add one adult, choose the return on Thu 14 May, 15:40 => Both ways cost 7.20
  Choose no return and store it => The way out costs 9.00 and no reduction is named
- Rules of the fare table, one by one
  Work through the decision table of the drafting table, rule by rule, on one sailing each => Each rule gives the reduction it names
- ?Reductions of a booking that was sold in another year
## Islander concession | 3x4 | Rule | Agreed | 2.3/1 | Ansa Lind | HARB-118
> Holders of an island card pay half the passenger fare; a card of any of the islands counts everywhere, from its first to its last day, for its holder alone. A card that has ended is refused with its last day, an unknown number as unknown.
risk: The islands are promised this by law.
- +Valid island card halves the fare
  @ Known state
  @ Hold a place: Ovemouth; Low Skerrin; Wed 13 May; 10:40
  Add Orla Tarn, born 1984-03-02, with island card TA-1001 => Her line says islander and 6.00
- +Expired island card is refused with its date
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Add Per Tarn, born 1984-03-02, with island card TA-1003 => “Island card TA-1003 ended on 2026-04-30.”; he is not in the list <expired-card-taken>
- Card of another island is accepted
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Add Siv Skerrin, born 1971-07-07, with island card LS-2001 => She is in the list and pays 4.50 <other-island-refused>
- Card of a child covers the child only
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 17:50
  Add a child born 2016-01-01 with island card TA-1002 and an adult without => The child pays 3.50, the adult 9.00
- ~Unknown card number is refused
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 17:50
  Add an adult with island card {card} => “There is no island card {card}.”
  = card
  | TA-9999
  | LS-1001
- Island card on its last day
  On the test bench set the clock to 2026-12-30, 09:00 => The clock reads Wed 30 Dec 2026
  Hold the 10:40 of 2026-12-31 from Ovemouth to Tarnsey and add an adult with TA-1002 => The card is taken, 4.50
  Do the same for the 10:40 of 2027-01-01 => “Island card TA-1002 ended on 2026-12-31.”
- ?Card lost on the quay is replaced by the register
## Return within three days | 3x3 | Rule | Agreed | 2.3/2 | Yusra Dahl | HARB-119
> A return that leaves within 72 hours of the outward arrival costs 20 % less each way; exactly 72 hours still count. A return that is moved to later loses it, on both ways.
risk: The hour is easily off by one.
- +Return after exactly 72 hours gets the reduction
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  @ Add a traveller: Jorun Eide; 1984-03-02
  Choose the return on {return} and press “Store” => Each way costs {fare} <return-below-72>
  = return | fare
  |! Sat 16 May, 11:35 | 7.20
  | Sat 16 May, 09:30 | 7.20
  | Sat 16 May, 15:40 | 9.00
- Return that sails before the outward arrival is refused
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Look through the returns that are offered => The first is the 11:35 of the same day, none is before the arrival
- Return in four days pays in full
  @ Hold a place: Ovemouth; Low Skerrin; Wed 13 May; 07:00
  @ Add a traveller: Jorun Eide; 1984-03-02
  Choose the return on Sun 17 May, 09:20 => Each way costs 12.00
- ?Outward delayed by weather keeps the reduction
## Off-peak sailings | 2x3 | Rule | Agreed | 2.3/1 | Yusra Dahl
> Sailings before 07:00 and after 20:00, from Monday to Thursday, cost 15 % less. The minute itself (07:00, 20:00) is no longer off-peak. Fridays, Saturdays and Sundays have none.
risk: A timetable changes rarely.
- Sailing at 07:00 is not off-peak
  @ Known state
  @ Hold a place: Ovemouth; Low Skerrin; Wed 13 May; 07:00
  @ Add a traveller: Hanne Moe; 1984-03-02
  Read the line of Hanne Moe => 12.00 and no reduction <seven-is-off-peak>
- Early and late sailings from Monday to Thursday are off-peak
  Hold the {time} from Ovemouth to Tarnsey on {day} and add one adult => The fare is {fare}
  = day | time | fare
  | Wed 13 May | 06:30 | 7.65
  | Wed 13 May | 20:30 | 7.65
  | Wed 13 May | 08:15 | 9.00
  | Mon 18 May | 06:30 | 7.65
- Friday evening pays in full
  @ Hold a place: Ovemouth; Tarnsey; Fri 15 May; 20:30
  @ Add a traveller: Hanne Moe; 1984-03-02
  Read the line of Hanne Moe => 9.00 and no reduction
- ?Public holiday counts as a Sunday
## Fare table is kept by the office | 2x4 | Function | Draft | 2.4/3 | Mira Kell
> The office changes fares from a day on. Bookings that were paid before keep their fare; two tables for one day are refused. The table is read by sailing day, not by booking day.
risk: Not built yet; a wrong first day would touch every booking.
- ?New fare holds from its first day at midnight
- ?Two tables for the same day are refused
## Receipt shows how the fare came about | 2x2 | Interface | Agreed | 2.4/1 | Tobin Rask | HARB-220
> Each line of a receipt names who or what travels with the band, the reduction that was given with its amount, and what is paid. The lines add up to the total; what paid is named with its last four digits only. The receipt is in the language of the reader.
risk: Read once, and by the office when somebody complains.
- Receipt adds up line by line
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 10:40
  Add two adults, a child born 2016-01-01, a car of 4.40 m and one pet => The total is 54.50
  Pay by card 4000 0000 0000 0077 and read the receipt => 9.00, 9.00, 4.50, 29.00 and 3.00 make 54.50; the card pays 54.50
- Reduction is shown by name on the receipt
  @ Known state
  @ Hold a place: Ovemouth; Tarnsey; Wed 13 May; 06:30
  Add Orla Tarn, born 1984-03-02, with island card TA-1001, and pay by card => The receipt says islander, −4.50 <receipt-names-second>
- Receipt in Ovian names the ports in Ovian
  @ Known state
  Choose Ovian at the foot of the page and open the receipt of TF-1001 => The ticket says Ovamuo and Tarnis <receipt-translates-twice>
  Read the amounts => They have a comma: 9,00
- ~Card number is never shown in full
  Open the receipt of TF-1001 => The card is •••• 0077
  Open the bank’s test desk => Every card shows its last four digits only
`
