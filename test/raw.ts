import { connect } from 'node:net'

/**
 * Sends bytes as they stand to a server, and answers what came back before the line was closed. Ended by this side, the server closes it
 * at once, with whatever is not answered yet; `keep` leaves that to a request that says so.
 */
export const sendBytes = (url: string, bytes: Uint8Array | string, of: { keep?: boolean } = {}): Promise<string> =>
  new Promise((resolve) => {
    const { hostname, port } = new URL(url)
    const socket = connect({ host: hostname, port: Number(port) }, () =>
      of.keep ? socket.write(bytes) : socket.end(bytes),
    )
    let told = ''
    socket.setEncoding('latin1').on('data', (part: string) => {
      told += part
    })
    socket.on('error', () => undefined)
    socket.on('close', () => resolve(told))
  })
