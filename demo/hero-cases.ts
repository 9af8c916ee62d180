import type { VersionContent } from '#core/cases/steps.ts'

const steps = (lines: readonly (readonly [action: string, expected: string, data?: string])[]) =>
  lines.map(([action, expected, data = '']) => ({ id: null, action, expected, data }))

/** Cases written out in full, with parameters and data rows. */
export const heroCases: Readonly<Record<string, VersionContent>> = {
  'Car of 4.51 m pays the middle band': {
    preconditions: 'The fare table of this summer is in force. <strong>No concession</strong> is given.',
    steps: steps([
      ['Sign in as a clerk', 'The clerk’s first page opens'],
      [
        'Open a new booking for <strong>two adults</strong>',
        'The fare reads 24.00',
        'Ovemouth to Low Skerrin, tomorrow 10:40',
      ],
      ['Add a vehicle of length {length} m', 'The vehicle is in the booking'],
      [
        'Read the fare shown for the vehicle',
        'The fare is {fare} and the band reads {band}. <mark data-tone="warn">Do not store the booking.</mark>',
      ],
      ['Change the length to 4.50 m', 'The band reads up to 4.5 m'],
      ['Read the fare again', 'The fare is 29.00'],
      ['Leave without storing the booking', 'The place is free again'],
    ]),
    parameters: ['length', 'fare', 'band'],
    rows: [
      { length: '4.51', fare: '38.00', band: 'up to 6 m' },
      { length: '5.20', fare: '38.00', band: 'up to 6 m' },
      { length: '6.00', fare: '38.00', band: 'up to 6 m' },
    ],
  },
  'Child on the fourth birthday pays the child fare': {
    preconditions: 'A sailing is open on the day asked for.',
    steps: steps([
      ['Open a new booking for one adult', 'The fare reads 12.00'],
      ['Add a passenger born on {born}', 'The passenger is shown as {band}'],
      ['Read the fare of that passenger', 'It is {fare}'],
    ]),
    parameters: ['born', 'band', 'fare'],
    rows: [
      { born: 'four years before the sailing', band: 'child', fare: '6.00' },
      { born: 'four years and a day before', band: 'child', fare: '6.00' },
      { born: 'a day less than four years before', band: 'infant', fare: '0.00' },
    ],
  },
  'Card is charged once on a double tap': {
    preconditions: 'The bank’s test desk is open beside.',
    steps: steps([
      ['Hold a place on the 10:40 to Low Skerrin', 'The hold clock starts at 20:00'],
      ['Go to payment and fill in the test card', 'The amount is 57.00', 'card 4000 0000 0000 0077'],
      ['Tap Pay twice within half a second', 'The button is grey after the first tap'],
      ['Look at the bank’s test desk', 'There is one charge of 57.00'],
      ['Look at the booking', 'It is paid, once'],
    ]),
    parameters: [],
    rows: [],
  },
}
