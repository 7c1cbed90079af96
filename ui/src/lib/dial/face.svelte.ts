import { calm } from '../ui/calm'
import { after, type Cycle, type TraceHit, type TraceMove, type TraceStrike } from '../trace/geometry'
import { handLetter, handWord } from '../trace/hands'
import { items, parts, phrases } from './phrases'
import { full, stretched, Turn, type Spot } from './turn'

export type Shown = {
  cycle: Cycle
  planned: TraceStrike[] // as the drill has them
  strikes: TraceStrike[] // as the hits have moved them
  moves: TraceMove[]
  hits: TraceHit[]
  tempo: number
  stance: string // "" where it is not known
  whole: boolean // a repetition stays on one turn, however long, and all its hits are drawn
}

const most = 48 // dots that are drawn while a round runs
const few = 8 // marks where motion is unwelcome, and strikes that stand on one turn
const quick = 150 // strikes a minute above which only every second hit fades the others
const outside = 4 // from a disc to its dots
const band = 9 // over which the hits of a whole round lie
const lingers = 0.3 // s that a cue's answer stands after it is done
const smallest = 4.4 // radius of a disc with a figure in it

/** What stands on the dial at a moment of the round, and where. The clock is told by `at`; only what changes is drawn anew. */
export class Face {
  /** The next strike that is due, as a place in the row; its length past the last. */
  next = $state(0)
  /** The repetition that the dial shows, and which of its sections. */
  rep = $state(0)
  section = $state(0)
  /** How many of the repetition's items are done. */
  done = $state(0)
  /** The last cue that was called (s); nothing unforeseen is drawn before it. */
  cue = $state(-1)
  readonly calm = calm()
  #shown: () => Shown

  constructor(shown: () => Shown) {
    this.#shown = shown
  }

  cycle = $derived.by(() => this.#shown().cycle)
  strikes = $derived.by(() => this.#shown().strikes)
  moves = $derived.by(() => this.#shown().moves)
  film = $derived.by(() => this.cycle.starts.length > 0)
  boarded = $derived.by(() => this.cycle.contact > 0)
  stance = $derived.by(() => this.#shown().stance)
  due = $derived.by(() => this.strikes[this.next])
  last = $derived.by(() => this.strikes[this.next - 1])
  begin = $derived.by(() => this.cycle.starts[this.rep] ?? this.cycle.starts[0] ?? 0)

  #inRep = $derived.by(() => this.#shown().planned.filter((s) => (s.rep ?? 0) === this.rep && (s.move ?? 0) >= 0))
  #movesInRep = $derived.by(() => this.moves.filter((m) => m.known === undefined && (m.rep ?? 0) === this.rep))
  #items = $derived.by(() => items(this.#inRep, this.#movesInRep))
  /** The combination in words, a text for each part. */
  told = $derived.by(() => (this.film ? parts(this.#items) : []))

  /** Moments (s) at which the sections of a repetition begin: one, or one for each part where the whole is too much. */
  sections = $derived.by(() => {
    const begins = this.#items.flatMap((m, k) => (m.part !== this.#items[k - 1]?.part ? [m.at - this.begin] : []))
    if (!this.film || this.#shown().whole || begins.length < 2) return [0]
    const at = this.#inRep.map((s) => s.at)
    const closest = Math.min(...at.slice(1).map((t, k) => t - at[k]!))
    const tight = ((closest * full) / this.cycle.turn) * 68 < 2 * smallest + 1
    return at.length > few || tight ? [0, ...begins.slice(1)] : [0]
  })
  turn = $derived.by(() =>
    this.film
      ? new Turn(this.cycle, this.sections[this.section] ?? 0, this.sections[this.section + 1] ?? this.cycle.turn)
      : new Turn(this.cycle),
  )
  // After a trap the bag takes another way to the next strike than after the rest.
  wayCycle = $derived.by(() => (this.film ? this.cycle : after(this.cycle, this.last)))
  way = $derived.by(() => (this.wayCycle === this.cycle ? this.turn : new Turn(this.wayCycle)))
  side = $derived.by(() => (this.film ? 1 : (this.last?.side ?? 1)))

  #on = (t: number) => t >= this.turn.from - 1e-6 && t < this.turn.from + this.turn.length - 1e-6

  /** Board sounds and turns. */
  boards = $derived.by(() => this.wayCycle.marks.filter((m) => !this.film || this.#on(m.at)))
  passes = $derived.by(() => this.cycle.passes.filter((p) => !this.film || this.#on(p.at)))

  /** The strikes on the dial: those of the section that were planned, or the one that is due. */
  discs = $derived.by(() => {
    const list = this.film
      ? this.#inRep.filter((s) => this.#on(s.at - this.begin))
      : [this.due ?? this.strikes.at(-1)].filter((s) => s !== undefined)
    return list.map((s) => {
      const t = s.at - this.begin
      return { ...s, spot: this.turn.met(s, t), window: this.turn.window(s, t), crest: this.turn.crest(t) }
    })
  })
  disc = $derived.by(() => {
    if (!this.film) return 9.5
    const angles = this.discs.map((d) => d.spot.angle)
    const gap = Math.min(1, ...angles.slice(1).map((a, k) => a - angles[k]!))
    return Math.max(smallest, Math.min(8, gap * 31))
  })
  #knots = $derived.by(() => {
    const own = this.strikes.filter((s) => (s.rep ?? 0) === this.rep && (s.move ?? 0) >= 0)
    const planned = new Map(this.#inRep.map((s) => [s.i, s.at - this.begin]))
    const met = own.map((s) => ({ at: s.at - this.begin, planned: planned.get(s.i) ?? s.at - this.begin }))
    return [{ at: 0, planned: 0 }, ...met, { at: this.cycle.turn, planned: this.cycle.turn }]
  })
  /** The defences and steps of the section, and what a cue has just called. */
  marks = $derived.by(() =>
    [...(this.film ? this.#movesInRep : []), ...this.moves.filter((m) => m.known !== undefined && m.known === this.cue)]
      .filter((m) => m.known !== undefined || this.#on(m.at - this.begin))
      .map((m) => {
        const [from, to] = [m.at, m.until].map((t) => (m.known === undefined ? t - this.begin : this.#inTurn(t)))
        const [a, b] = [this.turn.angle(from!), this.turn.angle(to!)]
        const at = (from! + to!) / 2
        const spot = { angle: (a + b) / 2, r: this.turn.spot(at).r }
        return { ...m, from: a, to: b, spot, crest: this.turn.crest(at) }
      }),
  )

  dots = $derived.by(() => {
    const { hits, planned, tempo, whole } = this.#shown()
    const even = tempo > quick ? hits.length - (hits.length % 2) : hits.length
    const some = hits.slice(whole ? 0 : Math.max(0, even - (this.calm ? few : most)), even)
    return some.flatMap((h, k) => {
      const s = planned[h.i ?? -1]
      if (!s || h.off === undefined) return []
      const t = s.at - (this.cycle.starts[s.rep ?? 0] ?? 0)
      if (this.film && !this.#on(t)) return []
      const spot = this.turn.met(s, t)
      const angle = spot.angle + (h.off / this.turn.length) * full
      const late = whole ? band * (k / some.length) : 0 // in the review the later in the round, the further out
      const strong = whole ? 0.6 : this.calm ? 0.8 : 0.2 + (0.75 * (k + 1)) / some.length
      return [{ key: k, spot: { angle, r: spot.r + this.disc + outside + late }, strong }]
    })
  })

  /** How far (s) into the repetition, or since the last strike, a moment is, as it was planned. */
  #inTurn = (now: number) => {
    if (this.film) return stretched(this.#knots, now - this.begin)
    const { last, due } = this
    const whole = this.way.length
    if (!last) return 0
    return due ? ((now - last.at) * whole) / Math.max(0.05, due.at - last.at) : Math.min(now - last.at, whole)
  }

  /** Where the bead is at a moment. */
  bead(now: number): Spot {
    if (!this.film && !this.last) return { angle: 0, r: this.turn.met({ ...this.due!, at: 0 }, 0).r }
    const t = this.film ? Math.max(0, this.#inTurn(now)) : this.#inTurn(now) // before the first it waits at the top
    const { from, length } = this.turn
    const eighth = length / 8
    // Where motion is unwelcome it stands at the eighths of the turn, one after the other.
    return this.way.spot(this.calm ? from + Math.floor((t - from) / eighth) * eighth : t, this.side)
  }

  /** Tells the time (s on the round's clock). */
  at(now: number) {
    const { strikes, moves } = this
    let next = this.next
    while (next > 0 && (strikes[next - 1]?.at ?? Infinity) > now) next--
    while (next < strikes.length && strikes[next]!.at <= now) next++
    if (next !== this.next) this.next = next
    const rep = Math.max(
      0,
      this.cycle.starts.findLastIndex((s) => s <= now),
    )
    if (rep !== this.rep) this.rep = rep
    if (this.film) {
      const t = this.#inTurn(now)
      const section = Math.max(
        0,
        this.sections.findLastIndex((s) => s <= t),
      )
      if (section !== this.section) this.section = section
      const done = this.#items.filter((m) => (m.strike ? m.at : m.until) - this.begin <= t).length
      if (done !== this.done) this.done = done
    }
    const answer = moves.findLast((m) => m.known !== undefined && m.known <= now)
    const cue = answer && answer.until + lingers > now ? answer.known! : -1
    if (cue !== this.cue) this.cue = cue
  }

  /** What is to be done next, and after it. */
  now = $derived.by(() => {
    const called = this.marks.find((m) => m.known !== undefined)
    if (called) return { main: called.text, then: '' }
    if (!this.film) {
      const { due } = this
      const then = this.strikes[this.next + 1]
      return {
        main: due ? handLetter(due.hand, this.stance) || due.hand : '',
        then: then ? `then ${handWord(then.hand, this.stance)}` : '',
      }
    }
    const left = phrases(this.#items.slice(this.done))
    if (left.length === 0) {
      const again = this.rep + 1 < this.cycle.starts.length
      return { main: again ? (phrases(this.#items)[0]?.text ?? '') : '', then: again ? 'get set' : '' }
    }
    const beyond = left.slice(1, /\d/.test(left[1]?.text ?? '') ? 2 : 3).map((p) => p.text)
    return { main: left[0]!.text, then: beyond.length > 0 ? `then ${beyond.join(', ')}` : '' }
  })
}
