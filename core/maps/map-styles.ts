import type { MapStyle } from '../journey/schema'

/** The look of a drawn map. Widths are in pixels of a map 4096 wide. */
export interface StyleSheet {
  title: string
  sea: string
  land: string
  /** The edge of the Earth. */
  beyond: string
  /** Bands along the coasts in the sea, the widest first. */
  shores: readonly { colour: string; width: number }[]
  coast: { colour: string; width: number }
  border: { colour: string; width: number; dash: string }
  graticule: { colour: string; width: number }
}

export const STYLE_SHEETS: Record<MapStyle, StyleSheet> = {
  atlas: {
    title: 'Atlas',
    sea: '#b5d3da',
    land: '#f2e8cf',
    beyond: '#e9dfc6',
    shores: [
      { colour: '#bedae0', width: 56 },
      { colour: '#c9e2e6', width: 26 },
    ],
    coast: { colour: '#5f8f9c', width: 3 },
    border: { colour: '#b18c5e', width: 3, dash: '14 8' },
    graticule: { colour: '#a2c3cb', width: 2 },
  },
  ink: {
    title: 'Ink drawing',
    sea: '#f1e8d4',
    land: '#fbf6ea',
    beyond: '#e6dbc1',
    // Alternate dark and light, so that ever paler lines run along the coast.
    shores: [
      { colour: '#cbbf9f', width: 64 },
      { colour: '#f1e8d4', width: 60 },
      { colour: '#b0a283', width: 40 },
      { colour: '#f1e8d4', width: 36 },
      { colour: '#8d7f63', width: 20 },
      { colour: '#f1e8d4', width: 15 },
    ],
    coast: { colour: '#2c2a33', width: 5 },
    border: { colour: '#6d6557', width: 3, dash: '3 9' },
    graticule: { colour: '#dccfae', width: 2 },
  },
  nightfall: {
    title: 'Nightfall',
    sea: '#0c1829',
    land: '#1f3450',
    beyond: '#070e19',
    shores: [
      { colour: '#0f2036', width: 60 },
      { colour: '#14304a', width: 26 },
      { colour: '#1e5166', width: 10 },
    ],
    coast: { colour: '#7cc4d1', width: 2.5 },
    border: { colour: '#4b6c8c', width: 2.5, dash: '10 8' },
    graticule: { colour: '#15273e', width: 2 },
  },
  'sea-chart': {
    title: 'Sea chart',
    sea: '#fbfbf4',
    land: '#ecd59a',
    beyond: '#e9e6d6',
    shores: [
      { colour: '#dcecf2', width: 80 },
      { colour: '#bfdde8', width: 34 },
    ],
    coast: { colour: '#3b3a36', width: 3.5 },
    border: { colour: '#8e6aa0', width: 4, dash: '18 6 3 6' },
    graticule: { colour: '#c6cdd0', width: 2 },
  },
  blank: {
    title: 'Blank',
    sea: '#d9dedb',
    land: '#a9b7a4',
    beyond: '#f1f2ee',
    shores: [],
    coast: { colour: '#a9b7a4', width: 1 },
    border: { colour: '#d9dedb', width: 3, dash: '' },
    graticule: { colour: '#cdd3cf', width: 2 },
  },
}
