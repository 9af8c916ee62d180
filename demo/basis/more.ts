/** What came to the branches later, some of it not built yet: see `read-basis.ts` for how this is written. */
export const more = `
# Searching and booking | Booking
## A booking is found again by its code | 2x3 | Function | Agreed | 2.3/1 | Tobin Rask
> Whoever has the code of a booking finds it under “My booking”, however it is typed: large or small, with a blank before or behind. The page tells its state, who travels, and what happened to it and when. A code that nobody has is refused with the code.
risk: Codes are read from paper in the rain.
- Code is found however it is typed
  @ Known state
  Open “My booking”, write {typed}, press “Look it up” => “My booking TF-1001” opens; its state is paid
  = typed
  | TF-1001
  | tf-1001
- ~Code that nobody has is refused
  Open “My booking”, write TF-9998, press “Look it up” => “There is no booking TF-9998.”
- What happened stands on the page of the booking
  @ Known state
  Look up TF-1001 and move it to Wed 13 May, 14:20 => Under “What happened” a line says so, with the day and the time
## Booking on behalf of somebody else | 2x2 | Function | Draft | 2.4/3 |
> A passenger books for others and names who is told of delays. Until then whoever books is told, and nobody else.
risk: Rarely asked for.
# Fares and concessions | Fares
## Season ticket for commuters | 2x4 | Function | Draft | 2.4/3 |
> Who travels on ten days of a month pays for eight. Not agreed yet: whether a vehicle counts, and what an unused day is worth.
risk: The islands wait for it; nothing is built.
## Fares in two currencies | 1x3 | Rule | Dropped | 2.4/2 | Ansa Lind
> Fares were to be shown in the currency of each port. Dropped: all three ports take the same one since the spring.
risk: There is one currency; nothing can be wrong any more.
# Payment and refunds | Payment
## Payment by telephone at the office | 2x3 | Function | Draft | 2.4/3 | Piet Vonk
> The office takes a card by telephone for a held booking. The number is never written down, and the hold goes on for as long as the call does, at most 30 minutes.
risk: A card number read aloud.
# Deck plan | Deck plan
## Vehicles with a battery can be reached | 4x4 | Rule | Agreed | 2.4/3 | Tobin Rask | HARB-251
> A vehicle that drives by battery stands at the outer side of an outer lane, with 0.60 m to its neighbour, so that the crew reaches it with a hose. At most six of them sail together.
risk: A fire on the car deck; the harbour asks for it from the summer on.
# Check-in and boarding | Quay
## Ramp tells passengers where to wait | 2x2 | Interface | Draft | 2.4/3 |
> A board at the ramp names the lane a vehicle waits in and the minute it is called.
risk: The crew does it by hand today.
# Weather and rebooking | Weather
## Officer sees how many a cancellation meets | 2x4 | Function | Agreed | 2.4/3 | Mira Kell
> Before a sailing is cancelled its bookings stand beside it, so that the officer knows how many have to be told.
risk: Cancelling the wrong sailing is told to everybody at once.
- Bookings stand beside the sailing before it is cancelled
  @ Known state
  Sign in as officer and open “Weather” => The 10:40 of Wed 13 May to Tarnsey stands there with 3 bookings
# Accessibility and languages | Access
## Pages work where scripts do not | 2x3 | Quality | Agreed | 2.4/2 | Ansa Lind
> On an old telephone or behind a strict filter no script runs. Searching, booking and paying work all the same; only the counting of the clock stands still.
risk: One in fifty of the older passengers.
- Booking is made and paid without scripts
  Switch scripts off in the browser, hold the 14:20 of Wed 13 May to Tarnsey and add one adult => The fare is 9.00
  Pay it by card 4000 0000 0000 0077 => The receipt opens; its state is paid
# Load and recovery | Platform
## Test bench for whoever tests | 2x2 | Function | Agreed | 2.3/1 | Piet Vonk
> Testers set everything to the same known state, set and move the clock, and choose what they look as. Each build has a state and a clock of its own, so that two of them can be compared.
risk: Costs testers time, and passengers nothing.
- Known state is the same each time
  @ Known state
  Cancel TF-1001 on its page => Its state is cancelled
  Press “Set everything to the known state” again and look TF-1001 up => Its state is paid
- Clock that was set stands until it is let run
  On the test bench set the clock to Tue 12 May, 10:24 and look at it again after a minute => It reads 10:24 still
  Press “Let the clock run” => “The clock runs.” stands there
- Two builds keep their states apart
  Cancel TF-1002 on build 2.3.4 and look it up on 2.3.2 => On 2.3.4 it is cancelled, on 2.3.2 it is paid
## Log of what staff did | 2x3 | Function | Draft | 2.4/3 |
> Who of the staff did what to which booking is kept for a year and can be looked up by the code.
risk: Asked for after each complaint.
`
