import type { Language } from './builds.ts'
import type { Port } from './sailings.ts'

// Ovian and Skerric are invented. What passengers read exists in all three; the pages of the staff are in English.

const en = {
  findSailing: 'Find a sailing',
  from: 'From',
  to: 'To',
  day: 'Day',
  search: 'Search',
  departs: 'Departs',
  arrives: 'Arrives',
  places: 'Places',
  choose: 'Choose',
  noSailings: 'No sailing left on this day. The next one is',
  booking: 'Booking',
  travellers: 'Who travels',
  name: 'Name',
  born: 'Date of birth',
  islandCard: 'Island card',
  wheelchair: 'needs a place for a wheelchair',
  add: 'Add',
  remove: 'take out',
  vehicle: 'Vehicle',
  extras: 'Pets and bicycles',
  pets: 'Pets',
  bicycles: 'Bicycles',
  back: 'Return',
  noReturn: 'no return',
  fare: 'Fare',
  total: 'Total',
  reduction: 'reduction',
  toPayment: 'To payment',
  timeLeft: 'Held for another',
  payment: 'Payment',
  card: 'Card number',
  voucher: 'Voucher',
  account: 'Company account',
  pay: 'Pay',
  receipt: 'Receipt',
  myBooking: 'My booking',
  code: 'Code of the booking',
  codeHint: 'It is on your receipt and begins with TF.',
  look: 'Look it up',
  change: 'Move to another sailing',
  cancel: 'Cancel the booking',
  refund: 'Refund the whole fare',
  rebook: 'Rebook free of charge',
  signIn: 'Sign in',
  signOut: 'Sign out',
  password: 'Password',
  cancelledForWeather: 'Your sailing is cancelled because of the weather',
  store: 'Store',
}
export type Words = typeof en

const ov: Words = {
  findSailing: 'Etsu vuoro',
  from: 'Osta',
  to: 'Onne',
  day: 'Paivo',
  search: 'Etsu',
  departs: 'Lahdu',
  arrives: 'Tulu',
  places: 'Sijot',
  choose: 'Valu',
  noSailings: 'Ei vuoro talla paivo. Seuru on',
  booking: 'Varu',
  travellers: 'Kulkerit',
  name: 'Nimo',
  born: 'Syntupaivo',
  islandCard: 'Saarukorto',
  wheelchair: 'tarvu pyoratuolo sija',
  add: 'Lisu',
  remove: 'ota pois',
  vehicle: 'Ajonu',
  extras: 'Elut ja pyorat',
  pets: 'Elut',
  bicycles: 'Pyorat',
  back: 'Paluo',
  noReturn: 'ei paluo',
  fare: 'Hinto',
  total: 'Yhtu',
  reduction: 'alennu',
  toPayment: 'Maksune',
  timeLeft: 'Pidetu viela',
  payment: 'Maksu',
  card: 'Kortonumo',
  voucher: 'Lahjukorto',
  account: 'Yritutilo',
  pay: 'Maksu nyt',
  receipt: 'Kuitto',
  myBooking: 'Omu varu',
  code: 'Varukoodo',
  codeHint: 'Se on kuitosa ja alku TF.',
  look: 'Katsu',
  change: 'Siiru toise vuoro',
  cancel: 'Peru varu',
  refund: 'Palutu koko hinto',
  rebook: 'Varu uudo ilmai',
  signIn: 'Kirju sisa',
  signOut: 'Kirju ulo',
  password: 'Salusano',
  cancelledForWeather: 'Vuoro on perutu saan tako',
  store: 'Talletu',
}
const sk: Words = {
  findSailing: 'Finna avgånge',
  from: 'Frå',
  to: 'Tel',
  day: 'Dagn',
  search: 'Leta',
  departs: 'Avgånge',
  arrives: 'Komste',
  places: 'Plassar',
  choose: 'Velja',
  noSailings: 'Ingja avgånge denn dagn. Neste er',
  booking: 'Tingjing',
  travellers: 'Kven som reisar',
  name: 'Namne',
  born: 'Føddedagn',
  islandCard: 'Øykorte',
  wheelchair: 'treng plass tel rullestole',
  add: 'Legga tel',
  remove: 'ta ut',
  vehicle: 'Køyretye',
  extras: 'Dyr ok sykle',
  pets: 'Dyr',
  bicycles: 'Sykle',
  back: 'Attende',
  noReturn: 'ikkje attende',
  fare: 'Pris',
  total: 'I alt',
  reduction: 'avslage',
  toPayment: 'Tel betaling',
  timeLeft: 'Halden i enno',
  payment: 'Betaling',
  card: 'Kortnummere',
  voucher: 'Gåvekorte',
  account: 'Firmakonto',
  pay: 'Betala',
  receipt: 'Kvittering',
  myBooking: 'Mi tingjing',
  code: 'Kode på tingjinge',
  codeHint: 'Han står på kvitteringa ok byrjar på TF.',
  look: 'Slå opp',
  change: 'Flytta tel annan avgånge',
  cancel: 'Avlysa tingjinge',
  refund: 'Heile prisen attende',
  rebook: 'Tinga om utan betaling',
  signIn: 'Logga inn',
  signOut: 'Logga ut',
  password: 'Passorde',
  cancelledForWeather: 'Avgånge er avlyst på grunn av vêre',
  store: 'Lagra',
}
const all: Readonly<Record<Language, Words>> = { en, ov, sk }
export const wordsIn = (language: Language): Words => all[language]

const portNames: Readonly<Record<Language, Readonly<Record<Port, string>>>> = {
  en: { OV: 'Ovemouth', TA: 'Tarnsey', LS: 'Low Skerrin' },
  ov: { OV: 'Ovamuo', TA: 'Tarnis', LS: 'Alaskerri' },
  sk: { OV: 'Åvemynne', TA: 'Tarnsøy', LS: 'Skerravåghamnen' },
}
export const portName = (port: Port, language: Language): string => portNames[language][port]

export const languageNames: Readonly<Record<Language, string>> = { en: 'English', ov: 'Ovian', sk: 'Skerric' }

/** An amount in cents as a language writes it. */
export const amountText = (cents: number, language: Language): string =>
  (cents / 100).toFixed(2).replace('.', language === 'en' ? '.' : ',')

const months: Readonly<Record<Language, readonly string[]>> = {
  en: ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'],
  ov: ['tammu', 'helmu', 'maalu', 'huhtu', 'touku', 'kesu', 'heinu', 'elu', 'syysu', 'loku', 'marru', 'joulu'],
  sk: ['jan', 'feb', 'mars', 'april', 'mai', 'juni', 'juli', 'aug', 'sept', 'okt', 'nov', 'des'],
}
const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

export function dayText(at: number, language: Language): string {
  const date = new Date(at)
  const [of, month] = [date.getUTCDate(), months[language][date.getUTCMonth()] ?? '']
  return language === 'en'
    ? `${weekdays[(date.getUTCDay() + 6) % 7]} ${of} ${month} ${date.getUTCFullYear()}`
    : `${of}. ${month} ${date.getUTCFullYear()}`
}
