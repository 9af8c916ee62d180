import { readBasis } from './read-basis.ts'

/** The spare-parts store of the ferries: see `read-basis.ts` for how this is written. */
const lines = `
# Parts | Parts
## A part is found by its number | 3x3 | Function | Agreed | 1.0/1 | Mira Kell
> A storekeeper finds a part by its whole number or by its first four digits at least; what was replaced leads to what replaces it.
risk: The wrong part on board costs a sailing.
- +Part is found by its whole number
  Write 4711-20 into “Find a part”, press Enter => One part: “Seal ring, bow door, 240 mm”
- Part is found by its first four digits
  Write 4711 into “Find a part”, press Enter => Three parts, the lowest number first: 4711-10, 4711-20, 4711-35
- Replaced part leads to its successor
  Write 3302-05 into “Find a part” => “Replaced by 3302-06 since March”; one click opens 3302-06
- ~Three digits are too few
  Write 471 into “Find a part” => “Write four digits at least.”
## A part shows what it fits | 2x4 | Function | Agreed | 1.0/1 | Mira Kell
> Each part names the ships and the places on board it fits, and the drawing it is on.
risk: Asked for before each docking.
- Ships a part fits are named
  Open 4711-20 => Tarnsey Maid and Skerrin Star are named, Ove is not
- Drawing of a part opens at the part
  Open 4711-20 and press its drawing => Sheet D-118 opens with the ring marked
- ~Part without a drawing says so
  Open 9001-01 => “No drawing; ask the shipyard.”
# Stock | Stock
## Stock never falls below nought | 3x5 | Rule | Agreed | 1.0/1 | Piet Vonk
> What is taken is counted off at once. More than is there cannot be taken, not even by two people at the same moment.
risk: A part that is sold twice is missing on board.
- !Taking the last part leaves nought
  Take 1 of 4711-20, of which 1 is there => In stock: 0
- !More than is there is refused
  Take 2 of 4711-35, of which 1 is there => “Only 1 is there.”; in stock: 1
- +Two storekeepers take the last part at once
  Take the last 3302-06 at two desks within a second => One has it; the other reads “Only 0 are there.”
- Part that comes back is counted on
  Bring back 1 of 4711-10 after taking 2 of 5 => In stock: 4
- ~Half a part is refused
  Take {typed} of 4711-10 => “Write a whole number from 1.”
  = typed
  | 0
  | 0.5
  | -1
## An order is placed before the last part is used | 4x4 | Rule | Agreed | 1.0/1 | Mira Kell
> Below its least number a part is put on the list of orders, once, with what is needed to reach its usual number.
risk: Delivery takes nine weeks.
- +Falling below the least number puts a part on the list
  Take 3 of 4711-10, of which 5 are there and at least 3 should be => It stands on the list of orders with 4
- At the least number nothing is ordered
  Take 2 of 4711-10, of which 5 are there and at least 3 should be => The list of orders does not have it
- Part stands on the list once
  Take 1 more of 4711-10 after it is on the list => One line, with 5 in place of 4
- Part that was ordered leaves the list
  Mark the line of 4711-10 as ordered => The list is shorter by one; the part says “ordered”
- ?Order is sent to the supplier of last time
## Stock is counted once a year | 2x3 | Function | Agreed | 1.0/2 | Piet Vonk
> A count is entered shelf by shelf; what differs is shown before it is stored, with its worth.
risk: The accounts need it in January.
- Difference is shown before it is stored
  Enter 4 for 4711-10, of which 5 should be there => “One less, worth 86.00”; nothing is stored yet
- Count without a difference stores at once
  Enter 5 for 4711-10, of which 5 are there => “As it should be.”
- ?Shelf that was left out is named
# Delivery | Delivery
## What arrives is checked against its order | 3x3 | Function | Agreed | 1.0/2 | Piet Vonk
> The number on the delivery note finds the order. Too many, too few and something else are each told, and each can be taken all the same.
risk: Errors of suppliers, one in thirty.
- +Delivery that is as ordered is taken with one press
  Scan note LN-2204 and press “Take all” => Order B-118 is complete; stock of 4711-10 rises by 4
- Too few leave the rest open
  Enter 3 of 4 for order B-119 => “1 is missing”; the order stays open with 1
- Too many are told
  Enter 5 of 4 for order B-120 => “1 more than ordered: take it or send it back?”
- ~Unknown note is refused
  Scan note LN-9999 => “There is no order for LN-9999.”
## Parts for a ship are packed together | 2x4 | Function | Agreed | 1.0/2 | Mira Kell
> A box holds what one ship has asked for, and its list says what is in it and what is missing.
risk: The ship sails whether the box is complete or not.
- List of a box names what is missing
  Pack 2 of 3 parts for Skerrin Star and print the list => Two lines, and “Missing: 3302-06”
- Box of one ship takes nothing for another
  Scan a part asked for by Ove into the box of Skerrin Star => “This is for Ove.”
- Packed box is closed by its weight
  Close the box with {weight} kg => {answer}
  = weight | answer
  | 24.9 | Closed.
  | 25.1 | Two people are needed: pack two boxes.
- ?Box is handed over on the quay
# Access | Access
## Who may take what | 2x5 | Rule | Agreed | 1.0/1 | Mira Kell
> Storekeepers take and bring back, the office orders, everybody looks. Parts worth more than 1 000 need a second name.
risk: Engines parts are worth a car.
- +Office cannot take parts
  Sign in as office and open 4711-20 => “Take” is not offered
- !Part worth more than 1 000 needs a second name
  Take 1 of 8800-01 (1 240.00) as a storekeeper => “Who takes it with you?”; without a name nothing is taken
`
export const depotBasis = readBasis(lines)
