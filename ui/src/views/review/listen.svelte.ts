import type { Schemas } from '../../lib/api/client'
import { RunClock } from '../../lib/run/clock'
import { Sound } from '../../lib/run/sound'

type Event = Schemas['Event']

const lasts = 12 // s that are heard at a time

/** Plays a stretch of a round again: each strike as it was due a wooden tick, each hit its thud. */
export class Listen {
  playing = $state(false)
  at = $state(0) // s of the round
  #clock: RunClock | null = null
  #sound: Sound | null = null
  #frame = 0

  async play(r: Schemas['Review'], from: number) {
    this.stop()
    const clock = new RunClock()
    const within = (t: number) => t >= from - 0.05 && t < from + lasts
    const on = (t: number) => Math.round(1e6 * (t - from))
    const events: Event[] = [
      ...r.strikes.filter((s) => within(s.at)).map((s): Event => ({ kind: 'rebound', at: on(s.at), n: 1 })),
      ...r.hits.filter((h) => within(h.at)).map((h): Event => ({ kind: 'strike', at: on(h.at) })),
    ].toSorted((a, b) => a.at - b.at)
    const sound = new Sound(clock, () => events)
    this.#clock = clock
    this.#sound = sound
    this.playing = true
    await clock.start(0.3)
    if (this.#clock !== clock) return clock.close()
    sound.start()
    const step = () => {
      const now = clock.now()
      this.at = from + Math.max(0, now)
      if (now > lasts) this.stop()
      else this.#frame = requestAnimationFrame(step)
    }
    this.#frame = requestAnimationFrame(step)
  }

  stop() {
    cancelAnimationFrame(this.#frame)
    this.#sound?.stop()
    this.#clock?.close()
    this.#sound = null
    this.#clock = null
    this.playing = false
  }
}
