import presetWind3 from '@unocss/preset-wind3'
import { defineConfig } from '@unocss/vite'

const COLOURS = [
  'paper',
  'card',
  'line',
  'ink',
  'soft',
  'band',
  'chalk',
  'chalk-soft',
  'go',
  'go-wash',
  'wait',
  'wait-wash',
  'stop',
  'stop-wash',
  'brass',
]

/** Layout is written at the element: lengths in px, colours by their names in styles/tokens.css. */
export default defineConfig({
  presets: [
    // Above plain elements and classes, below what a component says of its own states.
    presetWind3({ important: 'html body', preflight: false }),
  ],
  theme: {
    colors: Object.fromEntries(COLOURS.map((name) => [name, `var(--${name})`])),
    borderRadius: { DEFAULT: 'var(--radius)' },
    breakpoints: { phone: '760.1px', tablet: '900.1px' },
  },
  // Among the rest, so that what is said for a narrow screen comes last.
  shortcutsLayer: 'default',
  shortcuts: {
    'bare-list': 'p-0 m-0 list-none',
    ruled: 'b-t-1px b-t-solid b-t-line',
    edged: 'b-1px b-solid b-line rounded',
    'edged-soft': 'b-1px b-solid b-soft rounded',
    'one-col': 'grid-cols-[minmax(0,1fr)]',
    'two-cols': 'grid-cols-[minmax(0,1fr)_minmax(0,1fr)]',
    'col-auto': 'grid-cols-[minmax(0,1fr)_auto]',
    'bare-button': 'b-0 [background:none] cursor-pointer',
  },
})
