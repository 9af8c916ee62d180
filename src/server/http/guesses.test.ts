import { expect } from 'chai'
import { Refusal } from '#core/lib/refusal.ts'
import { guessCounter, type GuessLimits } from './guesses.ts'

const limits: GuessLimits = {
  perCaller: { guesses: 3, seconds: 60 },
  perAccount: { guesses: 5, seconds: 900 },
  firstWait: 60,
  longestWait: 200,
}

/** Guesses one after the other or at once; what each was answered. */
function guessing(of: GuessLimits = limits) {
  const counter = guessCounter(of)
  let looked = 0
  const guess = async (account: string, address: string, right = false): Promise<string> => {
    try {
      return await counter.guess({
        account,
        address,
        look: async () => {
          looked += 1
          return right ? 'in' : 'wrong'
        },
        right: (answer) => answer === 'in',
      })
    } catch (error) {
      return error instanceof Refusal ? error.sentence : 'broke'
    }
  }
  return { guess, looked: () => looked }
}
const waits = (seconds: string) => `Too many wrong tries. Wait ${seconds}, then try again.`

it('answers so many wrong guesses from one place, also when they come all at once, and looks at no more', async () => {
  const { guess, looked } = guessing()
  const answers = await Promise.all(Array.from({ length: 200 }, (_, n) => guess(`person ${n}`, '203.0.113.9')))
  expect([looked(), answers.filter((answer) => answer === 'wrong').length]).to.deep.equal([3, 3])
  expect(answers[3]).to.equal(waits('60 seconds'))
  expect(await guess('anybody', '203.0.113.10')).to.equal('wrong')
})
it('counts the guesses for one account over all places', async () => {
  const { guess } = guessing()
  const answers: string[] = []
  for (let n = 0; n < 7; n++) answers.push(await guess('ada', `203.0.113.${n}`))
  expect(answers.filter((answer) => answer === 'wrong').length).to.equal(5)
  expect(await guess('eve', '203.0.113.1')).to.equal('wrong')
})
it('does not count a guess that was right', async () => {
  const { guess } = guessing()
  for (let n = 0; n < 40; n++) expect(await guess('ada', '203.0.113.9', true)).to.equal('in')
  for (let n = 0; n < 3; n++) expect(await guess('ada', '203.0.113.9')).to.equal('wrong')
  expect(await guess('ada', '203.0.113.9', true)).to.equal(waits('60 seconds'))
})
it('lets each wait be twice the one before, and none longer than the longest', async () => {
  const { guess } = guessing({ ...limits, perCaller: { guesses: 1, seconds: 1 }, firstWait: 0.2, longestWait: 0.4 })
  const said: string[] = []
  for (const pause of [250, 450, 450]) {
    await guess('ada', '203.0.113.9')
    const from = Date.now()
    for (let answer = ''; answer !== 'wrong';) {
      await new Promise((resolve) => setTimeout(resolve, 20))
      answer = await guess(`other ${from}`, '203.0.113.9')
    }
    said.push(Date.now() - from >= pause - 100 ? 'waited' : `only ${Date.now() - from}`)
    await new Promise((resolve) => setTimeout(resolve, 1050))
  }
  expect(said).to.deep.equal(['waited', 'waited', 'waited'])
})
