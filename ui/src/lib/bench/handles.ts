import type { Schemas } from '../api/client'

type Handle = Schemas['Handle']
type Changes = { field: string; to: number }[]

/** How the measures that hang on a handle stand. */
export const standing = (h: Handle, read: ((field: string) => number) | undefined): Record<string, number> =>
  Object.fromEntries(h.moves.map((m) => [m.field, read?.(m.field) ?? 0]))

/** By how much its own measure changes over a metre of the picture. */
export const own = (h: Handle) => h.moves.find((m) => m.field === h.field)!.per

/** Moves a measure from where it began to a value, and whatever hangs on it along. */
export function moved(h: Handle, from: Record<string, number>, wanted: number): Changes {
  const value = Math.min(h.max, Math.max(h.min, wanted))
  const metres = (value - h.value) / own(h)
  return h.moves.map((m) => ({ field: m.field, to: Math.round((from[m.field]! + m.per * metres) * 1e4) / 1e4 }))
}

/** Where the figure of a dimension stands (px): beside an upright line, over or under a level one's knob. */
export function written(h: Handle, scale: { x: (m: number) => number; y: (m: number) => number }) {
  const [x, y] = [scale.x, scale.y]
  const floor = y(0) - 12 // what ends there is written over it
  if (h.upright) return { x: x(h.x1) + 7, y: Math.min(floor, (y(h.y1) + y(h.y2)) / 2 + 4), anchor: 'start' as const }
  const under = h.y1 === h.y2 && h.y2 > 0.3
  return {
    x: x(h.x2) + (h.x2 < 0 ? -11 : 11),
    y: y(h.y2) + (under ? 18 : -8),
    anchor: h.x2 < 0 ? ('end' as const) : ('start' as const),
  }
}
