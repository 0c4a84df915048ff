import { computed } from 'vue'
import { useTheme } from 'vuetify'

const KEY = 'zephyrine-theme'

export type ThemeName = 'day' | 'night'

export const rememberedTheme = (): ThemeName => (localStorage.getItem(KEY) === 'night' ? 'night' : 'day')

/** The day or night theme, remembered in this browser. */
export function useThemeChoice() {
  const theme = useTheme()
  const isNight = computed(() => theme.global.name.value === 'night')
  function toggle() {
    const next: ThemeName = isNight.value ? 'day' : 'night'
    theme.change(next)
    localStorage.setItem(KEY, next)
  }
  return { isNight, toggle }
}
