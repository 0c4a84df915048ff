/** A document of the present version as version 5 would have written it: its lines had all fields at once, its vehicles no kind, and a break was a gap. */
export function asVersion5(document: unknown): Record<string, unknown> {
  const { travellers, ...rest } = JSON.parse(JSON.stringify(document)) as { travellers: { legs: Leg[] }[] }
  return { ...rest, version: 5, travellers: travellers.map((traveller) => ({ ...traveller, legs: traveller.legs.map(oldLeg) })) }
}

interface Leg {
  ink: {
    colour: string
    width: number
    cap: string
    line: { kind: string; dash?: number; space?: number }
    glow: { colour: string; radius: number; strength: number } | null
  }
  vehicle: { kind: string; artwork: string; colour: string; size: number } | null
  course: { kind: string; nodes?: { break?: boolean }[] }
}

function oldLeg({ ink: { colour, width, cap, line, glow }, vehicle, course, ...rest }: Leg): unknown {
  return {
    ...rest,
    ink: {
      colour,
      width,
      cap,
      line: line.kind,
      dash: line.dash ?? 26,
      gap: line.space ?? 18,
      glow: glow && { colour: glow.colour, radius: glow.radius, strength: glow.strength },
    },
    vehicle: vehicle && { artwork: vehicle.artwork, colour: vehicle.colour, size: vehicle.size },
    course: course.nodes
      ? {
          ...course,
          nodes: course.nodes.map(({ break: isBroken, ...node }) => (isBroken === undefined ? node : { ...node, gap: isBroken })),
        }
      : course,
  }
}
