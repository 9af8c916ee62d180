import { connect } from 'node:net'

/** Sends bytes as they stand to a server, and answers what came back before the line was closed. */
export const sendBytes = (url: string, bytes: Uint8Array | string): Promise<string> =>
  new Promise((resolve) => {
    const { hostname, port } = new URL(url)
    const socket = connect({ host: hostname, port: Number(port) }, () => socket.end(bytes))
    let told = ''
    socket.setEncoding('latin1').on('data', (part: string) => {
      told += part
    })
    socket.on('error', () => undefined)
    socket.on('close', () => resolve(told))
  })
