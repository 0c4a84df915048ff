import 'vuetify/styles'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import { defineNuxtPlugin } from '#app'
import { rememberedTheme } from '~/composables/use-theme-choice'

const compact = { density: 'compact', variant: 'outlined', hideDetails: 'auto' } as const

/** Quiet text that still has the contrast of WCAG 2.2 AA on both papers. */
const variables = { 'medium-emphasis-opacity': 0.78 }

/** Deep blue-black ink on warm paper, sea teal, vermilion for what is selected or running, brass for time. */
export default defineNuxtPlugin((app) => {
  app.vueApp.use(
    createVuetify({
      icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
      theme: {
        defaultTheme: rememberedTheme(),
        themes: {
          day: {
            dark: false,
            variables,
            colors: {
              background: '#efe7d4',
              surface: '#fbf6ea',
              primary: '#17646b',
              secondary: '#14233a',
              accent: '#c23a27',
              brass: '#7d5c12',
              error: '#a32018',
              warning: '#8a5a00',
              success: '#2d6a3e',
              'on-background': '#14233a',
              'on-surface': '#14233a',
              'on-primary': '#fdf8ec',
              'on-accent': '#fdf8ec',
            },
          },
          night: {
            dark: true,
            variables,
            colors: {
              background: '#0d1522',
              surface: '#162135',
              primary: '#6cc2bf',
              secondary: '#e9dfc8',
              accent: '#ff7d63',
              brass: '#dcb75f',
              error: '#ff9a8c',
              warning: '#e5b567',
              success: '#8fce9d',
              'on-background': '#ece3cf',
              'on-surface': '#ece3cf',
              'on-primary': '#0d1522',
              'on-accent': '#0d1522',
            },
          },
        },
      },
      defaults: {
        VTextField: { ...compact, color: 'primary' },
        VSelect: { ...compact, color: 'primary' },
        VAutocomplete: { ...compact, color: 'primary' },
        VTextarea: { ...compact, color: 'primary' },
        VSlider: { color: 'primary', hideDetails: true, thumbSize: 16, trackSize: 3 },
        VRangeSlider: { color: 'primary', hideDetails: true, thumbSize: 16, trackSize: 3 },
        VSwitch: { color: 'primary', density: 'compact', hideDetails: true, inset: true },
        VBtn: { style: 'text-transform: none; letter-spacing: 0' },
        VTooltip: { openDelay: 500, location: 'bottom' },
      },
    }),
  )
})
