import { describe, expect, it } from 'vitest'

const pages = import.meta.glob<string>(['../**/*.vue', '!../**/*.test.ts'], {
  query: '?raw',
  import: 'default',
  eager: true,
})
const shared = import.meta.glob<string>('./parts.ts', {
  query: '?raw',
  import: 'default',
  eager: true,
})
const styled = (text: string) =>
  new Set(
    [...text.matchAll(/(?:components\/|theme-chalk\/el-)([a-z-]+)(?:\/style|\.css)/g)].map(
      (one) => one[1],
    ),
  )
// Parts whose style is that of the part they stand in.
const WITHIN: Record<string, string> = { 'table-column': 'table' }

describe('parts of Element Plus', () => {
  it('each brings its style, with all pages or with the page that uses it', () => {
    const everywhere = styled(shared['./parts.ts']!)
    const bare = Object.entries(pages).flatMap(([file, text]) => {
      const own = styled(text)
      return [...text.matchAll(/<el-([a-z-]+)/g)]
        .map((one) => WITHIN[one[1]!] ?? one[1]!)
        .filter((part) => !everywhere.has(part) && !own.has(part))
        .map((part) => `${file}: ${part}`)
    })
    expect(bare).toEqual([])
    expect(everywhere.size).toBeGreaterThan(15)
  })
})
