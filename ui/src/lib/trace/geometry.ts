import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import type { Schemas } from '../api/client'

export type Cycle = Schemas['Cycle']

/** A planned strike on a trace, in seconds on its clock. */
export type TraceStrike = {
  i: number
  at: number
  hand: string
  window: number
  side?: 1 | -1 // −1 where the bag is struck from behind: the picture is mirrored
  still?: boolean // it meets a bag at rest, which no window moves with
  pin?: boolean // a trap: the hand leads the bag into the board and holds it
  verdict?: string
  error?: number | null
  text?: string | undefined // of a combination: the punch, as this person does it
  part?: number | undefined // of a combination
  rep?: number | undefined // repetition of a combination
  move?: number | undefined // of its moves; negative where a cue asked for it
}

/** A defence or a step on a trace. */
export type TraceMove = {
  at: number
  until: number
  kind: string
  text: string
  late?: number
  part?: number | undefined
  rep?: number | undefined
  known?: number // s, when a cue called it; nothing foreseen it
}

/** A hit that was captured. */
export type TraceHit = {
  at: number
  hand: string
  extra?: boolean
  i?: number // the strike that was due
  off?: number // s from it
}

type Point = Schemas['TracePoint']

/** Reads a row of points off at a moment. */
export function read(points: Point[], t: number): number {
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

/** The cycle that follows a strike: after a trap another one than after the rest. */
export const after = (cycle: Cycle, s: TraceStrike | undefined): Cycle => (s?.pin && cycle.pinned) || cycle

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

/** Where the bag is at a moment of a trace that begins anew with each repetition. */
export function inFilm(cycle: Cycle, at: number): number {
  const start = cycle.starts.findLast((s) => s <= at + 1e-9)
  return start === undefined || at - start > cycle.turn ? 0 : read(cycle.trace, at - start)
}

/** Where the bag is at a moment of a row of strikes: still before the first, and at rest after the last return. */
export function swingOn(cycle: Cycle, strikes: TraceStrike[], at: number): number {
  if (cycle.starts.length > 0) return inFilm(cycle, at)
  const struck = struckBefore(strikes, at)
  if (!struck || at - struck.at > cycle.return) return 0
  return sideOf(struck) * swingAt(after(cycle, struck), at - struck.at)
}

/** Where a hit met the bag: one that came late found it further on than planned, not on its way out again. */
export function hitSwing(cycle: Cycle, strikes: TraceStrike[], at: number): number {
  if (cycle.starts.length > 0) return inFilm(cycle, at)
  const struck = struckBefore(strikes, at)
  const late = struck ? at - struck.at : 0
  if (!struck || late > cycle.window) return swingOn(cycle, strikes, at)
  return sideOf(struck) * across(cycle) * read(cycle.through, late)
}

export type Scale = { x: (t: number) => number; y: (swing: number) => number }

/** Points as an SVG path; empty for none. */
export const path = (points: Point[], s: Scale) =>
  line<Point>(
    (p) => s.x(p.at),
    (p) => s.y(p.swing),
  ).digits(1)(points) ?? ''

/** The bag's path over time: one cycle from each strike. */
export const curve = (cycle: Cycle, strikes: TraceStrike[], s: Scale): string =>
  strikes
    .map((strike) => {
      const way = after(cycle, strike).trace
      return path(
        way.map((p) => ({ at: strike.at + p.at, swing: sideOf(strike) * p.swing })),
        s,
      )
    })
    .join('')

/** Where the bag is so many seconds after (before) its return, when nobody strikes it. */
function around(cycle: Cycle, t: number): number {
  return across(cycle) * (t <= 0 ? read(cycle.trace, cycle.return + t) : read(cycle.through, t))
}

const along = 24 // steps through a window

/** The bag's way through the window of each strike, hit or not. */
export const windows = (cycle: Cycle, strikes: TraceStrike[], s: Scale): string =>
  strikes
    .map((strike, n) => {
      const half = strike.window / 2
      if (strike.still)
        return path(
          [
            { at: strike.at - half, swing: 0 },
            { at: strike.at + half, swing: 0 },
          ],
          s,
        )
      const before = after(cycle, strikes[n - 1]) // the way in is that of the strike before
      const film = cycle.starts.length > 0
      const [from, whole] = film ? [-half, strike.window] : [before.opens, before.window]
      const point = (k: number) => {
        const t = from + (whole * k) / along
        return { at: strike.at + t, swing: film ? inFilm(cycle, strike.at + t) : sideOf(strike) * around(before, t) }
      }
      return path(
        Array.from({ length: along + 1 }, (_, k) => point(k)),
        s,
      )
    })
    .join('')

/** A planned strike stands in the middle of its window: so many seconds from the return, and there the bag is. */
export const middle = (cycle: Cycle) => (cycle.opens + cycle.closes) / 2
export const met = (cycle: Cycle) => (Math.abs(middle(cycle)) < 1e-6 ? cycle.strike : around(cycle, middle(cycle)))

/** The way of a bag that nobody strikes, or a stretch of it. */
export function free(points: Point[], s: Scale, from = -Infinity, to = Infinity): string {
  const inside = points.filter((p) => p.at > from && p.at < to)
  const end = (at: number) => ({ at, swing: read(points, at) })
  return path(Number.isFinite(from) ? [end(from), ...inside, end(to)] : inside, s)
}

/** −1 where the next strike of a cycle meets the bag from the other side. */
export const across = (cycle: Cycle): 1 | -1 => (cycle.mirrored ? -1 : 1)

/** A row of strikes for a still picture, from the one before the first: the beats of a pattern in turn, or hands in turn on the face that the count allows. */
export function sample(cycle: Cycle, pattern: (string | Schemas['Beat'])[]): TraceStrike[] {
  const many = Math.ceil(1 / cycle.return) + 4 // enough for any still picture
  return Array.from({ length: many }, (_, k) => {
    const i = k - 1
    const beat = pattern.at(i % Math.max(1, pattern.length)) ?? 'lead'
    const strike = { i, at: i * cycle.return, window: cycle.window }
    if (typeof beat === 'string') return { ...strike, hand: beat, side: across(cycle) === -1 && i % 2 !== 0 ? -1 : 1 }
    return { ...strike, hand: beat.hand, side: beat.face === 'behind' ? -1 : 1, pin: beat.pin }
  })
}

/** A combination as it is composed: its strikes, and its defences and steps. */
export const composedStrikes = (moves: Schemas['ComposedMove'][]): TraceStrike[] =>
  moves.flatMap((m, i) =>
    m.kind === 'strike'
      ? [{ i, at: m.at, hand: m.hand, window: m.window, still: m.still, pin: false, text: m.said, part: m.part }]
      : [],
  )
export const composedMoves = (moves: Schemas['ComposedMove'][]): TraceMove[] =>
  moves.flatMap((m) =>
    m.kind === 'defence' || m.kind === 'step'
      ? [{ at: m.at, until: m.until, kind: m.kind, text: m.said, late: m.late, part: m.part }]
      : [],
  )

/** Strikes of a timeline. */
export const timelineStrikes = (events: Schemas['Event'][]): TraceStrike[] =>
  events
    .filter((e) => e.kind === 'strike')
    .map((e) => ({
      i: e.n ?? 0,
      at: e.at / 1e6,
      hand: e.hand ?? '',
      window: (e.window ?? 0) / 1e6,
      text: e.said ?? e.text,
      part: e.part,
      rep: e.rep,
      move: e.move,
      ...faced(e),
    }))

/** Defences and steps of a timeline. */
export function timelineMoves(events: Schemas['Event'][]): TraceMove[] {
  let cued = 0
  return events.flatMap((e) => {
    if (e.kind === 'cue') cued = e.at / 1e6
    if (e.kind !== 'move') return []
    const move = {
      at: e.at / 1e6,
      until: (e.until ?? e.at) / 1e6,
      kind: e.feet ? 'step' : 'defence',
      text: e.said ?? e.text ?? '',
      part: e.part,
    }
    return [(e.move ?? 0) < 0 ? { ...move, known: cued } : { ...move, rep: e.rep }]
  })
}

/** Planned strikes of a run or a review. */
export const faced = (s: { face?: string | undefined; pin?: boolean | undefined; still?: boolean | undefined }) => ({
  still: s.still ?? false,
  side: s.face === 'behind' ? (-1 as const) : (1 as const),
  pin: s.pin ?? false,
})

/** A hand's way out to the bag and back, from a floor to a roof. */
export function handPath(cycle: Cycle, at: number, x: (t: number) => number, floor: number, roof: number): string {
  const [a, b, c] = [x(at - cycle.reach), x(at), x(at + cycle.reach)]
  return `M${a.toFixed(1)} ${floor}C${((a + b) / 2).toFixed(1)} ${floor} ${((a + b) / 2).toFixed(1)} ${roof} ${b.toFixed(1)} ${roof}S${((b + c) / 2).toFixed(1)} ${floor} ${c.toFixed(1)} ${floor}`
}

/** About so many round moments for a time axis. */
export const timeSteps = (from: number, to: number, about: number): number[] =>
  scaleLinear().domain([from, to]).ticks(Math.floor(about))

/** The trace in words, for those who do not see it. */
export function describe(cycle: Cycle, tempo: number, strikes: TraceStrike[] = []): string {
  if (cycle.starts.length > 0) {
    const first = cycle.starts[0]!
    const told = strikes
      .filter((s) => s.at >= first && s.at <= first + cycle.return)
      .map((s) => `${s.hand} at ${(s.at - first).toFixed(3)} s`)
    return `Swing of the bag through one repetition of ${cycle.return.toFixed(1)} s: ${told.join(', ')}.`
  }
  const side = (swing: number) => (swing > 0 ? 'far' : 'near')
  if (cycle.passes.length > 0) {
    const passes = cycle.passes.map(
      (p) =>
        `at ${p.at.toFixed(3)} s${p.window > 0 ? `, to be slipped within ${Math.round(p.window * 1000)} ms from ${p.opens.toFixed(3)} s` : ', too quick to be slipped'}`,
    )
    return `Swing of the bag from letting go, ${Math.round(tempo)} passes a minute: it passes ${passes.join('; ')}.`
  }
  const marks = cycle.marks
    .map((m) => `${side(m.swing)} ${cycle.contact > 0 ? 'board' : 'turn'} at ${m.at.toFixed(3)} s`)
    .join(', ')
  return (
    `Swing of the bag from one strike to the next at ${Math.round(tempo)} a minute: struck at 0, ${marks}, ` +
    `back at the strike point at ${cycle.return.toFixed(3)} s. It can be struck for ${Math.round(cycle.window * 1000)} ms ${cycle.closes > 0 ? 'around' : 'before'} that moment.`
  )
}

/** The hits of a round in words, as far as they belong to a strike: how many, and how they lie about it. */
export function describeHits(hits: TraceHit[]): string {
  const off = hits.flatMap((h) => (h.off === undefined || h.extra ? [] : [h.off])).toSorted((a, b) => a - b)
  if (off.length === 0) return ''
  const ms = (s: number) => Math.round(1000 * s)
  const middle = ms(off[Math.floor(off.length / 2)]!)
  const lies = middle === 0 ? 'on it' : `${Math.abs(middle)} ms ${middle > 0 ? 'after' : 'before'} it`
  return (
    `On it are ${hits.length} hits, half of them within ${ms(off[Math.floor(off.length / 4)]!)} to ` +
    `${ms(off[Math.floor((3 * off.length) / 4)]!)} ms of their strike, the middle one ${lies}.`
  )
}
