/** The year is told where it is not this one. */
const yearOf = (date: Date) =>
  date.getFullYear() === new Date().getFullYear() ? undefined : ('numeric' as const)

/** A moment of the log in the reader's own time zone. */
export function sayMoment(moment: string): string {
  const date = new Date(moment)
  return date.toLocaleString(undefined, {
    year: yearOf(date),
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })
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

/** A day as it is written there, in the reader's form. */
export function sayDay(day: string): string {
  const date = new Date(`${day.slice(0, 10)}T12:00`)
  return date.toLocaleDateString(undefined, {
    year: yearOf(date),
    weekday: 'short',
    day: 'numeric',
    month: 'short',
  })
}
