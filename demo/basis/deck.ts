/** Deck plan: see `read-basis.ts` for how this is written. */
export const deck = `
# Deck plan | Deck plan
## Lane metres are never exceeded | 5x5 | Rule | Agreed | 2.3/1 | Mira Kell | HARB-140
> The lengths of the vehicles in a lane, and 0.30 m between each two of them, never exceed the metres of the lane: 24.00 m for C1 to C3, 36.00 m for F1 to F3, 12.00 m for motorcycles. A centimetre counts. A trailer stands behind its car in the same lane. A lane that is closed takes nobody. A vehicle goes into the first lane that has room and may take it, in the order C1, C2, C3 for cars and F2, F1, F3 for freight.
risk: A vehicle that does not fit stops the loading and the sailing is late.
- !Lane metres: last car fits exactly
  before: The deck plan of the sailing is open beside, signed in as clerk.
  @ Known state
  Book four cars of 5.00 m, 800 kg each, on the 10:40 of Wed 13 May to Tarnsey => All four stand in C1
  Book a fifth car of 2.80 m, 800 kg => It stands in C1 and 0.00 m are left there
- !Car one centimetre too long goes to the next lane
  before: The deck plan of the sailing is open beside, signed in as clerk.
  @ Known state
  Book four cars of 5.00 m, 800 kg each, on the 10:40 of Wed 13 May to Tarnsey => All four stand in C1; 3.10 m are left
  Book a car of 2.81 m, 800 kg => It stands in C2 <lane-rounds>
  Read what is left of C1 => 3.10 m
- +Gap of 0.3 m between vehicles is kept
  @ Known state
  Book two cars of 4.40 m on the 10:40 of Wed 13 May to Tarnsey => Both are taken
  Sign in as clerk and read the free metres of C1 => 14.90 <last-gap-left-out>
- +Trailer and car stay in one lane
  @ Known state
  Book a car of 4.40 m, 1 800 kg, with a trailer of 2.00 m on the 10:40 of Wed 13 May to Tarnsey => It is taken
  Sign in as clerk and open the deck plan of that sailing => Car and trailer stand in C1, 17.60 m are left; C2 is empty <trailer-in-another-lane>
- Lane closed for repair takes no car
  @ Known state
  Sign in as clerk, open the deck plan of the 10:40 of Wed 13 May and press “close it” beside C1 => It says “open it” there
  Book a car of 4.40 m on that sailing => It stands in C2 <closed-lane-taken>
- Sum is worked out again when a vehicle leaves
  Book two cars of 4.40 m on one sailing and cancel the first => C1 has 19.60 m
  Book a car of 4.40 m again => C1 has 14.90 m
- ~Plan shows free metres per lane
  Sign in as clerk and open the deck plan of a sailing without vehicles => C1, C2, C3: 24.00; F1, F2, F3: 36.00; M: 12.00
- Motorcycles share a lane of their own
  Book three motorcycles of 2.20 m on one sailing => All stand in M; 4.80 m are left there
- Coach takes the middle lane of the freight deck only
  Book a coach of 9.00 m, 3.40 m high => It stands in F2
  Book three more coaches of 9.00 m on the same sailing => The last of them is refused: no lane has room
- Vehicle too high for the car deck stands on the freight deck
  Book a {kind} of {length} m, {height} m high => It stands in {lane}
  = kind | length | height | lane
  | van | 4.90 | 2.10 | C1
  | van | 4.90 | 2.11 | F2
  | camper | 6.00 | 2.90 | F2
## Weight is spread over the deck | 4x5 | Rule | Agreed | 2.4/1 | Tobin Rask | HARB-241
> No side carries more than 55.0 % of the weight, the bow never more than 40.0 %, the ship itself counted with 20 t a side and 12 t in the bow. A vehicle that would break it goes to another lane, or aft. Where the weight is not told, the heaviest of its band counts: 2 t, 3.5 t, 12 t, 40 t. Shares are worked out anew whenever a vehicle comes or leaves.
risk: A ship that lists is stopped by the harbour.
- !Heavy freight is not put on one side
  before: The sailing has no vehicle yet: 0.00 t on the plan.
  @ Known state
  Book freight of 8.00 m, 3.00 m high, 9 000 kg, four times on the 14:20 of Wed 13 May => The first four stand in F2
  Book two more of them => One stands in F1, one in F3; no side has more than 55 %
- +Side at 55.0 % is accepted, above it another lane is taken
  @ Known state
  Book a car of 4.40 m, 2 000 kg, on the 10:40 of Wed 13 May => It stands in C1; port carries 52.4 %
  Book a second one of 3 000 kg => It stands in C2, since port would carry 55.6 %
- Shares are worked out again when a vehicle has left
  @ Known state
  Book cars of 4.40 m with 2 000 kg and 3 000 kg on the 10:40 of Wed 13 May, then cancel the second => Port carries 52.4 %
  Book a car of 4.40 m with 2 500 kg => It stands in C2; port would carry 55.1 % <side-not-worked-out-again>
- Bow limit moves freight aft
  @ Known state
  Book freight of 8.00 m, 3.00 m high, 7 000 kg, on the 10:40 of Wed 13 May => It stands aft in F2; the bow carries 25.5 % <bow-limit-loose>
  Book freight of 6 600 kg, as long and high, on the 14:20 => It stands in the bow, which carries 39.9 %
- Weight that is not told counts as the heaviest of its band
  Book a {kind} of {length} m without a weight => The deck plan says {weight} kg
  = kind | length | weight
  | car | 4.40 | 2000
  | car | 5.80 | 3500
  | motorcycle | 2.20 | 400
- ?Ballast after unloading in between
## Dangerous goods are kept apart | 4x5 | Rule | Agreed | 2.4/2 | Tobin Rask | HARB-242
> Vehicles with dangerous goods stand 6.00 m apart in a lane and never in F2, beside the stairs of the passengers. Class 1 and class 3 never sail together. Without its declaration no such vehicle is taken.
risk: Lives, and the licence of the line.
- !Class 1 and class 3 are not placed on one sailing
  @ Known state
  Book a van of 5.00 m, 2.50 m high, 1 000 kg, class 1, declared, on the 10:40 of Wed 13 May => It is taken
  Book the same with class 3 on that sailing => “Goods of class 1 and of class 3 never sail together. Choose another sailing.” <class-1-with-class-3>
- !Dangerous goods are kept apart by 6 m
  before: Both vans have their declarations.
  @ Known state
  Book two vans of 5.00 m, 2.50 m high, 1 000 kg, class 2, declared, on the 10:40 of Wed 13 May => Both stand in F1
  Read the free metres of F1 => 20.00 <goods-close-together>
- +Dangerous goods stand away from the stairs
  @ Known state
  Book a van of 5.00 m, 2.50 m high, 1 000 kg, class 2, declared, on the 14:20 of Wed 13 May => It is taken
  Open the deck plan of that sailing => The van stands in F1; F2, beside the stairs, is empty <goods-at-the-stairs>
- Missing declaration refuses the vehicle
  Add a van with goods of class 2 and leave “declaration is there” empty => “Dangerous goods need their declaration; the vehicle cannot be taken without.”
- Class 2 sails with either
  Book vans of class {first} and class 2 on one sailing => Both are taken
  = first
  | 1
  | 3
- Classes are kept apart per sailing, not per day
  Book a van of class 1 on the 10:40 and one of class 3 on the 14:20 of Wed 13 May => Both are taken
- ?Declaration in Skerric is accepted
## Last on, first off | 2x3 | Rule | Agreed | 2.4/1 | Yusra Dahl
> The order of leaving lists vehicles for the nearer port first, and of these the last on before the others, so that nobody has to be moved.
risk: Costs minutes at the ramp.
- Order of leaving names the last on first
  Book three cars on one sailing to Tarnsey and open its deck plan => The order of leaving is the other way round than they were booked
- ?Order of leaving is printed for the crew
## Deck plan on paper for the crew | 2x2 | Interface | Draft | 2.4/3 | Yusra Dahl
> The plan prints on one page, with the names of the lanes and the places of dangerous goods, and can be read without colours.
risk: The crew has the plan on the screen too.
- ?Deck plan prints on one page
- ?Plan can be read in grey
`
