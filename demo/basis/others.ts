/** Weather, access and the platform: see `read-basis.ts` for how this is written. */
export const others = `
# Weather and rebooking | Weather
## Cancel a sailing for weather | 3x5 | Function | Agreed | 2.3/2 | Mira Kell | HARB-160
> The duty officer, and nobody else, cancels a sailing; everybody who has a place on it is told at once, those sold at the quay too, each once and in their language. A cancelled sailing takes no booking. It can be taken back within ten minutes.
risk: Families wait on a quay in a storm.
- !Every passenger of a cancelled sailing is told
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Open “Messages” => TF-1001, TF-1002 and TF-1003 are told, TF-1003 too, which was sold at the quay <quay-sales-not-told>
- +Only the duty officer can cancel
  Sign in as {who} and open “Weather” => The sailings are listed without “Cancel it”
  = who
  | clerk
  | quay
- Cancelled sailing takes no booking
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Search from Ovemouth to Tarnsey on Wed 13 May => The 10:40 says that it is cancelled and cannot be chosen
- Cancel is taken back within ten minutes
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Move the clock on by {minutes} minutes and press “Take back” => {answer}
  = minutes | answer
  | 9 | It sails after all.
  | 11 | It was cancelled more than ten minutes ago; that stands now.
- Held booking is not told, and cannot be paid
  Hold a place on the 14:20 of Wed 13 May, let the officer cancel it => No message for that booking
- ?Second cancellation on one day
## Rebook in one step | 3x4 | Function | Agreed | 2.4/2 | Yusra Dahl | HARB-244
> A passenger of a cancelled sailing chooses another of that day or the next, of those with room for all of them, with nothing to pay. Their vehicle goes along.
risk: A fee here is a headline.
- +Rebooking costs nothing
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Look up TF-1001 and rebook it to the first sailing offered => “Moved; nothing to pay.” <rebooking-costs>
- Only sailings with room are offered
  @ Known state
  Book a pet with one adult on the 10:40 of Wed 13 May, pay, and let the officer cancel it => The booking says that it is cancelled
  Open the sailings it can be rebooked to => The 14:20, whose pet area is full, is not among them
- Vehicle goes with the passenger
  Pay for one adult and a car of 4.40 m on the 10:40 of Wed 13 May, cancel that sailing, rebook to the 17:50 => The car stands in C1 of the 17:50
- Rebooking twice keeps the last
  Cancel the 10:40 and then the 14:20 of Wed 13 May; rebook TF-1001 to the 14:20 between, to the 17:50 after => TF-1001 is on the 17:50 alone
## Messages go out once, in the passenger’s language | 2x4 | Interface | Agreed | 2.4/1 | Piet Vonk | HARB-246
> Messages go to the address of the booking, or are shown to the desk where there is none, in the language the booking was made in, each once.
risk: Two of them look like two sailings.
- No message is sent twice
  @ Known state
  @ Cancel a sailing: the 10:40 of Wed 13 May to Tarnsey
  Count the messages of TF-1001 => There is one <told-twice>
- Message in the passenger’s language
  Choose {language}, book one adult on the 14:20 of Wed 13 May, pay, and let the officer cancel it => The message begins “{begins}”
  = language | begins
  | Ovian | Vuoro on perutu
  | Skerric | Avgånge er avlyst
  | English | Your sailing is cancelled
## Delay is shown everywhere | 2x3 | Function | Agreed | 2.4/3 | Tobin Rask
> A delay that the quay sets is shown in the search, and moves what hangs on the departure.
risk: Passengers read it on their phones before the quay says so.
- Delay stands in the search
  Set the delay of the 14:20 of Tue 12 May to 25 minutes and search that day => “14:20 +25 min”
- ~Delay that is no number is refused
  Set the delay to {typed} => “Write a whole number.”
  = typed
  | -5
  | 1.5
# Accessibility and languages | Access
## Booking by keyboard and screen reader | 3x4 | Quality | Agreed | 2.4/1 | Ansa Lind | HARB-170
> All of a booking can be done by keyboard alone and is read out in a sensible order; what is refused is told where it stands, and the time that is left of a hold is told, not only shown.
risk: Required by law, and one passenger in twelve needs it.
- +Booking is done by keyboard alone
  before: The mouse is put away.
  On the test bench look as {engine}, desk => The bench says so
  Book one adult from Ovemouth to Tarnsey on Wed 13 May and pay, without the mouse => The receipt opens <sailing-needs-mouse>
  = engine
  | Chromium
  |! Gecko
- Time left of the hold is told, not only shown
  before: A screen reader runs.
  Hold a place and listen to it with a screen reader => It tells how long the place is held <hold-not-told>
- Refusal is read out where it stands
  before: A screen reader runs.
  Add a traveller without a name and listen => “Write a name.” is read as an alert, above the form
- Every field has its name
  before: A screen reader runs.
  Walk through the booking page with a screen reader => Each field is read with its label, each button with what it does
## Contrast and size of text | 2x2 | Quality | Agreed | 2.4/1 | Ansa Lind
> Text keeps a contrast of 4.5 to 1 and can be doubled in size without loss.
risk: Cheap to keep, dear to mend.
- Hint under the code can be read
  Open “My booking” and measure the hint under the field => At least 4.5 to 1 <hint-too-pale>
- Text at 200 % loses nothing
  Set the browser to 200 % and open the booking page => Nothing overlaps or is cut; the page scrolls down only
## Two languages, Ovian and Skerric | 3x3 | Quality | Agreed | 2.3/2 | Piet Vonk | HARB-174
> Everything a passenger reads exists in English, Ovian and Skerric, with ports, days and amounts as each language writes them. The chosen language stays over a sign-in. Long words break, and nothing runs into its neighbour.
risk: Half of the islands read Skerric at home.
- +Language stays over sign-in
  Choose Ovian at the foot of the page => The page is in Ovian
  @ Sign in: clerk
  Read the ways above => “Etsu vuoro” and “Omu varu”: Ovian still <language-lost-at-sign-in>
- Dates and amounts follow the language
  Choose {language}, hold the 10:40 of Wed 13 May to Tarnsey and add one adult => The fare is {fare} and the day {day} <skerric-amounts>
  = language | fare | day
  | English | 9.00 | Wed 13 May 2026
  | Ovian | 9,00 | 13. touku 2026
  |! Skerric | 9,00 | 13. mai 2026
- Long Skerric words do not run over
  On the test bench look as WebKit, {device}, and choose Skerric => The page is in Skerric
  Hold the 10:40 of Wed 13 May to Low Skerrin => Skerravåghamnen and the time of departure stand apart <skerric-runs-over>
  = device
  | phone
  | tablet
- No text is left in another language
  Choose {language} and open search, booking, payment, receipt and my booking => Every label is in {language}; staff pages are in English
  = language
  | Ovian
  | Skerric
- ~Ports are named as each language writes them
  Choose {language} and open the search => The ports are {ports}
  = language | ports
  | Ovian | Ovamuo, Tarnis, Alaskerri
  | Skerric | Åvemynne, Tarnsøy, Skerravåghamnen
## Assistance on board | 2x5 | Function | Agreed | 2.4/2 | Yusra Dahl
> Two wheelchair places a sailing are counted; a third is refused.
risk: Who is refused at the ramp cannot travel.
- Wheelchair places are counted
  Book two adults who need a place for a wheelchair on one sailing, then a third => “There is no place for a wheelchair left on this sailing.”
- ?Assistance asked for at the ramp
# Load and recovery | Platform
## First day of summer sales | 3x5 | Quality | Agreed | 2.4/3 | Piet Vonk | HARB-180
> 2 000 people search and 300 book at once; an answer takes at most two seconds, and no place is sold twice.
risk: The day that pays the winter.
- +Bookings at the same moment keep their places apart
  before: Nobody else uses this build; two wheelchair places are free.
  @ Known state
  Send twenty bookings for a wheelchair place on the 10:40 of Wed 13 May at the same moment to the interface for machines => Two are held, eighteen are refused <overbooked-under-load>
- Search answers within two seconds under load
  Send 200 searches at once to the interface for machines and note the slowest => Below two seconds
- ?Queue in front of the sale
## Signing in | 3x5 | Function | Agreed | 2.3/1 | Piet Vonk
> Staff sign in with their name and password and land on their own page: the clerk at the bookings, the quay at the next departure, the officer at the weather. A wrong password is refused without saying what was wrong.
risk: Without it nobody works.
- !Staff sign in and land on their page
  Sign in as {who} with the password ferry => {page} opens <nobody-signs-in>
  = who | page
  | clerk | Bookings from OV
  | tarnis | Bookings from TA
  | quay | Quay
  | officer | Weather
- Wrong password is refused
  Sign in as {who} with the password {password} => “That name and password do not belong together.”
  = who | password
  | clerk | fery
  | nobody | ferry
- Staff pages ask for a sign-in
  Open the address of {page} without signing in => The sign-in opens in its place
  = page
  | Bookings
  | Quay
  | Deck plan
## Recovery after a power failure | 2x5 | Quality | Draft | 2.4/3 | Piet Vonk
> After a power failure nothing that was paid is lost; service is back within ten minutes; held places are free again.
risk: Happens twice a winter.
- ?Paid booking survives a power failure
- ?Held places are free again after recovery
## Interface for machines | 2x3 | Interface | Agreed | 2.4/1 | Piet Vonk | HARB-182
> Travel agencies book by a small interface: a whole booking at one go or nothing, with the refusal in words.
risk: Agencies notice before we do.
- Whole booking at one go
  Send a booking of two adults and a car of 4.40 m on the 10:40 of Wed 13 May with a card => The answer has a code, the state paid and 47.00
- Booking that is refused leaves nothing
  Send a booking whose second traveller is born 2030-01-01 => It is refused in words, and the sailing has as many places as before
- ~Request that is no JSON is refused
  Send text that is no JSON => “This is no JSON.”
`
