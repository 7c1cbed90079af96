import type { Schemas } from '../api/client'

type Event = Schemas['Event']
type Table = NonNullable<Schemas['Timeline']['bag']>
type Way = { due: number[]; window: number[]; boards: number[] }

/** What is played by the hits, once a round follows them, and moves with the bag. */
const byHits = new Set(['strike', 'rebound'])
const moves = new Set(['strike', 'rebound', 'call', 'change', 'move'])

/** The bag of a running round as it answers the hits. The table says when it comes back; a hit moves all that goes by the bag after it. */
export class Follow {
  /** The timeline as the hits have moved it, in the order of time. */
  events: Event[]
  #strikes: Event[]
  #bag: Table
  #from: number // µs
  #reps: boolean // each repetition begins anew
  /** The strike that the last hit was meant for, and by how much (s) it was off. */
  met: { i: number; off: number } | null = null
  #last = -1 // strike that was hit last
  #over = -1 // last strike that is over, hit or not
  #at = 0 // s, of that hit
  #way: Way | null = null
  #let = 0 // come-backs that nobody met since

  constructor(timeline: Schemas['Timeline'], bag: Table, from: number) {
    this.events = [...timeline.events, ...(timeline.beyond ?? [])].map((e) => ({ ...e }))
    this.#strikes = this.events.filter((e) => e.kind === 'strike')
    this.#bag = bag
    this.#from = from
    this.#reps = !!timeline.film
  }

  /** Whether an event is left to the hits. */
  handles(e: Event) {
    return byHits.has(e.kind) && e.at >= this.#from
  }

  get strikes() {
    return this.#strikes
  }

  /** A hit at s on the clock, with the launch (m/s) where a sensor told. Gives the board sounds that come of it; null where it was but
   * one more touch. */
  hit(at: number, launch?: number): number[] | null {
    if (this.#last >= 0 && at - this.#at < this.#bag.touch) return null
    const i = this.#which(at)
    const strike = this.#strikes[i]
    if (!strike) return null
    const due = this.#way && this.#chained(i) ? this.#at + this.#due(i - this.#last - 1, i) : strike.at / 1e6
    this.met = { i: strike.n ?? i, off: at - due }
    this.#last = this.#over = i
    this.#at = at
    this.#let = 0
    const next = this.#strikes[i + 1]
    this.#way = this.#chained(i + 1) ? this.#answers(launch ?? strike.launch ?? 0, next!) : null
    if (at * 1e6 < this.#from) return []
    this.#shift(i, at * 1e6 - strike.at)
    strike.at = Math.round(at * 1e6)
    if (this.#way && next) this.#shift(i + 1, (at + this.#due(0, i + 1)) * 1e6 - next.at)
    this.#sort()
    return this.#way ? this.#way.boards.map((b) => at + b) : []
  }

  /** Lets a come-back go by that nobody met: the bag goes on, and what follows waits for the next. Says whether anything moved. */
  letBy(now: number): boolean {
    const way = this.#way
    const i = this.#over + 1
    if (!way || now * 1e6 < this.#from || this.#let >= way.due.length - 1 || !this.#chained(i + 1)) return false
    if (now < this.#at + this.#due(this.#let, i) + way.window[this.#let]!) return false
    this.#let++
    this.#over = i
    const next = this.#strikes[i + 1]!
    this.#shift(i + 1, (this.#at + this.#due(this.#let, i + 1)) * 1e6 - next.at)
    this.#sort()
    return true
  }

  /** The strike that a hit is meant for: the one whose come-back it is nearest to. */
  #which(at: number): number {
    const next = this.#over + 1
    if (this.#way && this.#chained(next)) {
      let best = this.#last + 1
      let off = Infinity
      this.#way.due.forEach((_, k) => {
        const i = this.#last + 1 + k
        const d = Math.abs(at - this.#at - this.#due(k, i))
        if (d < off && (k === 0 || this.#chained(i))) [best, off] = [i, d]
      })
      return best
    }
    let best = next
    for (let i = next; i < this.#strikes.length && this.#strikes[i]!.at < (at + 2) * 1e6; i++) {
      if (i > next && !this.#strikes[i]!.still) continue
      if (Math.abs(this.#strikes[i]!.at - at * 1e6) < Math.abs(this.#strikes[best]!.at - at * 1e6)) best = i
    }
    return best
  }

  /** Whether a strike goes by the one before it. */
  #chained(i: number) {
    const s = this.#strikes[i]
    return !!s && i > 0 && !s.still && (s.move ?? 0) >= 0 && (!this.#reps || s.rep === this.#strikes[i - 1]!.rep)
  }

  /** When (s after the hit) the k-th come-back is due for a strike; a heavy bag is met on its way in. */
  #due(k: number, i: number) {
    return (
      this.#way!.due[Math.min(k, this.#way!.due.length - 1)]! +
      ((this.#strikes[this.#last]?.ahead ?? 0) - (this.#strikes[i]?.ahead ?? 0)) / 1e6
    )
  }

  /** Reads the table for a launch. */
  #answers(launch: number, next: Event): Way | null {
    const place = this.#bag.counts.indexOf(next.count ?? 0)
    if (place < 0) return null
    const rows = this.#bag.rows
    let hi = rows.findIndex((r) => r.launch >= launch)
    if (hi < 0) hi = rows.length - 1
    const [a, b] = [rows[Math.max(0, hi - 1)]!, rows[hi]!]
    const part = a === b ? 0 : Math.max(0, Math.min(1, (launch - a.launch) / (b.launch - a.launch)))
    const mix = (x: number[], y: number[]) => x.map((v, n) => v + (y[n]! - v) * part)
    const later = (list: number[]) =>
      list.filter((_, n) => n >= place && (n - place) % this.#bag.step === 0).slice(0, 3)
    return {
      due: later(mix(a.at, b.at)),
      window: later(mix(a.window, b.window)),
      boards: mix(a.boards ?? [], b.boards ?? []),
    }
  }

  /** Moves a strike and all that goes by the bag after it. */
  #shift(from: number, by: number) {
    const first = this.#strikes[from]
    if (!first || Math.abs(by) < 1) return
    const start = first.at
    for (const e of this.events) {
      if (e.at < start || !moves.has(e.kind) || (this.#reps && e.rep !== first.rep)) continue
      e.at = Math.round(e.at + by)
      if (e.until) e.until = Math.round(e.until + by)
    }
  }

  #sort() {
    this.events.sort((a, b) => a.at - b.at)
  }
}
