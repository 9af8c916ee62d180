import { expect } from 'chai'
import fc from 'fast-check'
import { safeHtml } from './safe-html.ts'

/** Anything by which a text could act, fetch or leave: checked on the text as a browser reads it, without its attributes' values. */
const acts =
  /<(?!\/?(?:p|br|strong|b|em|i|u|s|code|pre|ul|ol|li|a|blockquote|h2|h3|mark|img|table|thead|tbody|tr|th|td|hr)\b)|<[^>]*\son\w+\s*=|<[^>]*="\s*javascript:|<[^>]*\sstyle=/i

it('leaves what people write as it is', () => {
  for (const html of [
    'A &lt; B & C',
    '<p>Pay by <strong>card</strong>, then <em>wait</em>.</p>',
    '<ul><li>One</li><li>Two</li></ul>',
    '<table><tbody><tr><td colspan="2">x</td></tr></tbody></table>',
    '<a href="https://tarnsey.example/a?b=1&amp;c=2" rel="noopener noreferrer" target="_blank">here</a>',
    '<img src="/api/v1/projects/FERRY/evidence/3" alt="The form" />',
    '<mark data-tone="warning">Careful</mark>',
    'Grüße – 舟 &lt;b&gt;',
  ])
    expect(safeHtml(html)).to.equal(html)
  expect(safeHtml('A < B & 3 <4 <')).to.equal('A &lt; B & 3 &lt;4 &lt;')
})
it('lets nothing act, fetch from elsewhere, or leave the place where it is drawn', () => {
  for (const html of [
    '<script>alert(1)</script>',
    '<img src=x onerror=alert(1)>',
    '<img src="https://elsewhere.example/x.png">',
    '<img src="/api/v1/../../x" onload=alert(1)>',
    '<a href="javascript:alert(1)">x</a>',
    '<a href="java\tscript:alert(1)">x</a>',
    '<a href="&#106;avascript:alert(1)">x</a>',
    '<a href=" javascript:alert(1)">x</a>',
    '<a href="data:text/html,<script>alert(1)</script>">x</a>',
    '<a href="//elsewhere.example">x</a>',
    '<svg><script>alert(1)</script></svg>',
    '<svg/onload=alert(1)>',
    '<iframe srcdoc="<script>alert(1)</script>"></iframe>',
    '<p style="position:fixed;inset:0">x</p>',
    '<form action=https://elsewhere.example><input name=a></form>',
    '<math><mi xlink:href="javascript:alert(1)">x</mi></math>',
    '<b onmouseover=alert(1)>x</b>',
    '<!--><img src=x onerror=alert(1)>-->',
    '<p title="</p><script>alert(1)</script>">x</p>',
    '<style>@import "https://elsewhere.example"</style>',
  ]) {
    const safe = safeHtml(html)
    expect(safe, html).to.not.match(acts)
    expect(safe, html).to.not.contain('elsewhere.example"')
  }
})
it('answers what is safe already as it stands, whatever it was before', () => {
  const part = fc.constantFrom(
    '<',
    '>',
    '"',
    "'",
    '/',
    '=',
    ' ',
    '&',
    '<b',
    '</b>',
    '<a href=',
    'javascript:',
    'onerror=',
    '<img src=',
    '<!--',
    '-->',
    '<script>',
    '</script>',
    'x',
    '&#x3c;',
    '\u0000',
    '`',
  )
  fc.assert(
    fc.property(fc.array(part, { maxLength: 14 }), (parts) => {
      const once = safeHtml(parts.join(''))
      expect(safeHtml(once)).to.equal(once)
      expect(once).to.not.match(acts)
    }),
    { numRuns: 3000 },
  )
})
