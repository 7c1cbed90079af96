import type { Schemas } from '../../lib/api/client'
import { RunClock } from '../../lib/run/clock'
import { Sound } from '../../lib/run/sound'

const calledFor = (moves: number) => 400_000 * moves + 300_000 // µs that a call is given before the first strike

/** Plays one repetition, the call first. */
export class Preview {
  playing = $state(false)

  async play(c: Schemas['SwingLine'] | undefined) {
    if (!c || this.playing) return
    this.playing = true
    const spoken = calledFor(c.moves.length)
    const clock = new RunClock()
    await clock.start(0.3)
    const later = c.events.map((e) => ({ ...e, at: e.at + spoken }))
    const events = [{ at: 0, kind: 'call', text: c.call }, ...later].toSorted((a, b) => a.at - b.at)
    const sound = new Sound(clock, () => events)
    sound.volume = 0.8
    await new Promise((done) => setTimeout(done, 250)) // the words are fetched
    sound.start()
    const stop = () => {
      sound.stop()
      clock.close()
      this.playing = false
    }
    setTimeout(stop, 1000 * (0.3 + c.length + spoken / 1e6 + 0.6))
  }
}
