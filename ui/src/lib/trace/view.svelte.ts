import { after, inFilm, middle, swingAt, type Cycle, type TraceHit, type TraceMove, type TraceStrike } from './geometry'

export type Shown = {
  cycle: Cycle
  strikes: TraceStrike[]
  hits: TraceHit[]
  moves: TraceMove[]
  from: number
  to: number
  height: number
  axis: boolean
  stance: string // "" where it is not known
}

const left = 64 // the labels' margin
const right = 14
const top = 12
const lane = 34 // the hands' way
const past = 0.2 // s that a disc may reach past the edge

/** Where everything of a trace stands: from the top the far board, the swing, the near board, the hands' way, the axis. */
export class View {
  width = $state(800)
  left = left
  right = right
  #shown: () => Shown

  constructor(shown: () => Shown) {
    this.#shown = shown
  }

  get cycle() {
    return this.#shown().cycle
  }
  get strikes() {
    return this.#shown().strikes
  }
  get height() {
    return this.#shown().height
  }
  get stance() {
    return this.#shown().stance
  }

  plot = $derived.by(() => Math.max(1, this.width - left - right))
  scale = $derived.by(() => this.plot / (this.end - this.begin))
  begin = $derived.by(() => this.#shown().from)
  end = $derived.by(() => this.#shown().to)

  film = $derived.by(() => this.cycle.starts.length > 0) // of a whole combination: it begins anew with each repetition
  bare = $derived.by(() => !this.film && this.cycle.passes.length > 0) // a slip bag alone: nobody strikes
  boarded = $derived.by(() => this.cycle.contact > 0)
  foot = $derived.by(() => (this.#shown().axis ? 26 : 6))
  lanes = $derived.by(() => this.height - this.foot - (this.bare ? 6 : lane))
  label = 12
  // A bag that is met before it goes to the near side needs no room there.
  lowest = $derived.by(() => (this.cycle.mirrored || this.cycle.trace.some((p) => p.swing < -0.3) ? -1 : -0.3))
  disc = $derived.by(() => {
    const gaps = this.seen.slice(1).map((s, k) => this.x(s.at) - this.x(this.seen[k]!.at))
    const most = this.film ? Math.min(26, ...gaps) / 2.2 : this.scale * (this.cycle.return / 6)
    return Math.max(6.5, Math.min(15, most, this.height / 14))
  })

  x = (t: number) => (t - this.begin) * this.scale
  y = (swing: number) => {
    const bottom = this.lanes - 18
    return bottom - ((swing - this.lowest) / (1 - this.lowest)) * (bottom - top)
  }
  floor = $derived.by(() => this.lanes + lane - 16)
  roof = $derived.by(() => this.lanes + 2)
  swingOf = (t: number) => swingAt({ ...this.cycle, return: Infinity }, t)
  /** Where a planned strike is drawn. */
  at = (s: TraceStrike) => s.at + (this.film ? 0 : middle(this.cycle))
  inFilm = (t: number) => inFilm(this.cycle, t)

  near = $derived.by(() => {
    const reach = this.cycle.return
    return this.strikes.filter((s) => s.at >= this.begin - reach && s.at <= this.end + reach)
  })
  seen = $derived.by(() => this.near.filter((s) => s.at >= this.begin - past && s.at <= this.end + past))
  hits = $derived.by(() => this.#shown().hits.filter((h) => h.at >= this.begin && h.at <= this.end))
  moves = $derived.by(() => this.#shown().moves.filter((m) => m.until >= this.begin && m.at <= this.end))
  begins = $derived.by(() =>
    this.film ? this.cycle.starts.filter((b) => b + this.cycle.return >= this.begin && b <= this.end) : [0],
  )
  boards = $derived.by(() => {
    const all = this.film
      ? this.begins.flatMap((b) => this.cycle.marks.map((m, n) => ({ key: `${b}.${n}`, at: b + m.at, side: m.swing })))
      : this.near.flatMap((s) =>
          after(this.cycle, s).marks.map((m, n) => ({
            key: `${s.i}.${n}`,
            at: s.at + m.at,
            side: m.swing * (s.side ?? 1),
          })),
        )
    return all.filter((b) => b.at >= this.begin && b.at <= this.end)
  })
  passes = $derived.by(() =>
    this.begins.flatMap((b) => this.cycle.passes.map((p) => ({ ...p, at: p.at + b, opens: p.opens + b }))),
  )
}
