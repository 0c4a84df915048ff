/** A .cube file of a small table that turns a picture cold and flat. */
export const COLD_CUBE = [
  'TITLE "Cold"',
  'LUT_3D_SIZE 2',
  '.1 .15 .3',
  '.7 .4 .5',
  '.2 .7 .5',
  '.8 .85 .7',
  '.1 .3 .8',
  '.7 .5 .9',
  '.3 .8 1',
  '.9 1 1',
].join('\n')
