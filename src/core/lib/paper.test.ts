import { expect } from 'chai'
import { markdownOf, type Paper } from './paper.ts'

const paper = (blocks: Paper['blocks']): string => markdownOf({ title: 'PL-1 The plan', under: 'Drafting', blocks })

describe('a paper as Markdown', () => {
  it('has its headings, lines and tables', () => {
    expect(
      paper([
        { kind: 'heading', level: 2, text: 'Why?' },
        { kind: 'text', text: 'One\nTwo' },
        {
          kind: 'table',
          columns: [
            { title: 'Risk', width: '*' },
            { title: 'Size', width: 'auto' },
          ],
          rows: [['A storm', '10']],
        },
      ]),
    ).to.equal(
      '# PL-1 The plan\n\nDrafting\n\n## Why?\n\nOne  \nTwo\n\n| Risk | Size |\n| --- | --- |\n| A storm | 10 |\n',
    )
  })
  it('keeps what people typed from being read as marks, and a cell on one line', () => {
    const text = paper([
      { kind: 'text', text: '# no heading\n- no list\n1. none\n<b>plain</b> *as it is*' },
      { kind: 'table', columns: [{ title: 'a|b', width: '*' }], rows: [['one\n two | three']] },
    ])
    expect(text).to.include('\\# no heading  \n\\- no list  \n\\1. none  \n\\<b\\>plain\\</b\\> \\*as it is\\*')
    expect(text).to.include('| a\\|b |\n| --- |\n| one<br>two \\| three |')
  })
})
