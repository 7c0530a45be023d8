import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

// Numbers belong to the core: what is typed goes to the server as text with its unit, what is shown comes worked out.
const PARSING = [
  'CallExpression[callee.name=/^(Number|parseFloat|parseInt)$/]',
  "CallExpression[callee.object.name='Number'][callee.property.name=/^parse/]",
  "CallExpression[callee.property.name='replace'][arguments.0.value=',']",
].map((selector) => ({ selector, message: 'No parsing here: send it as text with its unit.' }))
const ARITHMETIC = [
  {
    selector: 'BinaryExpression[operator=/^(\\*|\\/|%|\\*\\*)$/]',
    message: 'No arithmetic here: the core works it out.',
  },
]

export default ts.config(
  { ignores: ['src/api/schema.d.ts', 'src/components.d.ts'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser } },
  },
  { files: ['**/*.test.ts'], rules: { 'vue/one-component-per-file': 'off' } },
  {
    rules: {
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'no-undef': 'off',
      'max-lines': ['error', { max: 260, skipBlankLines: true }],
      'no-restricted-syntax': ['error', ...PARSING],
      'vue/no-restricted-syntax': ['error', ...PARSING],
    },
  },
  {
    files: ['src/{views,stores,composables,api}/**'],
    // A drawing in space and a clock.
    ignores: ['src/composables/useSpaceView.ts', 'src/composables/useTimers.ts'],
    rules: {
      'no-restricted-syntax': ['error', ...PARSING, ...ARITHMETIC],
      'vue/no-restricted-syntax': ['error', ...PARSING, ...ARITHMETIC],
    },
  },
)
