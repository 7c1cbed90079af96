import type { Schemas } from '../api/client'

type Plan = Schemas['TestPlan']
type Kind = Schemas['TestTaken']['test']

/** Runs one test: signals out, taps in. What they come to is worked out by the server. */
export class Trial {
  state = $state<'idle' | 'ready' | 'on'>('idle')
  says = $state('')
  left = $state('')
  lit = $state(false)
  #taps: number[] = []
  #waits: number[] = []
  #signal = 0 // ms on the page's clock; 0 while none is out
  #heard: ((stopped: boolean) => void) | null = null
  #context: AudioContext | null = null
  #round = 0

  /** A tap at a moment of the page's clock, in ms. */
  tap(at: number) {
    if (this.state !== 'on') return
    this.#taps.push(at / 1000)
    this.#heard?.(false)
  }

  stop() {
    this.#round++
    this.state = 'idle'
    this.lit = false
    this.#heard?.(true)
    void this.#context?.close()
    this.#context = null
  }

  /** The taps in seconds, a row for each trial, or null where it was stopped. */
  async run(kind: Kind, plan: Plan): Promise<number[][] | null> {
    const round = ++this.#round
    this.#context = new AudioContext()
    const going = () => round === this.#round
    const rows: number[][] = []
    this.state = 'ready'
    for (let trial = 0; trial < (kind === 'beat' ? 2 : 1); trial++) {
      this.#taps = []
      this.#waits = []
      this.says = trial === 0 ? 'Ready…' : 'Once more.'
      for (const n of ['3', '2', '1']) {
        this.left = n
        if (!(await this.#pause(600, going))) return null
      }
      this.left = ''
      this.state = 'on'
      if (kind === 'beat') await this.#beat(plan, going)
      else if (kind === 'sight' || kind === 'sound') await this.#react(kind, plan, going)
      else await this.#rate(plan, going)
      if (!going()) return null
      rows.push(kind === 'sight' || kind === 'sound' ? this.#waits : this.#taps)
    }
    this.stop()
    return rows
  }

  async #rate(plan: Plan, going: () => boolean) {
    this.says = 'Go: the clock starts with the first tap.'
    if (!(await this.#tapped(going))) return
    this.says = 'As fast as you can.'
    for (let s = Math.round(plan.rateSeconds); s > 0 && going(); s--) {
      this.left = String(s)
      await this.#pause(1000, going)
    }
  }

  async #beat(plan: Plan, going: () => boolean) {
    const c = this.#context!
    await c.resume()
    const from = c.currentTime + 0.4
    for (let i = 0; i < plan.beatWith; i++) this.#click(from + i * plan.beatPeriod)
    this.says = 'Tap with the clicks, and keep going once they stop.'
    const alone = performance.now() + 1000 * (0.4 + (plan.beatWith - 0.5) * plan.beatPeriod)
    const all = () => this.#taps.filter((t) => 1000 * t > alone).length
    const latest = alone + 2000 * plan.beatPeriod * plan.beatAlone
    while (going() && all() < plan.beatAlone && performance.now() < latest) {
      this.left = String(Math.max(0, plan.beatAlone - all()))
      await this.#pause(50, going)
    }
    this.#taps = this.#taps.filter((t) => 1000 * t > alone)
  }

  async #react(kind: 'sight' | 'sound', plan: Plan, going: () => boolean) {
    for (let n = plan.reactions; n > 0 && going(); n--) {
      this.says = 'Wait for it…'
      this.left = String(n)
      if (!(await this.#pause(1200 + 2300 * Math.random(), going))) return
      if (kind === 'sound') {
        const c = this.#context!
        await c.resume()
        const when = c.currentTime + 0.03
        const out = c.getOutputTimestamp()
        this.#click(when)
        this.#signal =
          out.performanceTime && out.contextTime
            ? out.performanceTime + 1000 * (when - out.contextTime)
            : performance.now() + 30 + 1000 * (c.outputLatency || 0)
      } else {
        this.lit = true
        this.#signal = await new Promise<number>((shown) => requestAnimationFrame(() => requestAnimationFrame(shown)))
      }
      this.#taps = []
      const late = setTimeout(() => this.#heard?.(false), 2500)
      if (!(await this.#tapped(going))) return
      clearTimeout(late)
      this.lit = false
      const tap = this.#taps[0]
      this.#waits.push(tap === undefined ? 2.5 : tap - this.#signal / 1000)
    }
  }

  #tapped(going: () => boolean): Promise<boolean> {
    return new Promise((done) => {
      this.#heard = (stopped) => {
        this.#heard = null
        done(!stopped && going())
      }
    })
  }

  #pause(ms: number, going: () => boolean): Promise<boolean> {
    return new Promise((done) => setTimeout(() => done(going()), ms))
  }

  #click(when: number) {
    const c = this.#context
    if (!c) return
    const o = c.createOscillator()
    const g = c.createGain()
    o.frequency.value = 1200
    g.gain.setValueAtTime(0.0001, when)
    g.gain.exponentialRampToValueAtTime(0.5, when + 0.002)
    g.gain.exponentialRampToValueAtTime(0.0001, when + 0.05)
    o.connect(g).connect(c.destination)
    o.start(when)
    o.stop(when + 0.06)
  }
}
