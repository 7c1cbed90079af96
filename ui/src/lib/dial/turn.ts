import { line } from 'd3-shape'
import { across, middle, read, type Cycle, type TraceStrike } from '../trace/geometry'

/** Radii of the two boards, or turns, on a dial that is 200 across. */
export const near = 46
export const far = 90
export const full = 2 * Math.PI

export type Spot = { angle: number; r: number }

/** A spot of the dial in its picture: the angle goes clockwise from the top. */
export const x = (s: Spot) => s.r * Math.sin(s.angle)
export const y = (s: Spot) => -s.r * Math.cos(s.angle)

/** How far from the middle a swing (−1 near … 1 far) lies. */
export const radius = (swing: number) => near + ((far - near) * (swing + 1)) / 2

export const path = (spots: Spot[]) => line<Spot>(x, y).digits(2)(spots) ?? ''

const grain = 2 // degrees from spot to spot

/** One turn of the dial: a cycle from strike to strike, which stands at the top, or a stretch of a repetition. */
export class Turn {
  readonly film: boolean
  readonly from: number // s into the repetition
  readonly length: number // s of a turn
  readonly #cycle: Cycle

  constructor(cycle: Cycle, from = 0, to = cycle.turn) {
    this.#cycle = cycle
    this.film = cycle.starts.length > 0
    this.from = from
    this.length = to - from
  }

  /** Where so many seconds into the repetition lie. A planned strike stands in the middle of its window. */
  angle = (t: number) => ((t - this.from - (this.film ? 0 : middle(this.#cycle))) / this.length) * full

  /** Where the bag is so many seconds in; on its way on, where nobody met it. */
  swing = (t: number) => {
    const c = this.#cycle
    return this.film || t <= c.return ? read(c.trace, t) : read(c.through, t - c.return)
  }

  spot = (t: number, side = 1): Spot => ({ angle: this.angle(t), r: radius(side * this.swing(t)) })

  /** The bag's way round the turn; side is −1 where it is struck from behind. */
  curve(side = 1): string {
    const even = Array.from({ length: 360 / grain + 1 }, (_, k) => this.from + (k * grain * this.length) / 360)
    const exact = this.#cycle.trace.map((p) => p.at).filter((t) => t > this.from && t < this.from + this.length)
    return path([...even, ...exact].sort((a, b) => a - b).map((t) => this.spot(t, side)))
  }

  /** The way through the window of a strike, hit or not; at is its moment in the repetition. */
  window(s: TraceStrike, at: number): string {
    const c = this.#cycle
    const steps = 16
    const row = (from: number, to: number, swing: (t: number) => number) =>
      path(
        Array.from({ length: steps + 1 }, (_, k) => {
          const t = from + ((to - from) * k) / steps
          return { angle: this.angle(t), r: radius(swing(t)) }
        }),
      )
    if (this.film) return row(at - s.window / 2, at + s.window / 2, (t) => (s.still ? 0 : this.swing(t)))
    const side = across(c) * (s.side ?? 1)
    return row(c.return + c.opens, c.return + c.closes, (t) => side * this.swing(t))
  }

  /** Where a strike is met, so many seconds into the repetition. */
  met(s: TraceStrike, at: number): Spot {
    if (this.film) return this.spot(at)
    const c = this.#cycle
    const swing = Math.abs(middle(c)) < 1e-6 ? c.strike : across(c) * this.swing(c.return + middle(c))
    return { angle: 0, r: radius(swing * (s.side ?? 1)) }
  }

  /** How far out the curve reaches about an angle: what is written there stands beyond it. */
  crest(t: number): number {
    const about = this.length / 24
    return Math.max(...[-2, -1, 0, 1, 2].map((k) => this.spot(t + (k * about) / 2).r))
  }
}

/** Moments as they come beside those that were planned, both from the beginning of a repetition. */
export type Stretch = { at: number; planned: number }[]

/** How far (s) into the plan of a repetition a moment lies: what lies between two known moments is stretched. */
export function stretched(knots: Stretch, t: number): number {
  const k = knots.findIndex((b) => b.at > t)
  if (k < 0) {
    const last = knots.at(-1)
    return last ? last.planned + t - last.at : t
  }
  const b = knots[k]!
  const a = knots[k - 1]
  if (!a) return Math.min(t, b.planned)
  return a.planned + ((b.planned - a.planned) * (t - a.at)) / Math.max(1e-6, b.at - a.at)
}
