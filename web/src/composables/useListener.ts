import { connection, PAGE_NAME } from '../api/connection'

const AGAIN_MS = 1500
const SHUT_OUT = 4401

export interface Listener {
  hangUp(): void
}

/** Hears when another page or device changed the job or car; calls again when the line breaks. */
export function useListener(id: string, changed: () => void): Listener {
  let socket: WebSocket | null = null
  let isOver = false

  function call(): void {
    if (isOver) return
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws'
    socket = new WebSocket(`${scheme}://${location.host}/ws/books/${id}?page=${PAGE_NAME}`)
    socket.onmessage = changed
    socket.onclose = (event) => {
      if (event.code === SHUT_OUT) connection.shutOut = true
      window.setTimeout(call, AGAIN_MS)
    }
  }

  call()
  return {
    hangUp() {
      isOver = true
      socket?.close()
    },
  }
}
