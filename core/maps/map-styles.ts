import type { DrawnMap, MapStyle } from '../journey/schema'

/** The look of a generated map; those of satellite imagery show that in place of sea and land. Widths are in reference pixels: a line has the same on the screen however near the camera is. */
export interface StyleSheet {
  title: string
  sea: string
  /** The deep sea; `sea` is then that of the shelves. */
  deep?: string
  /** Land by its height in metres, from the lowest up; between two it is mixed. */
  land: readonly (readonly [metres: number, colour: string])[]
  /** The two ice sheets of the Earth. */
  ice?: string
  /** Colours of countries laid over the land, by how much. */
  countries?: { colours: readonly string[]; opacity: number }
  /** How strongly slopes are shaded, 0..1, and the colours of their dark and their light sides. */
  shade?: { strength: number; dark: string; light: string }
  /** A shadow that the land casts on the sea, as if it were cut from paper: its colour, and how far it reaches. */
  lifted?: { colour: string; reach: number }
  /** The edge of the Earth. */
  beyond: string
  /** Bands along the coasts in the sea, the widest first. */
  shores: readonly { colour: string; width: number }[]
  coast: Line
  river: Line
  border: Line & { dash?: readonly number[] }
  graticule: Line
  /** Dots of towns; those that shine have a halo in that colour. */
  town: { colour: string; rim: string; glow?: string }
  /** The arrow to the north and the scale. */
  furniture: string
  /** Names of countries and seas: the letters, and the rim that keeps them apart from the map. */
  names: { land: readonly [letters: string, rim: string]; sea: readonly [letters: string, rim: string] }
}

interface Line {
  colour: string
  width: number
}

export const STYLE_SHEETS: Record<MapStyle, StyleSheet> = {
  atlas: {
    title: 'Atlas',
    sea: '#b9d6dc',
    deep: '#9fc4cf',
    ice: '#f8f7f1',
    land: [
      [0, '#eee9cf'],
      [400, '#f3e9cb'],
      [1200, '#ead7b0'],
      [2500, '#d9bf97'],
      [4500, '#f2ece0'],
    ],
    shade: { strength: 0.5, dark: '#7c6f5e', light: '#fffdf2' },
    beyond: '#e9dfc6',
    shores: [
      { colour: '#c3dde2', width: 22 },
      { colour: '#d0e5e8', width: 10 },
    ],
    coast: { colour: '#5f8f9c', width: 1.8 },
    river: { colour: '#7fb0bf', width: 1.6 },
    border: { colour: '#a88252', width: 2, dash: [7, 4] },
    graticule: { colour: '#8fb9c4', width: 0.8 },
    town: { colour: '#6b5f55', rim: '#fbf6ea' },
    furniture: '#4d5a5e',
    names: { land: ['#6b5844', '#f3ead0'], sea: ['#3f7484', '#c3dde2'] },
  },
  relief: {
    title: 'Relief',
    sea: '#7fb2c4',
    deep: '#1f4f72',
    ice: '#f4f7fa',
    land: [
      [0, '#6f9a66'],
      [250, '#8fb074'],
      [700, '#c5c088'],
      [1500, '#c39a66'],
      [2800, '#9a7657'],
      [4200, '#d9d4cc'],
      [5500, '#ffffff'],
    ],
    shade: { strength: 1, dark: '#2b2a3a', light: '#fff6d8' },
    beyond: '#0d1b28',
    shores: [],
    coast: { colour: '#2f5c70', width: 1.2 },
    river: { colour: '#4d8fb0', width: 1.6 },
    border: { colour: '#fbf3e0', width: 1.9, dash: [6, 4] },
    graticule: { colour: '#5f93ab', width: 0.8 },
    town: { colour: '#2b2a33', rim: '#fff8e6' },
    furniture: '#fbf3e0',
    names: { land: ['#fffaf0', '#4b4a3a'], sea: ['#e6f3f7', '#2b6079'] },
  },
  ink: {
    title: 'Ink drawing',
    sea: '#f1e8d4',
    land: [[0, '#fbf6ea']],
    shade: { strength: 0.55, dark: '#5b5142', light: '#fbf6ea' },
    beyond: '#e6dbc1',
    // Alternate dark and light, so that ever paler lines run along the coast.
    shores: [
      { colour: '#d8cdb0', width: 31 },
      { colour: '#f1e8d4', width: 29.4 },
      { colour: '#bdb092', width: 19 },
      { colour: '#f1e8d4', width: 17.2 },
      { colour: '#8d7f63', width: 9 },
      { colour: '#f1e8d4', width: 6.8 },
    ],
    coast: { colour: '#2c2a33', width: 2.8 },
    river: { colour: '#5d5548', width: 1.4 },
    border: { colour: '#6d6557', width: 1.9, dash: [1.5, 4.5] },
    graticule: { colour: '#dccfae', width: 0.9 },
    town: { colour: '#2c2a33', rim: '#fbf6ea' },
    furniture: '#2c2a33',
    names: { land: ['#4a4238', '#fbf6ea'], sea: ['#7d6f54', '#f1e8d4'] },
  },
  nightfall: {
    title: 'Nightfall',
    sea: '#12253c',
    deep: '#0a1524',
    ice: '#7d9bb8',
    land: [
      [0, '#1f3450'],
      [2000, '#2b4767'],
      [5000, '#48688a'],
    ],
    shade: { strength: 0.7, dark: '#070e1a', light: '#5d86ad' },
    beyond: '#070e19',
    shores: [
      { colour: '#142a42', width: 22 },
      { colour: '#193651', width: 10 },
    ],
    coast: { colour: '#6fb4c4', width: 1.4 },
    river: { colour: '#2f5876', width: 1.2 },
    border: { colour: '#4b6c8c', width: 1.5, dash: [5, 4] },
    graticule: { colour: '#1a3049', width: 0.8 },
    town: { colour: '#ffe2a8', rim: '#ffe2a8', glow: '#ffb347' },
    furniture: '#9db9d1',
    names: { land: ['#b9cfe2', '#1b2f49'], sea: ['#6fa6c4', '#0f2036'] },
  },
  'sea-chart': {
    title: 'Sea chart',
    sea: '#e3f0f4',
    deep: '#fdfdf8',
    land: [[0, '#ecd59a']],
    beyond: '#e9e6d6',
    shores: [
      { colour: '#cfe5ee', width: 34 },
      { colour: '#a9d2e2', width: 14 },
    ],
    coast: { colour: '#3b3a36', width: 2 },
    river: { colour: '#8ebdd0', width: 1.5 },
    border: { colour: '#8e6aa0', width: 2.2, dash: [9, 3, 1.5, 3] },
    graticule: { colour: '#b3bec4', width: 0.8 },
    town: { colour: '#3b3a36', rim: '#ecd59a' },
    furniture: '#8e4a78',
    names: { land: ['#5e4a2c', '#ecd59a'], sea: ['#8e4a78', '#f3f6f4'] },
  },
  countries: {
    title: 'Countries',
    sea: '#dbe7ea',
    land: [[0, '#f2eee3']],
    countries: { colours: ['#e8b4a0', '#f0d59a', '#b9cf9f', '#a9c6c9', '#c9b2cf', '#e3c3b1', '#d6d39d'], opacity: 0.85 },
    shade: { strength: 0.25, dark: '#6a5a5a', light: '#ffffff' },
    beyond: '#f4f0e6',
    shores: [{ colour: '#c9dde2', width: 9 }],
    coast: { colour: '#7f9096', width: 1.4 },
    river: { colour: '#a5c3cc', width: 1.2 },
    border: { colour: '#fffdf7', width: 3 },
    graticule: { colour: '#c5d6da', width: 0.8 },
    town: { colour: '#4c4650', rim: '#fffdf7' },
    furniture: '#4c4650',
    names: { land: ['#4c4650', '#f4e6d2'], sea: ['#6d868e', '#dbe7ea'] },
  },
  'cut-paper': {
    title: 'Cut paper',
    sea: '#2f6d7a',
    ice: '#fffaf0',
    land: [
      [0, '#f4e3c1'],
      [900, '#efcf9b'],
      [2200, '#e2a86f'],
      [4000, '#fff5e3'],
    ],
    lifted: { colour: '#0b2e37', reach: 14 },
    beyond: '#1d4650',
    shores: [{ colour: '#3f8794', width: 26 }],
    coast: { colour: '#fff7e6', width: 2 },
    river: { colour: '#6aa5ad', width: 2 },
    border: { colour: '#c6834f', width: 1.9, dash: [2, 5] },
    graticule: { colour: '#3a7a87', width: 0.9 },
    town: { colour: '#b0492f', rim: '#fff7e6' },
    furniture: '#f4e3c1',
    names: { land: ['#8a4b2a', '#f4e3c1'], sea: ['#d9eef0', '#2f6d7a'] },
  },
  blank: {
    title: 'Blank',
    sea: '#d9dedb',
    land: [[0, '#a9b7a4']],
    beyond: '#f1f2ee',
    shores: [],
    coast: { colour: '#a9b7a4', width: 0.8 },
    river: { colour: '#c9d2cc', width: 1.5 },
    border: { colour: '#d9dedb', width: 1.9 },
    graticule: { colour: '#cdd3cf', width: 0.9 },
    town: { colour: '#5d6b5a', rim: '#d9dedb' },
    furniture: '#5d6b5a',
    names: { land: ['#45523f', '#b4c1af'], sea: ['#737e79', '#eef1ee'] },
  },
  day: {
    title: 'By day',
    sea: '#0f2a52',
    land: [[0, '#6d6b4a']],
    beyond: '#05080f',
    shores: [],
    coast: { colour: '#dfe9ee', width: 0.9 },
    river: { colour: '#6fa0bd', width: 1 },
    border: { colour: '#f6eedb', width: 1.2, dash: [5, 4] },
    graticule: { colour: '#6e8fae', width: 0.7 },
    town: { colour: '#fff8e6', rim: '#24303a' },
    furniture: '#fff8e6',
    names: { land: ['#fffaf0', '#26301f'], sea: ['#c9dcee', '#0f2a52'] },
  },
  night: {
    title: 'By night',
    sea: '#03070f',
    land: [[0, '#0f1a26']],
    beyond: '#010205',
    shores: [],
    coast: { colour: '#2f4a60', width: 0.9 },
    river: { colour: '#1d3448', width: 1 },
    border: { colour: '#3f5a70', width: 1.1, dash: [5, 4] },
    graticule: { colour: '#16283a', width: 0.7 },
    town: { colour: '#ffe2a8', rim: '#ffe2a8', glow: '#ffb347' },
    furniture: '#b9c9d6',
    names: { land: ['#d5dfe8', '#0a1420'], sea: ['#7f9bb3', '#050b14'] },
  },
}

/** A map in another style. Those of the night show towns by their light. */
export const inStyle = (map: DrawnMap, style: MapStyle): DrawnMap => ({
  ...map,
  style,
  towns: STYLE_SHEETS[style].town.glow !== undefined,
})
