/** The run's clock. It follows the audio clock, so that picture, sound and captured hits share one time; where there is no
 * audio clock (no device, or the browser will not start it) the page's own clock stands in. Pausing stops the audio clock
 * itself, and with it everything that was scheduled on it. */
export class RunClock {
  readonly context: AudioContext | null
  #zero = 0 // on the source's clock, s
  #offset = 0 // source clock − page clock, s, smoothed: the audio clock moves in steps
  #audible = false
  #pausedAt: number | null = null
  #pageZero = 0 // page clock of the fallback, with pauses taken out

  constructor() {
    this.context = typeof AudioContext === 'undefined' ? null : new AudioContext({ latencyHint: 'interactive' })
  }

  /** Starts so that the clock reads 0 after `lead` seconds. Call it from a click or a key. */
  async start(lead: number) {
    if (this.context) {
      const up = this.context.resume().then(() => true)
      const late = new Promise<boolean>((done) => setTimeout(() => done(false), 700))
      const ran = await Promise.race([up, late])
      const before = this.context.currentTime
      await new Promise((done) => setTimeout(done, 60))
      this.#audible = ran && this.context.currentTime > before
    }
    this.#pageZero = performance.now() / 1000
    this.#offset = this.#source() - performance.now() / 1000
    this.#zero = this.#source() + lead
  }

  #source(): number {
    return this.#audible && this.context ? this.context.currentTime : performance.now() / 1000 - this.#pageZero
  }

  /** Whether the audio clock runs: else nothing is heard. */
  get audible(): boolean {
    return this.#audible
  }

  /** Puts the clock forward by so many seconds. */
  shift(seconds: number) {
    this.#zero -= seconds
  }

  /** How much later than scheduled a sound is heard, s. */
  get latency(): number {
    return this.#audible && this.context ? this.context.outputLatency || this.context.baseLatency || 0 : 0
  }

  /** Seconds on the run's clock, as they are heard, at a moment of the page's clock (ms). */
  now(page = performance.now()): number {
    if (this.#pausedAt !== null) return this.#pausedAt
    const raw = this.#source() - performance.now() / 1000
    const gap = raw - this.#offset
    this.#offset += Math.abs(gap) > 0.1 ? gap : 0.08 * gap
    return page / 1000 + this.#offset - this.#zero - this.latency
  }

  /** When a moment of the run falls on the audio clock; null without one. */
  when(at: number): number | null {
    return this.#audible ? this.#zero + at : null
  }

  get paused() {
    return this.#pausedAt !== null
  }

  async pause() {
    this.#pausedAt = this.now()
    if (this.#audible) await this.context?.suspend()
  }

  async resume() {
    const at = this.#pausedAt
    if (at === null) return
    if (this.#audible) await this.context?.resume()
    else this.#pageZero = performance.now() / 1000 - (at + this.#zero)
    this.#pausedAt = null
    this.#offset = this.#source() - performance.now() / 1000
  }

  close() {
    if (this.context && this.context.state !== 'closed') void this.context.close()
  }
}
