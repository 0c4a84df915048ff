import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

/** Dependencies point one way: app, server -> draw -> core. These rules hold it. */
const interfaceAndPlatform = [
  'vue',
  'vue/*',
  'pinia',
  'vuetify',
  'vuetify/*',
  'nuxt',
  'nuxt/*',
  '#app',
  '#imports',
  '#build/*',
  '@vueuse/*',
  '~*',
  '@/*',
]
const node = ['node:*', 'fs', 'path', 'better-sqlite3', 'sharp', '@napi-rs/*', 'nitropack', 'h3']
const clocksAndScreens = [
  'window',
  'document',
  'navigator',
  'performance',
  'Date',
  'setTimeout',
  'setInterval',
  'requestAnimationFrame',
  'fetch',
  'process',
  'Buffer',
]

const forbid = (groups, message) => ['error', { patterns: [{ group: groups, message }] }]

/** The rooms of the core, in their one direction: each may use those before it. `core/error.ts` and `core/remembered.ts` stand before all. */
const rooms = [
  'geometry',
  'colour',
  'picture',
  'type',
  'pace',
  'sound',
  'vehicles',
  'pins',
  'camera',
  'journey',
  'sheet',
  'dress',
  'geo',
  'maps',
  'network',
  'courses',
  'tracks',
  'marks',
  'trips',
  'shots',
  'labels',
  'frame',
  'checks',
  'edits',
  'formats',
  'writing',
  'follow',
  'tiles',
  'film',
]

const aboveTheCore = [...interfaceAndPlatform, ...node, '#draw/*', '#render/*', '#demo/*', '**/draw/**', '**/app/**', '**/server/**']

/** For each room of the core, what it may not import: the platform, and the rooms after it. */
const roomsInOrder = rooms.map((room, i) => ({
  files: [`core/${room}/**/*.ts`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: aboveTheCore,
            message: 'core/ is pure computation: it imports nothing of the interface, the platform or the rooms above it.',
          },
          ...(i + 1 < rooms.length
            ? [
                {
                  group: rooms.slice(i + 1).flatMap((later) => [`../${later}/*`, `#core/${later}/*`]),
                  message: `core/${room} stands before this room: see the order of the rooms in docs/architecture.md.`,
                },
              ]
            : []),
        ],
      },
    ],
  },
}))

export default ts.config(
  { ignores: ['.nuxt/', '.output/', 'data/', 'node_modules/', 'sampler/**', 'draw/ground/sampler-code.ts'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'CallExpression[callee.object.name="Math"] > SpreadElement, CallExpression[callee.property.name=/^(push|unshift)$/] > SpreadElement',
          message: 'A long array spread into arguments overflows the stack: use greatest, least or append of core/geometry/extremes.',
        },
      ],
    },
  },
  { files: ['tests/**', 'scripts/**'], rules: { 'no-restricted-syntax': 'off' } },
  {
    files: ['core/**/*.ts'],
    rules: {
      'no-restricted-imports': forbid([...aboveTheCore, '#core/*', './*'], 'What stands before all rooms imports nothing.'),
      'no-restricted-globals': [
        'error',
        ...clocksAndScreens.map((name) => ({ name, message: 'core/ reads no clock, screen or network.' })),
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'core/ is deterministic: use a seeded source.' },
      ],
    },
  },
  ...roomsInOrder,
  {
    files: ['draw/**/*.ts'],
    rules: {
      'no-restricted-imports': forbid(
        [...interfaceAndPlatform, ...node, '#render/*', '#demo/*', '**/app/**', '**/server/**'],
        'draw/ paints on any canvas: it knows only core/.',
      ),
    },
  },
  {
    files: ['app/**/*.{ts,vue}'],
    rules: {
      'no-restricted-imports': forbid(
        [...node, '#render/*', '#demo/*', '**/server/**'],
        'The interface talks to the server over its routes.',
      ),
    },
  },
  {
    files: ['server/**/*.ts', 'cli/**/*.ts', 'demo/**/*.ts'],
    rules: {
      'no-restricted-imports': forbid(['vue', 'pinia', 'vuetify', 'vuetify/*', '**/app/**'], 'Server code knows nothing of the interface.'),
    },
  },
  prettier,
)
