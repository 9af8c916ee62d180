import type { Encoding } from '#core/formats/encodings.ts'

/** A case as its author means it: what any sheet of it must be read as. */
export interface Meant {
  readonly title: string
  readonly importance: 'Critical' | 'High' | 'Medium' | 'Low'
  readonly tags: readonly string[]
  readonly links: readonly string[]
  readonly steps: readonly (readonly [action: string, expected: string])[]
}
type Headed = 'title' | 'number' | 'action' | 'expected' | 'importance' | 'tags' | 'links' | 'folder'
export interface Language {
  readonly name: string
  readonly headers: Readonly<Record<Headed, string>>
  /** The words for the importance of each case, in their order. */
  readonly levels: readonly [string, string]
  readonly folder: string
  /** What its people’s older programs write. */
  readonly encoding: Encoding
  readonly cases: readonly [Meant, Meant]
}

type Written = readonly [title: string, ...steps: (readonly [string, string])[]]
const two = ([one, ...ones]: Written, [other, ...others]: Written): readonly [Meant, Meant] => {
  return [
    { title: one, importance: 'High', tags: ['smoke', 'web'], links: ['RQ-1'], steps: ones },
    { title: other, importance: 'Low', tags: ['web'], links: ['RQ-2'], steps: others },
  ]
}

/** The same two cases of the crossing, as people of thirteen languages write them. */
export const languages: readonly Language[] = [
  {
    name: 'English',
    headers: {
      title: 'Test case title',
      number: 'Step no.',
      action: 'Step description',
      expected: 'Expected result',
      importance: 'Priority',
      tags: 'Labels',
      links: 'Requirement ID',
      folder: 'Section',
    },
    levels: ['High', 'Lowest'],
    folder: 'Booking',
    encoding: 'Windows-1252',
    cases: two(
      [
        'An adult books a crossing',
        ['Open the timetable of Tarnsey', 'Sailings of today are shown'],
        ['Choose the sailing at 9.15', 'The fare is 12.50 €'],
        ['Pay with the test card', 'The booking is “confirmed”'],
      ],
      [
        'A child travels at half the fare',
        ['Add a child of 7 years', 'The fare is 6.25 €'],
        ['Remove the child again', 'The fare is 12.50 €'],
      ],
    ),
  },
  {
    name: 'German',
    headers: {
      title: 'Testfall',
      number: 'Schritt-Nr.',
      action: 'Testschritt',
      expected: 'Erwartetes Ergebnis',
      importance: 'Priorität',
      tags: 'Schlagwörter',
      links: 'Anforderung',
      folder: 'Ordner',
    },
    levels: ['Hoch', 'Niedrig'],
    folder: 'Überfahrten',
    encoding: 'Windows-1252',
    cases: two(
      [
        'Ein Erwachsener bucht eine Überfahrt',
        ['Fahrplan von Tarnsey öffnen', 'Die Abfahrten von heute werden angezeigt'],
        ['Abfahrt um 9.15 Uhr wählen', 'Der Fahrpreis beträgt 12,50 €'],
        ['Mit der Testkarte bezahlen', 'Die Buchung ist „bestätigt“'],
      ],
      [
        'Ein Kind fährt zum halben Preis',
        ['Ein Kind von 7 Jahren hinzufügen', 'Der Fahrpreis beträgt 6,25 €'],
        ['Das Kind wieder entfernen', 'Der Fahrpreis beträgt 12,50 €'],
      ],
    ),
  },
  {
    name: 'French',
    headers: {
      title: 'Cas de test',
      number: 'N° étape',
      action: 'Étapes',
      expected: 'Résultat attendu',
      importance: 'Priorité',
      tags: 'Étiquettes',
      links: 'Exigence',
      folder: 'Dossier',
    },
    levels: ['Élevée', 'Faible'],
    folder: 'Traversées',
    encoding: 'Windows-1252',
    cases: two(
      [
        'Un adulte réserve une traversée',
        ['Ouvrir l’horaire de Tarnsey', 'Les départs du jour s’affichent'],
        ['Choisir le départ de 9 h 15', 'Le prix est de 12,50 €'],
        ['Payer avec la carte de test', 'La réservation est « confirmée »'],
      ],
      [
        'Un enfant voyage à demi-tarif',
        ['Ajouter un enfant de 7 ans', 'Le prix est de 6,25 €'],
        ['Retirer l’enfant', 'Le prix est de 12,50 €'],
      ],
    ),
  },
  {
    name: 'Spanish',
    headers: {
      title: 'Caso de prueba',
      number: 'N.º de paso',
      action: 'Acción',
      expected: 'Resultado esperado',
      importance: 'Prioridad',
      tags: 'Etiquetas',
      links: 'Requisito',
      folder: 'Carpeta',
    },
    levels: ['Alta', 'Baja'],
    folder: 'Travesías',
    encoding: 'Windows-1252',
    cases: two(
      [
        'Un adulto reserva una travesía',
        ['Abrir el horario de Tarnsey', 'Se muestran las salidas de hoy'],
        ['Elegir la salida de las 9.15', 'La tarifa es de 12,50 €'],
        ['Pagar con la tarjeta de prueba', 'La reserva está «confirmada»'],
      ],
      [
        'Un niño viaja a mitad de precio',
        ['Añadir un niño de 7 años', 'La tarifa es de 6,25 €'],
        ['Quitar al niño', 'La tarifa es de 12,50 €'],
      ],
    ),
  },
  {
    name: 'Portuguese',
    headers: {
      title: 'Caso de teste',
      number: 'Nº do passo',
      action: 'Passos',
      expected: 'Resultado esperado',
      importance: 'Prioridade',
      tags: 'Etiquetas',
      links: 'Requisito',
      folder: 'Pasta',
    },
    levels: ['Alta', 'Baixa'],
    folder: 'Travessias',
    encoding: 'Windows-1252',
    cases: two(
      [
        'Um adulto reserva uma travessia',
        ['Abrir o horário de Tarnsey', 'São mostradas as partidas de hoje'],
        ['Escolher a partida das 9h15', 'A tarifa é de 12,50 €'],
        ['Pagar com o cartão de teste', 'A reserva está “confirmada”'],
      ],
      [
        'Uma criança viaja a meio preço',
        ['Adicionar uma criança de 7 anos', 'A tarifa é de 6,25 €'],
        ['Remover a criança', 'A tarifa é de 12,50 €'],
      ],
    ),
  },
  {
    name: 'Italian',
    headers: {
      title: 'Caso di test',
      number: 'N. passo',
      action: 'Azione',
      expected: 'Risultato atteso',
      importance: 'Priorità',
      tags: 'Etichette',
      links: 'Requisito',
      folder: 'Cartella',
    },
    levels: ['Alta', 'Bassa'],
    folder: 'Traversate',
    encoding: 'Windows-1252',
    cases: two(
      [
        'Un adulto prenota una traversata',
        ['Aprire l’orario di Tarnsey', 'Sono mostrate le partenze di oggi'],
        ['Scegliere la partenza delle 9.15', 'La tariffa è di 12,50 €'],
        ['Pagare con la carta di prova', 'La prenotazione è “confermata”'],
      ],
      [
        'Un bambino viaggia a metà prezzo',
        ['Aggiungere un bambino di 7 anni', 'La tariffa è di 6,25 €'],
        ['Togliere il bambino', 'La tariffa è di 12,50 €'],
      ],
    ),
  },
  {
    name: 'Polish',
    headers: {
      title: 'Przypadek testowy',
      number: 'Nr kroku',
      action: 'Krok',
      expected: 'Oczekiwany rezultat',
      importance: 'Priorytet',
      tags: 'Etykiety',
      links: 'Wymaganie',
      folder: 'Sekcja',
    },
    levels: ['Wysoki', 'Niski'],
    folder: 'Przeprawy',
    encoding: 'Windows-1250',
    cases: two(
      [
        'Dorosły rezerwuje przeprawę',
        ['Otwórz rozkład rejsów z Tarnsey', 'Widać dzisiejsze rejsy'],
        ['Wybierz rejs o 9.15', 'Opłata wynosi 12,50 zł'],
        ['Zapłać kartą testową', 'Rezerwacja jest „potwierdzona”'],
      ],
      [
        'Dziecko podróżuje za pół ceny',
        ['Dodaj dziecko w wieku 7 lat', 'Opłata wynosi 6,25 zł'],
        ['Usuń dziecko', 'Opłata wynosi 12,50 zł'],
      ],
    ),
  },
  {
    name: 'Dutch',
    headers: {
      title: 'Testgeval',
      number: 'Stapnummer',
      action: 'Handeling',
      expected: 'Verwacht resultaat',
      importance: 'Prioriteit',
      tags: 'Trefwoorden',
      links: 'Eis',
      folder: 'Map',
    },
    levels: ['Hoog', 'Laag'],
    folder: 'Overtochten',
    encoding: 'Windows-1252',
    cases: two(
      [
        'Een volwassene boekt een overtocht',
        ['Open de dienstregeling van Tarnsey', 'De afvaarten van vandaag staan er'],
        ['Kies de afvaart van 9.15 uur', 'Het tarief is 12,50 €'],
        ['Betaal met de testkaart', 'De boeking is „bevestigd”'],
      ],
      [
        'Een kind reist voor de halve prijs',
        ['Voeg een kind van 7 jaar toe', 'Het tarief is 6,25 €'],
        ['Haal het kind weer weg', 'Het tarief is 12,50 €'],
      ],
    ),
  },
  {
    name: 'Czech',
    headers: {
      title: 'Testovací případ',
      number: 'Číslo kroku',
      action: 'Postup',
      expected: 'Očekávaný výsledek',
      importance: 'Priorita',
      tags: 'Štítky',
      links: 'Požadavek',
      folder: 'Složka',
    },
    levels: ['Vysoká', 'Nízká'],
    folder: 'Přeplavby',
    encoding: 'Windows-1250',
    cases: two(
      [
        'Dospělý si objedná přeplavbu',
        ['Otevři jízdní řád z Tarnsey', 'Zobrazí se dnešní odjezdy'],
        ['Vyber odjezd v 9.15', 'Jízdné je 12,50 Kč'],
        ['Zaplať testovací kartou', 'Objednávka je „potvrzena“'],
      ],
      [
        'Dítě cestuje za polovinu',
        ['Přidej dítě ve věku 7 let', 'Jízdné je 6,25 Kč'],
        ['Dítě zase odeber', 'Jízdné je 12,50 Kč'],
      ],
    ),
  },
  {
    name: 'Swedish',
    headers: {
      title: 'Testfall',
      number: 'Stegnummer',
      action: 'Åtgärd',
      expected: 'Förväntat resultat',
      importance: 'Prioritet',
      tags: 'Taggar',
      links: 'Krav',
      folder: 'Mapp',
    },
    levels: ['Hög', 'Låg'],
    folder: 'Överfarter',
    encoding: 'Windows-1252',
    cases: two(
      [
        'En vuxen bokar en överfart',
        ['Öppna tidtabellen för Tarnsey', 'Dagens avgångar visas'],
        ['Välj avgången 9.15', 'Avgiften är 12,50 €'],
        ['Betala med testkortet', 'Bokningen är ”bekräftad”'],
      ],
      [
        'Ett barn reser för halva priset',
        ['Lägg till ett barn på 7 år', 'Avgiften är 6,25 €'],
        ['Ta bort barnet igen', 'Avgiften är 12,50 €'],
      ],
    ),
  },
  {
    name: 'Japanese',
    headers: {
      title: 'テストケース名',
      number: '手順番号',
      action: '操作手順',
      expected: '期待結果',
      importance: '優先度',
      tags: 'タグ',
      links: '要件番号',
      folder: 'フォルダ',
    },
    levels: ['高', '低'],
    folder: '予約',
    encoding: 'Shift_JIS',
    cases: two(
      [
        '大人が乗船を予約する',
        ['ターンジーの時刻表を開く', '本日の便が表示される'],
        ['9時15分の便を選ぶ', '運賃は1250円と表示される'],
        ['テスト用カードで支払う', '予約が「確定」になる'],
      ],
      [
        '子供は半額で乗船する',
        ['7歳の子供を追加する', '運賃は625円と表示される'],
        ['子供を削除する', '運賃は1250円と表示される'],
      ],
    ),
  },
  {
    name: 'Chinese',
    headers: {
      title: '用例名称',
      number: '步骤编号',
      action: '操作步骤',
      expected: '预期结果',
      importance: '优先级',
      tags: '标签',
      links: '关联需求',
      folder: '目录',
    },
    levels: ['高', '低'],
    folder: '预订',
    encoding: 'GB18030',
    cases: two(
      [
        '成人预订渡轮',
        ['打开塔恩西的时刻表', '显示今天的航班'],
        ['选择9点15分的航班', '票价为12.50元'],
        ['使用测试卡付款', '预订状态为“已确认”'],
      ],
      ['儿童享受半价', ['添加一名7岁儿童', '票价为6.25元'], ['删除该儿童', '票价为12.50元']],
    ),
  },
  {
    name: 'Korean',
    headers: {
      title: '테스트 케이스명',
      number: '단계 번호',
      action: '수행 절차',
      expected: '예상 결과',
      importance: '우선순위',
      tags: '태그',
      links: '관련 요구사항',
      folder: '폴더',
    },
    levels: ['높음', '낮음'],
    folder: '예약',
    encoding: 'EUC-KR',
    cases: two(
      [
        '성인이 승선을 예약한다',
        ['탄지의 시간표를 연다', '오늘의 운항편이 표시된다'],
        ['9시 15분 편을 선택한다', '운임은 12500원이다'],
        ['테스트 카드로 결제한다', '예약이 “확정”된다'],
      ],
      [
        '어린이는 반값에 탄다',
        ['7세 어린이를 추가한다', '운임은 6250원이다'],
        ['어린이를 삭제한다', '운임은 12500원이다'],
      ],
    ),
  },
]
