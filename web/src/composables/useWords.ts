import dayjs from 'dayjs'

/** The year is told where it is not this one. */
const year = (at: dayjs.Dayjs) => (at.isSame(dayjs(), 'year') ? '' : ' YYYY')

/** The time of day, in the reader's time zone like all of these. */
export const sayClock = (at: string): string => dayjs(at).format('HH:mm')

/** A moment of the log. */
export function sayMoment(moment: string): string {
  const at = dayjs(moment)
  return at.format(`D MMM${year(at)}, HH:mm`)
}

const isNaught = (text: string) => /^-?0(\.0+)?$/.test(text)

/** A number with a fixed number of digits and a true minus sign. */
export function sayNumber(value: number, digits = 1): string {
  const text = value.toFixed(digits)
  return isNaught(text) ? text.replace('-', '') : text.replace('-', '−')
}

/** The same with its sign always shown. */
export function saySigned(value: number, digits = 1): string {
  const text = sayNumber(value, digits)
  return text.startsWith('−') || isNaught(text) ? text : `+${text}`
}

/** How an angle is told to end: likely inside, open, or missed. */
export const VERDICTS = { likely: '✓', open: '◐', missed: '▲' } as const

/** A day as it is written there. */
export function sayDay(day: string): string {
  const at = dayjs(day.slice(0, 10))
  return at.format(`ddd D MMM${year(at)}`)
}
