const many = 10
const period = 0.75 // s
const lead = 1 // s before the first

/** Plays ten clicks or flashes and takes the taps along with them. What they come to is worked out by the server. */
export class Beats {
  on = $state(false)
  lit = $state(false)
  taps = $state(0)
  #times: number[] = []
  #context: AudioContext | null = null
  #round = 0

  /** A tap at a moment of the page's clock, in ms. */
  tap(at: number) {
    this.#times.push(at / 1000)
    this.taps++
  }

  stop() {
    this.#round++
    this.on = this.lit = false
    void this.#context?.close()
    this.#context = null
  }

  /** Beats and taps in seconds on one clock, or null where it was stopped. */
  async run(by: 'clicks' | 'flashes'): Promise<{ beats: number[]; taps: number[] } | null> {
    const round = ++this.#round
    this.#times = []
    this.taps = 0
    this.on = true
    const beats = by === 'clicks' ? await this.#clicks() : await this.#flashes(() => round === this.#round)
    const rest = by === 'clicks' ? lead + many * period : 0.5
    await new Promise((done) => setTimeout(done, 1000 * rest))
    if (round !== this.#round) return null
    this.stop()
    return { beats, taps: this.#times }
  }

  async #clicks(): Promise<number[]> {
    const c = (this.#context = new AudioContext({ latencyHint: 'interactive' }))
    await c.resume()
    const from = c.currentTime + lead
    const out = c.getOutputTimestamp()
    const heard =
      out.performanceTime && out.contextTime
        ? out.performanceTime / 1000 - out.contextTime
        : performance.now() / 1000 - c.currentTime + (c.outputLatency || 0)
    return Array.from({ length: many }, (_, i) => {
      const when = from + i * period
      const o = c.createOscillator()
      const g = c.createGain()
      o.frequency.value = 1200
      g.gain.setValueAtTime(0.5, when)
      g.gain.exponentialRampToValueAtTime(0.0001, when + 0.05)
      o.connect(g).connect(c.destination)
      o.start(when)
      o.stop(when + 0.06)
      return when + heard
    })
  }

  async #flashes(going: () => boolean): Promise<number[]> {
    const beats: number[] = []
    const from = performance.now() + 1000 * lead
    for (let i = 0; i < many && going(); i++) {
      await new Promise((done) => setTimeout(done, Math.max(0, from + 1000 * i * period - performance.now())))
      this.lit = true
      beats.push(
        (await new Promise<number>((shown) => requestAnimationFrame(() => requestAnimationFrame(shown)))) / 1000,
      )
      setTimeout(() => (this.lit = false), 150)
    }
    return beats
  }
}
