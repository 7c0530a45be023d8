import type { Api } from '../api/client'
import { readAhead, useRead } from './useRead'

const NAME = ['board']
const call = (api: Api) => api.GET('/api/board')

/** The cars in work, what is due. */
export const useBoard = () => useRead(NAME, call, { ahead: true })

/** Asked for before its page is drawn, so that its first screen is laid out once. */
export const askForBoard = () => readAhead(NAME, call)
