/** Random drawings with all that is painted on layers of its own, seeded. */

/** Park and Miller's generator (1988), 0..1. */
export function seeded(seed: number): () => number {
  let state = (seed % 2_147_483_646) + 1
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647
}

const LAYERS = [
  'opacity=".5"',
  'style="opacity:.4"',
  'mask="url(#mask)"',
  'clip-path="url(#clip)"',
  'filter="url(#blur)"',
  'style="mix-blend-mode:multiply"',
  'style="isolation:isolate"',
  '',
]

/** A drawing of 400 x 300 whose shapes lie within it, across its edges and outside. */
export function randomDrawing(seed: number): string {
  const random = seeded(seed)
  const between = (a: number, b: number) => (a + (b - a) * random()).toFixed(1)
  const colour = () => `#${Math.floor(random() * 0xffffff).toString(16).padStart(6, '0')}` // prettier-ignore
  const shape = () => {
    const [x, y] = [between(-60, 420), between(-60, 320)]
    switch (Math.floor(random() * 4)) {
      case 0:
        return `<rect x="${x}" y="${y}" width="${between(4, 90)}" height="${between(4, 90)}" fill="${colour()}"/>`
      case 1:
        return `<circle cx="${x}" cy="${y}" r="${between(2, 50)}" fill="${colour()}" stroke="${colour()}" stroke-width="3"/>`
      case 2:
        return `<path d="M${x} ${y}l40 9l-12 30z" fill="none" stroke="${colour()}" stroke-width="${between(1, 6)}" marker-end="url(#tip)"/>`
      default:
        return `<use href="#mark" x="${x}" y="${y}"/>`
    }
  }
  const grouped = () => {
    const layer = LAYERS[Math.floor(random() * LAYERS.length)]!
    return `<g ${layer} transform="rotate(${between(-20, 20)} 200 150)">${shape()}${random() < 0.4 ? shape() : ''}</g>`
  }
  const defs = `<mask id="mask"><rect x="-100" y="-100" width="600" height="500" fill="#999"/></mask>
    <clipPath id="clip"><circle cx="220" cy="150" r="140"/></clipPath>
    <filter id="blur" x="-20%" y="-20%" width="140%" height="140%"><feOffset dx="3" dy="2"/></filter>
    <marker id="tip" markerWidth="6" markerHeight="6" refX="3" refY="3"><path d="M0 0L6 3L0 6z"/></marker>
    <symbol id="mark" viewBox="0 0 10 10" width="24" height="24"><circle cx="5" cy="5" r="5" fill="#357"/></symbol>`
  const count = 3 + Math.floor(random() * 9)
  return `<svg viewBox="0 0 400 300" xmlns="http://www.w3.org/2000/svg"><defs>${defs}</defs><rect width="400" height="300" fill="#eee"/>${Array.from({ length: count }, grouped).join('')}</svg>`
}
