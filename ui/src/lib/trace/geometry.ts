import type { Schemas } from '../api/client'

export type Cycle = Schemas['Cycle']

/** A planned strike on a trace, in seconds on its clock. */
export type TraceStrike = {
  i: number
  at: number
  hand: string
  window: number
  side?: 1 | -1 // −1 where the bag is struck from behind: the picture is mirrored
  verdict?: string
  error?: number | null
}

/** A hit that was captured. */
export type TraceHit = { at: number; hand: string; extra?: boolean }

type Point = Schemas['TracePoint']

/** Reads a row of points off at a moment. */
function read(points: Point[], t: number): number {
  let lo = 0
  let hi = points.length - 1
  if (hi < 0) return 0
  if (t <= points[lo]!.at) return points[lo]!.swing
  if (t >= points[hi]!.at) return points[hi]!.swing
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1
    if (points[mid]!.at <= t) lo = mid
    else hi = mid
  }
  const a = points[lo]!
  const b = points[hi]!
  return a.swing + ((b.swing - a.swing) * (t - a.at)) / (b.at - a.at)
}

/** Where the bag is (−1 near board … 1 far board) so many seconds after a strike; past its return, where it is let go by. */
export function swingAt(cycle: Cycle, t: number): number {
  return t <= cycle.return ? read(cycle.trace, t) : read(cycle.through, t - cycle.return)
}

const sideOf = (s: TraceStrike) => s.side ?? 1

/** The last strike at or before a moment. */
function struckBefore(strikes: TraceStrike[], at: number): TraceStrike | undefined {
  let lo = 0
  let hi = strikes.length
  while (lo < hi) {
    const mid = (lo + hi) >> 1
    if (strikes[mid]!.at <= at) lo = mid + 1
    else hi = mid
  }
  return strikes[lo - 1]
}

/** Where the bag is at a moment of a row of strikes: still before the first, and at rest after the last return. */
export function swingOn(cycle: Cycle, strikes: TraceStrike[], at: number): number {
  const struck = struckBefore(strikes, at)
  if (!struck || at - struck.at > cycle.return) return 0
  return sideOf(struck) * swingAt(cycle, at - struck.at)
}

/** Where a hit met the bag: one that came late found it further on than planned, not on its way out again. */
export function hitSwing(cycle: Cycle, strikes: TraceStrike[], at: number): number {
  const struck = struckBefore(strikes, at)
  const late = struck ? at - struck.at : 0
  if (!struck || late > cycle.window) return swingOn(cycle, strikes, at)
  return sideOf(struck) * across(cycle) * read(cycle.through, late)
}

export type Scale = { x: (t: number) => number; y: (swing: number) => number }

/** The bag's path over time as an SVG path: one cycle from each strike. */
export function curve(cycle: Cycle, strikes: TraceStrike[], s: Scale): string {
  let path = ''
  for (const strike of strikes) {
    cycle.trace.forEach((p, k) => {
      path += `${k === 0 ? 'M' : 'L'}${s.x(strike.at + p.at).toFixed(1)} ${s.y(sideOf(strike) * p.swing).toFixed(1)}`
    })
  }
  return path
}

/** The bag's way through the window of each strike, hit or not. */
export function windows(cycle: Cycle, strikes: TraceStrike[], s: Scale): string {
  let path = ''
  const half = 12
  for (const strike of strikes) {
    for (let k = -half; k <= half; k++) {
      const t = (strike.window / 2) * (k / half)
      const swing = k <= 0 ? read(cycle.trace, cycle.return + t) * across(cycle) : read(cycle.through, t) * across(cycle)
      path += `${k === -half ? 'M' : 'L'}${s.x(strike.at + t).toFixed(1)} ${s.y(sideOf(strike) * swing).toFixed(1)}`
    }
  }
  return path
}

/** −1 where the next strike of a cycle meets the bag from the other side. */
export const across = (cycle: Cycle): 1 | -1 => (cycle.boards.length % 2 === 0 ? -1 : 1)

/** A row of strikes for a still picture, from the one before the first: hands in turn, and the side in turn where the count is even. */
export function sample(cycle: Cycle, hands: string[]): TraceStrike[] {
  const many = Math.ceil(1 / cycle.return) + 4 // enough for any still picture
  return Array.from({ length: many }, (_, k) => {
    const i = k - 1
    return { i, at: i * cycle.return, hand: hands.at(i % Math.max(1, hands.length)) ?? 'lead', window: cycle.window, side: across(cycle) === -1 && i % 2 !== 0 ? -1 : 1 }
  })
}

/** A hand's way out to the bag and back, from its lane's floor to its roof. */
export function handPath(cycle: Cycle, strike: TraceStrike, x: (t: number) => number, floor: number, roof: number): string {
  const [a, b, c] = [x(strike.at - cycle.reach), x(strike.at), x(strike.at + cycle.reach)]
  return `M${a.toFixed(1)} ${floor}C${((a + b) / 2).toFixed(1)} ${floor} ${((a + b) / 2).toFixed(1)} ${roof} ${b.toFixed(1)} ${roof}S${((b + c) / 2).toFixed(1)} ${floor} ${c.toFixed(1)} ${floor}`
}

/** Which board a contact is with: the far one first, then in turn. */
export const boardOf = (n: number): 1 | -1 => (n % 2 === 0 ? 1 : -1)

/** Even steps for a time axis of so many seconds. */
export function timeSteps(from: number, to: number, most: number): number[] {
  const span = to - from
  const step = [0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30].find((s) => span / s <= most) ?? 60
  const list = []
  for (let t = Math.ceil(from / step - 1e-9) * step; t <= to + 1e-9; t += step) list.push(Math.round(t * 1000) / 1000)
  return list
}

/** The trace in words, for those who do not see it. */
export function describe(cycle: Cycle, tempo: number): string {
  const boards = cycle.boards.map((t, n) => `${boardOf(n) === 1 ? 'far' : 'near'} board at ${t.toFixed(3)} s`).join(', ')
  return (
    `Swing of the bag from one strike to the next at ${Math.round(tempo)} a minute: struck at 0, ${boards}, ` +
    `back at the strike point at ${cycle.return.toFixed(3)} s. It can be struck for ${Math.round(cycle.window * 1000)} ms around that moment.`
  )
}
