/** The ways in which dates and times can be written for a person, as BCP 47 names them. */
export const languages = [
  'en-GB',
  'en-US',
  'de-DE',
  'es-ES',
  'fr-FR',
  'it-IT',
  'ja-JP',
  'nb-NO',
  'nl-NL',
  'pl-PL',
  'pt-BR',
  'sv-SE',
  'uk-UA',
  'zh-CN',
] as const
