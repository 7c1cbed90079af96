import type { Schemas } from '../api/client'

export type Cycle = Schemas['Cycle']

/** A planned strike on a trace, in seconds on its clock. */
export type TraceStrike = {
  i: number
  at: number
  hand: string
  window: number
  verdict?: string
  error?: number | null
}

/** A hit that was captured. */
export type TraceHit = { at: number; hand: string; extra?: boolean }

/** Where the bag is (−1 near board … 1 far board) so many seconds after a strike, read off the cycle's samples. */
export function swingAt(cycle: Cycle, t: number): number {
  const points = cycle.trace
  const first = points[0]
  const last = points[points.length - 1]
  if (!first || !last) return 0
  if (t <= first.at) return first.swing
  if (t >= last.at) return last.swing
  let lo = 0
  let hi = points.length - 1
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1
    if (points[mid]!.at <= t) lo = mid
    else hi = mid
  }
  const a = points[lo]!
  const b = points[hi]!
  return a.swing + ((b.swing - a.swing) * (t - a.at)) / (b.at - a.at)
}

/** Where the bag is at a moment of a row of strikes: still before the first, and coming to rest after the last return. */
export function swingOn(cycle: Cycle, strikes: TraceStrike[], at: number): number {
  let lo = 0
  let hi = strikes.length
  while (lo < hi) {
    const mid = (lo + hi) >> 1
    if (strikes[mid]!.at <= at) lo = mid + 1
    else hi = mid
  }
  const struck = strikes[lo - 1]
  if (!struck) return 0
  const t = at - struck.at
  return t <= cycle.return ? swingAt(cycle, t) : 0
}

export type Scale = { x: (t: number) => number; y: (swing: number) => number }

/** The bag's path over time as an SVG path: one cycle from each strike. */
export function curve(cycle: Cycle, strikes: TraceStrike[], s: Scale): string {
  let path = ''
  for (const strike of strikes) {
    cycle.trace.forEach((p, k) => {
      path += `${k === 0 ? 'M' : 'L'}${s.x(strike.at + p.at).toFixed(1)} ${s.y(p.swing).toFixed(1)}`
    })
  }
  return path
}

/** The part of the curve inside the window of each strike: the end of the cycle before it and the beginning of its own. */
export function windows(cycle: Cycle, strikes: TraceStrike[], s: Scale): string {
  let path = ''
  const half = 12
  for (const strike of strikes) {
    for (let k = 0; k <= half; k++) {
      const before = (strike.window / 2) * (1 - k / half)
      const swing = swingAt(cycle, cycle.return - before)
      path += `${k === 0 ? 'M' : 'L'}${s.x(strike.at - before).toFixed(1)} ${s.y(swing).toFixed(1)}`
    }
    for (let k = 1; k <= half; k++) {
      const after = (strike.window / 2) * (k / half)
      path += `L${s.x(strike.at + after).toFixed(1)} ${s.y(2 * cycle.strike - swingAt(cycle, cycle.return - after)).toFixed(1)}`
    }
  }
  return path
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
