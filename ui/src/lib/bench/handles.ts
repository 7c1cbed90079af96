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

type At = { x: (m: number) => number; y: (m: number) => number }
const beside = 6 // px between a line and its figure
const along = [0.5, 0.4, 0.6, 0.3, 0.7, 0.2, 0.8, 0.1, 0.9] // of an upright line, where its figure may stand

/** Where the figure of a dimension may stand, its box being so large (px): beside an upright line, round the knob of a level one. */
export function spots(h: Handle, at: At, box: { w: number; h: number }) {
  const [x, y] = [at.x(h.x2), at.y(h.y2)]
  if (h.upright) {
    const [top, bottom] = [Math.min(at.y(h.y1), y), Math.max(at.y(h.y1), y)]
    const level = (share: number) => Math.min(at.y(0) - box.h, top + share * (bottom - top) - box.h / 2) // not under the floor
    const far = [beside, 3 * beside, 6 * beside]
    return [
      ...along.flatMap((share) => [
        { x: x + beside, y: level(share) },
        { x: x - beside - box.w, y: level(share) },
      ]),
      ...far.flatMap((by) => [
        { x: x - box.w / 2, y: Math.min(at.y(0) - box.h, bottom + by + 4) },
        { x: x + by, y: level(1) },
        { x: x - by - box.w, y: level(1) },
        { x: x - box.w / 2, y: top - by - 4 - box.h },
        { x: x + by, y: level(1.4) },
        { x: x - by - box.w, y: level(1.4) },
      ]),
    ]
  }
  return [12, 20, 30, 42].flatMap((far) => [
    { x: x - box.w / 2, y: y + far },
    { x: x - box.w / 2, y: y - far - box.h },
    { x: x + far, y: y - box.h / 2 },
    { x: x - far - box.w, y: y - box.h / 2 },
    { x: x - box.w - 4, y: y + far },
    { x: x + 4, y: y + far },
    { x: x - box.w - 4, y: y - far - box.h },
    { x: x + 4, y: y - far - box.h },
  ])
}
