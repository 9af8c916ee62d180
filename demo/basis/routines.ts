/**
 * Steps that many cases begin with. `#` names a routine and what it asks for; each line below is a step: what is done, `=>`, what is
 * seen. What stands in braces is given by the case.
 */
export const routines = `
# Known state
Open the test bench of the build under test => Its number stands at the foot of the page
Press “Set everything to the known state” => The clock reads Tue 12 May 2026, 09:00
# Sign in | who
Open “Sign in”, write {who} and the password ferry => The page of {who} opens; the name stands at the foot
# Find sailings | from, to, day
Open “Find a sailing”, choose {from}, {to} and {day}, press “Search” => The sailings of {day} from {from} to {to} are listed by departure
# Hold a place | from, to, day, time
Search from {from} to {to} on {day} => The sailings of that day are listed
Choose the sailing at {time} => A booking with a code opens and is held for another 20:00
# Add a traveller | name, born
Under “Who travels” write {name} and {born}, press “Add” => {name} stands in the list
# Add a vehicle | kind, length, height
Under “Vehicle” choose {kind}, write {length} m long and {height} m high, press “Store” => The {kind} stands in the booking
# Pay by card | card
Press “To payment”, write card {card}, press “Pay” => The receipt opens and the state is paid
# Move the clock | minutes
On the test bench move the clock on by {minutes} minutes => The clock at the top of the page has moved by {minutes} minutes
# Cancel a sailing | sailing
Sign in as officer and open “Weather” => The next sailings are listed with their bookings
Press “Cancel it” beside {sailing} => It says how many bookings are told
# Look up a booking | code
Open “My booking”, write {code}, press “Look it up” => The booking {code} opens with its state
# See the state | state
Look the booking up by its code under “My booking” => Its state is {state}
# Cancel a booking
Open the booking and press “Cancel the booking” => It says how much is given back
# Check in at the quay | time
Set the clock to Tue 12 May, {time}, sign in as quay and check the booking in for the 10:40 => “Checked in.” at {time}
# Close check-in | time
Set the clock to Tue 12 May, {time}, sign in as quay and press “Close check-in” for the 10:40 => It says how many are no-shows
# Read a code at the ramp
Read the code of the booking at the ramp of the 10:40 => On board: 1
# Let it sail | time
Set the clock to Tue 12 May, {time} and press “It has sailed” => It says how many bookings have sailed
# Move a booking
Look the booking up, move it to the 14:20 of the same day and back to the 10:40 => “Moved; nothing to pay.”, twice
# Refund after weather
Look the booking up and press “Refund the whole fare” => It says how much is given back
`
