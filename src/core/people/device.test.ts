import { expect } from 'chai'
import { deviceOf } from './device.ts'

describe('a device', () => {
  it('is named by its browser and its system', () => {
    expect(
      deviceOf('Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Safari/537.36'),
    ).to.equal('Chromium on Linux')
    expect(deviceOf('Mozilla/5.0 (Windows NT 10.0; rv:140.0) Gecko/20100101 Firefox/140.0')).to.equal(
      'Firefox on Windows',
    )
    expect(
      deviceOf('Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605 Version/18.0 Mobile Safari/604'),
    ).to.equal('Safari on an iPhone')
  })
  it('is told as it names itself where it is none of these', () => {
    expect(deviceOf('curl/8.5')).to.equal('curl/8.5')
    expect(deviceOf('')).to.equal('a program that names no device')
  })
})
