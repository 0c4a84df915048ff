import { fileURLToPath } from 'node:url'
import { compileSampler } from './scripts/sampler.mjs'
import vuetify, { transformAssetUrls } from 'vite-plugin-vuetify'

compileSampler()

export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  ssr: false,
  telemetry: false,
  devtools: { enabled: false },
  modules: [
    '@pinia/nuxt',
    (_options, nuxt) => {
      nuxt.hooks.hook('vite:extendConfig', (config) => {
        config.plugins?.push(vuetify({ autoImport: true }))
      })
    },
  ],
  // Nothing is imported by itself from our own folders: a reader can see where each name comes from.
  imports: { scan: false },
  components: { dirs: [] },
  css: ['~/assets/fonts.css', '~/assets/main.css'],
  app: {
    head: {
      title: 'Zephyrine',
      htmlAttrs: { lang: 'en' },
      meta: [{ name: 'description', content: 'Animated route films for travel video creators' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/icon.svg' }],
    },
  },
  build: { transpile: ['vuetify'] },
  // Vite minifies the styles; cssnano's newest parts need a newer Node.
  postcss: { plugins: { cssnano: false } },
  vite: { vue: { template: { transformAssetUrls } } },
  nitro: {
    // Packages with native parts stay in node_modules, where the server finds them.
    externals: {
      trace: false,
      inline: [
        fileURLToPath(new URL('./scripts/bundles.mjs', import.meta.url)),
        fileURLToPath(new URL('./scripts/sampler.mjs', import.meta.url)),
      ],
    },
    errorHandler: '~~/server/error.ts',
    typescript: { strict: true, tsConfig: { compilerOptions: { lib: ['ES2023', 'DOM', 'DOM.Iterable'] } } },
  },
  typescript: {
    strict: true,
    tsConfig: { include: ['../tests/app/**/*.ts', '../tests/support/journeys.ts'], compilerOptions: { noUncheckedIndexedAccess: true } },
  },
})
