/** Redraws the made-up photo of Emberlight at dusk: `npm run demo:photo`. The picture is kept beside this file. */
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { SKRSContext2D } from '@napi-rs/canvas'
import { createCanvas } from '@napi-rs/canvas'
import sharp from 'sharp'
import { seeded } from './noise'

const OUT = join(process.cwd(), 'demo/emberlight.webp')
const [WIDTH, HEIGHT] = [1500, 1000]
/** Where the sea meets the sky, and where the sun stands. */
const HORIZON = 610
const SUN = { x: 1010, y: 520 }
const random = seeded(77)

const canvas = createCanvas(WIDTH, HEIGHT)
const context = canvas.getContext('2d')
sky(context)
ridge(context, HORIZON - 30, 95, 210, '#8d6a86')
ridge(context, HORIZON - 8, 150, 120, '#5d4a6e')
sea(context)
headland(context)
jetty(context)
seaplane(context, 1090, 800)
const file = await sharp(canvas.data(), { raw: { width: WIDTH, height: HEIGHT, channels: 4 } })
  .removeAlpha()
  .webp({ quality: 82, effort: 5 })
  .toBuffer()
await writeFile(OUT, file)
console.log(`${WIDTH} x ${HEIGHT} pixels, ${(file.length / 1024).toFixed(0)} KiB`)

function gradient(target: SKRSContext2D, from: number, to: number, stops: readonly (readonly [number, string])[]) {
  const paint = target.createLinearGradient(0, from, 0, to)
  for (const [at, colour] of stops) paint.addColorStop(at, colour)
  return paint
}

function disc(target: SKRSContext2D, x: number, y: number, radius: number, colour: SKRSContext2D['fillStyle']): void {
  target.fillStyle = colour
  target.beginPath()
  target.arc(x, y, radius, 0, 7)
  target.fill()
}

/** Light that fades outwards. */
function glow(target: SKRSContext2D, x: number, y: number, radius: number, colour: string, strength: number): void {
  const light = target.createRadialGradient(x, y, 0, x, y, radius)
  light.addColorStop(0, colour)
  light.addColorStop(1, `${colour}00`)
  target.globalAlpha = strength
  disc(target, x, y, radius, light)
  target.globalAlpha = 1
}

function sky(target: SKRSContext2D): void {
  target.fillStyle = gradient(target, 0, HORIZON, [
    [0, '#27365f'],
    [0.35, '#6b5584'],
    [0.65, '#d1786c'],
    [0.86, '#f2ab6b'],
    [1, '#fbd795'],
  ])
  target.fillRect(0, 0, WIDTH, HEIGHT)
  for (let i = 0; i < 70; i++) disc(target, random() * WIDTH, random() * 240, 0.8 + random() * 1.2, `rgba(255,246,224,${random() * 0.7})`)
  glow(target, SUN.x, SUN.y, 520, '#ffd48a', 0.75)
  disc(target, SUN.x, SUN.y, 52, '#fff1c4')
  // Long clouds, lit from below.
  for (let i = 0; i < 34; i++) {
    const [x, y] = [random() * WIDTH, 120 + random() ** 0.7 * 400]
    const [w, h] = [90 + random() * 260, 3 + random() * 11]
    target.fillStyle = y > 380 ? `rgba(255,214,160,${0.1 + random() * 0.22})` : `rgba(70,58,104,${0.12 + random() * 0.22})`
    target.beginPath()
    target.ellipse(x, y, w, h, -0.02, 0, 7)
    target.fill()
  }
}

/** A chain of hills along the horizon. */
function ridge(target: SKRSContext2D, base: number, height: number, step: number, colour: string): void {
  target.fillStyle = colour
  target.beginPath()
  target.moveTo(0, base + 60)
  const phase = random() * 6
  for (let x = 0; x <= WIDTH; x += 6) {
    const wave = Math.sin(x / step + phase) * 0.5 + Math.sin(x / (step * 0.37) + phase * 2) * 0.22 + Math.sin(x / 31 + phase) * 0.06
    const share = 1 - Math.min(1, Math.abs(x - 430) / 900)
    target.lineTo(x, base - Math.max(0, wave + 0.35) * height * (0.25 + share))
  }
  target.lineTo(WIDTH, base + 60)
  target.fill()
}

function sea(target: SKRSContext2D): void {
  target.fillStyle = gradient(target, HORIZON, HEIGHT, [
    [0, '#e9a878'],
    [0.16, '#b0707f'],
    [0.5, '#4d4a76'],
    [1, '#1d2a4b'],
  ])
  target.fillRect(0, HORIZON, WIDTH, HEIGHT - HORIZON)
  // The sun's road on the water, and waves that catch the sky.
  for (let i = 0; i < 900; i++) {
    const u = random() ** 1.4
    const y = HORIZON + 3 + u * (HEIGHT - HORIZON)
    const isRoad = random() < 0.55
    const x = isRoad ? SUN.x + (random() - 0.5) * (50 + u * 300) : random() * WIDTH
    target.fillStyle = isRoad ? `rgba(255,226,160,${0.2 + random() * 0.5})` : `rgba(240,176,150,${random() * 0.16})`
    target.beginPath()
    target.ellipse(x, y, 4 + u * 34 * (0.4 + random()), 0.8 + u * 2.4, 0, 0, 7)
    target.fill()
  }
}

/** The headland with the lighthouse and the town's lit windows. */
function headland(target: SKRSContext2D): void {
  target.fillStyle = gradient(target, 380, 720, [
    [0, '#3a3458'],
    [1, '#1c2340'],
  ])
  target.beginPath()
  target.moveTo(0, 470)
  target.bezierCurveTo(120, 420, 210, 470, 300, 505)
  target.bezierCurveTo(390, 470, 430, 500, 470, 545)
  target.bezierCurveTo(540, 560, 590, 620, 680, 655)
  target.bezierCurveTo(560, 690, 300, 700, 0, 730)
  target.fill()
  for (let i = 0; i < 46; i++) {
    const x = 10 + random() * 560
    const ground = 520 + (x / 600) * 95
    const [y, w, h] = [ground + random() * 60, 20 + random() * 18, 18 + random() * 16]
    target.fillStyle = '#262a49'
    target.fillRect(x, y, w, h)
    target.fillStyle = '#4b3c5c'
    target.beginPath()
    target.moveTo(x - 3, y)
    target.lineTo(x + w / 2, y - h * 0.55)
    target.lineTo(x + w + 3, y)
    target.fill()
    if (random() < 0.75) {
      glow(target, x + w / 2, y + h / 2, 26, '#ffc46b', 0.45)
      target.fillStyle = '#ffe0a0'
      target.fillRect(x + w * 0.4, y + h * 0.35, 5, 7)
    }
  }
  const [x, y] = [300, 505]
  target.fillStyle = 'rgba(255,232,170,0.2)'
  for (const end of [
    [1500, 90, 210],
    [0, 300, 350],
  ] as const) {
    target.beginPath()
    target.moveTo(x, y - 192)
    target.lineTo(end[0], end[1])
    target.lineTo(end[0], end[2])
    target.fill()
  }
  target.fillStyle = '#f1e6d2'
  target.beginPath()
  target.moveTo(x - 24, y + 14)
  target.lineTo(x - 15, y - 168)
  target.lineTo(x + 15, y - 168)
  target.lineTo(x + 24, y + 14)
  target.fill()
  target.fillStyle = '#c9483a'
  for (const k of [0, 1, 2]) target.fillRect(x - 21 + k * 2.6, y - 36 - k * 56, 42 - k * 5.2, 26)
  target.fillStyle = '#2b2b45'
  target.fillRect(x - 20, y - 174, 40, 7)
  target.fillRect(x - 12, y - 216, 24, 6)
  glow(target, x, y - 192, 120, '#fff0c0', 0.95)
  target.fillStyle = '#fff4cf'
  target.fillRect(x - 10, y - 210, 20, 36)
}

function jetty(target: SKRSContext2D): void {
  target.fillStyle = '#1b2038'
  for (let k = 0; k < 9; k++) target.fillRect(560 + k * 58, 742 + k * 9, 9, 64 + k * 8)
  target.beginPath()
  target.moveTo(520, 722)
  target.lineTo(1080, 812)
  target.lineTo(1080, 828)
  target.lineTo(500, 738)
  target.fill()
  for (let k = 0; k < 5; k++) {
    const [x, y] = [590 + k * 112, 690 + k * 18]
    target.fillStyle = '#1b2038'
    target.fillRect(x - 2, y, 4, 52)
    glow(target, x, y, 58, '#ffc978', 0.8)
    disc(target, x, y, 7, '#fff0c4')
    for (let i = 0; i < 14; i++) {
      target.fillStyle = `rgba(255,206,130,${0.4 - i * 0.026})`
      target.fillRect(x - 9 + random() * 8, y + 130 + i * 9, 10 + random() * 10, 2.5)
    }
  }
}

/** A moored seaplane, seen from the side. */
function seaplane(target: SKRSContext2D, x: number, y: number): void {
  target.save()
  target.translate(x, y)
  target.fillStyle = 'rgba(16,20,40,0.45)'
  target.beginPath()
  target.ellipse(120, 82, 190, 10, 0, 0, 7)
  target.fill()
  target.fillStyle = '#b33c31'
  target.beginPath()
  target.moveTo(-20, 6)
  target.bezierCurveTo(30, -34, 120, -34, 180, -14)
  target.lineTo(282, -22)
  target.bezierCurveTo(292, -4, 286, 8, 262, 12)
  target.bezierCurveTo(180, 34, 40, 40, -14, 26)
  target.fill()
  target.beginPath()
  target.moveTo(240, -18)
  target.lineTo(268, -82)
  target.lineTo(294, -82)
  target.lineTo(286, -14)
  target.fill()
  target.fillStyle = '#f3e7cf'
  target.fillRect(-4, -44, 210, 11)
  target.fillStyle = '#ffe3a3'
  for (let k = 0; k < 4; k++) target.fillRect(38 + k * 30, -16, 17, 14)
  target.strokeStyle = '#2a2a44'
  target.lineWidth = 5
  for (const [a, b] of [
    [40, 20],
    [150, 150],
  ] as const) {
    target.beginPath()
    target.moveTo(a, 28)
    target.lineTo(b, 66)
    target.stroke()
  }
  target.fillStyle = '#2a2a44'
  target.beginPath()
  target.moveTo(-40, 60)
  target.bezierCurveTo(40, 84, 150, 84, 226, 64)
  target.lineTo(220, 58)
  target.lineTo(-30, 56)
  target.fill()
  target.fillRect(-27, -26, 6, 78)
  target.restore()
}
