import type { Schemas } from '../api/client'
import type { RunClock } from './clock'

type Event = Schemas['Event']

const ahead = 1.5 // s that sounds are scheduled before they fall: more than a hidden page's slowest timer
const near = 0.25 // s that those are which the hits may move
const late = 0.4 // s after which a call that was moved is not spoken any more
const moving = new Set(['call', 'change', 'move'])

const wordsOf = (text = '') => text.split(/[ ,;]+/).filter(Boolean)

/** Plays a timeline: each sound is put on the audio clock well before it falls. */
export class Sound {
  #clock: RunClock
  #events: () => Event[]
  #leave: (e: Event) => boolean // to the hits
  #played = new WeakSet<Event>()
  #boards: AudioScheduledSourceNode[] = [] // of the last hit
  #master: GainNode | null = null
  #noise: AudioBuffer | null = null
  #words = new Map<string, AudioBuffer>()
  #timer = 0

  /** Events may move while the round runs; those that `leave` names are left to the hits. */
  constructor(clock: RunClock, events: () => Event[], leave: (e: Event) => boolean = () => false) {
    this.#clock = clock
    this.#events = events
    this.#leave = leave
    const context = clock.context
    if (!context) return
    this.#master = context.createGain()
    this.#master.connect(context.destination)
    this.#noise = context.createBuffer(1, context.sampleRate * 0.2, context.sampleRate)
    void this.#loadWords()
    const data = this.#noise.getChannelData(0)
    for (let i = 0; i < data.length; i++) data[i] = Math.random() * 2 - 1
  }

  /** Fetches the clips of the words that are called. A clip that does not come is not spoken; the call stands on the screen. */
  async #loadWords() {
    const words = new Set(
      this.#events()
        .filter((e) => e.kind === 'call' || e.kind === 'cue')
        .flatMap((e) => wordsOf(e.text)),
    )
    await Promise.all(
      [...words].map(async (word) => {
        try {
          const answer = await fetch(`/calls/${word}.mp3`)
          if (answer.ok && this.#clock.context)
            this.#words.set(word, await this.#clock.context.decodeAudioData(await answer.arrayBuffer()))
        } catch {
          // offline: the round goes on without a voice
        }
      }),
    )
  }

  set volume(v: number) {
    if (this.#master && this.#clock.context) this.#master.gain.setTargetAtTime(v, this.#clock.context.currentTime, 0.02)
  }

  start() {
    this.#fill()
    this.#timer = window.setInterval(() => this.#fill(), 100)
  }

  stop() {
    clearInterval(this.#timer)
    this.#master?.disconnect()
  }

  #fill() {
    const now = this.#clock.now() * 1e6
    for (const e of this.#events()) {
      // what moves with the hits is put on the clock no sooner than it has to be
      if (e.at > now + (moving.has(e.kind) ? near : ahead) * 1e6) continue
      if (e.at < now - late * 1e6 || this.#played.has(e) || this.#leave(e)) continue
      const when = this.#clock.when(Math.max(e.at, now) / 1e6)
      if (when === null || !this.#clock.context) continue
      this.#played.add(e)
      this.#play(e, Math.max(when, this.#clock.context.currentTime))
    }
  }

  /** The board sounds (s on the run's clock) that come of a hit, in place of those of the hit before; with its own thud where the bag is
   * on the screen alone. */
  answer(boards: number[], thud: boolean) {
    const c = this.#clock.context
    if (!c) return
    for (const b of this.#boards) b.stop()
    this.#boards = []
    if (thud) this.#play({ kind: 'strike', at: 0 }, c.currentTime)
    boards.forEach((at, n) => {
      const when = this.#clock.when(at)
      if (when !== null && when >= c.currentTime) this.#play({ kind: 'rebound', at: 0, n: n + 1 }, when, this.#boards)
    })
  }

  #play(e: Event, when: number, into?: AudioScheduledSourceNode[]) {
    switch (e.kind) {
      case 'strike': // leather: a low thud under a short slap
        this.#tone(when, 'sine', 150, 55, 0.12, 0.9)
        this.#burst(when, 1400, 0.045, 0.5)
        break
      case 'rebound': // the board: dry wood, the far one a little lower than the near one
        this.#burst(when, e.n && e.n % 2 === 0 ? 2600 : 2100, 0.022, 0.55, into)
        this.#tone(when, 'triangle', e.n && e.n % 2 === 0 ? 560 : 470, 420, 0.03, 0.22, into)
        break
      case 'pass': // a slip bag going by
        this.#burst(when - 0.04, 420, 0.12, 0.3)
        break
      case 'cue':
        this.#tone(when - 0.02, 'triangle', 1400, 1400, 0.05, 0.35)
      // falls through: it is spoken as well
      case 'call': {
        let at = when
        for (const word of wordsOf(e.text)) {
          const clip = this.#words.get(word)
          if (!clip) continue
          this.#speak(clip, at)
          at += clip.duration + 0.03
        }
        break
      }
      case 'count':
        this.#tone(when, 'triangle', 880, 860, 0.07, 0.5)
        break
      case 'warning':
        if ((e.n ?? 0) <= 3 || e.n === 10) this.#tone(when, 'triangle', 1180, 1150, 0.09, 0.4)
        break
      case 'bell': {
        const strokes = e.text === 'end' ? [0, 0.32, 0.64] : [0]
        for (const s of strokes)
          for (const [ratio, gain] of [
            [1, 0.4],
            [2.41, 0.22],
            [3.9, 0.12],
          ] as const)
            this.#tone(when + s, 'sine', 620 * ratio, 618 * ratio, 1.1 / ratio, gain)
        break
      }
    }
  }

  #speak(clip: AudioBuffer, when: number) {
    const c = this.#clock.context
    if (!c || !this.#master) return
    const n = c.createBufferSource()
    n.buffer = clip
    n.connect(this.#master)
    n.start(when)
  }

  #tone(
    when: number,
    type: OscillatorType,
    from: number,
    to: number,
    length: number,
    loud: number,
    into?: AudioScheduledSourceNode[],
  ) {
    const c = this.#clock.context
    if (!c || !this.#master) return
    const o = c.createOscillator()
    const g = c.createGain()
    o.type = type
    o.frequency.setValueAtTime(from, when)
    o.frequency.exponentialRampToValueAtTime(to, when + length)
    g.gain.setValueAtTime(0.0001, when)
    g.gain.exponentialRampToValueAtTime(loud, when + 0.003)
    g.gain.exponentialRampToValueAtTime(0.0001, when + length)
    o.connect(g).connect(this.#master)
    o.start(when)
    o.stop(when + length + 0.02)
    into?.push(o)
  }

  #burst(when: number, pitch: number, length: number, loud: number, into?: AudioScheduledSourceNode[]) {
    const c = this.#clock.context
    if (!c || !this.#master) return
    const n = c.createBufferSource()
    const f = c.createBiquadFilter()
    const g = c.createGain()
    n.buffer = this.#noise
    f.type = 'bandpass'
    f.frequency.value = pitch
    f.Q.value = 1.4
    g.gain.setValueAtTime(loud, when)
    g.gain.exponentialRampToValueAtTime(0.0001, when + length)
    n.connect(f).connect(g).connect(this.#master)
    n.start(when)
    n.stop(when + length + 0.02)
    into?.push(n)
  }
}
