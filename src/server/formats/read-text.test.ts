import { expect } from 'chai'
import fc from 'fast-check'
import iconv from 'iconv-lite'
import type { Encoding } from '#core/formats/encodings.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { lineText } from '../../../test/arbitrary.ts'
import { readFile } from './read-file.ts'
import { readText } from './read-text.ts'

const german = 'Titel;Schritt;Erwartet\nGebühr prüfen;Öffne die Kasse – wähle „Überfahrt“;Es kostet 12,50 €\n'
const polish =
  'tytuł;krok;oczekiwany wynik\nRezerwacja przeprawy;Otwórz kasę i wybierz łódź;Cena jest widoczna, zniżka też\nŻeglarz płaci mniej;Wpisz kartę;Zniżka\n'
const russian = 'название;шаг;ожидаемый результат\nБронь переправы;Открой кассу и выбери паром;Видна цена\n'
const japanese = 'タイトル,手順,期待結果\n乗船の予約,窓口を開いて便を選ぶ,料金が表示される\n'
const chinese = '标题,步骤,预期结果\n预订航班,打开售票窗口并选择航班,显示价格\n'
const korean = '제목,단계,예상 결과\n승선 예약,창구를 열고 배편을 고른다,요금이 보인다\n'

const guessed: readonly [Encoding, string][] = [
  ['UTF-8', german],
  ['Windows-1252', german],
  ['Windows-1252', 'title,action\nPrice,Pay 5 €\n'],
  ['Windows-1252', 'titre;étape;résultat attendu\nRéserver;Ouvrir le guichet;Le prix est affiché : 5 €\n'],
  [
    'Windows-1250',
    'název;krok;očekávaný výsledek\nRezervace plavby;Otevři pokladnu a vyber loď;Zobrazí se cena\nŽák platí méně;Zadej průkaz;Sleva\n',
  ],
  ['Windows-1250', polish],
  ['ISO-8859-2', polish],
  ['Windows-1251', russian],
  ['KOI8-R', russian],
  ['Shift_JIS', japanese],
  ['EUC-JP', japanese],
  ['GB18030', chinese],
  ['EUC-KR', korean],
]
const wide: readonly Encoding[] = ['UTF-16LE', 'UTF-16BE']

describe('a text of whatever encoding', () => {
  for (const [encoding, text] of guessed)
    it(`is read word for word as ${encoding}: ${text.slice(0, 12).replaceAll('\n', ' ')}`, () => {
      expect(readText(iconv.encode(text, encoding))).to.deep.include({ text, encoding })
    })
  it('is read as UTF-16 with its mark and without, whichever byte comes first', () => {
    for (const encoding of wide)
      for (const text of [german, chinese, russian])
        for (const addBOM of [true, false])
          expect(readText(iconv.encode(text, encoding, { addBOM })), encoding).to.deep.include({ text, encoding })
  })
  it('keeps the euro sign, dashes and quotes of Windows-1252, which are no controls', () => {
    const { text } = readText(Buffer.from([0x61, 0x20, 0x80, 0x20, 0x93, 0x62, 0x94, 0x20, 0x96, 0x20, 0x85]))
    expect(text).to.equal('a € “b” – …')
  })
  it('says where its letters do not settle it, and is read as it is said to be', () => {
    const doubtful = iconv.encode(german, 'Windows-1252')
    expect(readText(doubtful).perhaps).to.be.a('string')
    expect(readText(doubtful, 'Windows-1250')).to.deep.include({ encoding: 'Windows-1250', perhaps: null })
    expect(readText(iconv.encode('title\nöl\n', 'UTF-8')).perhaps).to.equal(null)
  })
  it('of zero bytes that are no letters is refused', () => {
    expect(() => readText(Buffer.from([0x50, 0, 0, 1, 2, 0, 0, 0xff]))).to.throw(Refusal, /not a text file/)
  })
  it('that is UTF-8 is never taken for anything else', () =>
    fc.assert(
      fc.property(fc.array(lineText), (lines) => {
        const text = lines
          .join('\n')
          .replaceAll('\0', '')
          .replace(/^\ufeff/, '')
        expect(readText(Buffer.from(text))).to.deep.include({ text, encoding: 'UTF-8' })
      }),
    ))
})

it('reads a sheet in the encoding its mapping says, and tells a doubtful guess', async () => {
  const bytes = iconv.encode(
    'title;action;expected\nGebühr prüfen;Öffne die Kasse – wähle;Es kostet 5 €\n',
    'Windows-1252',
  )
  const guess = await readFile(bytes)
  expect(guess.told).to.include('Windows-1252')
  expect(guess.read.cases[0]?.title).to.equal('Gebühr prüfen')
  expect(guess.read.notices[0]?.message).to.match(/^is read as Windows-1252; it may be /)
  if (!guess.mapping) throw new Error('no mapping')
  const said = await readFile(bytes, { mapping: { ...guess.mapping, encoding: 'Windows-1251' } })
  expect(said.told).to.include('Windows-1251')
  expect(said.read.cases[0]?.title).to.include('Geb')
  expect(said.read.cases[0]?.title).to.not.include('ü')
  expect(said.mapping?.encoding).to.equal('Windows-1251')
})
