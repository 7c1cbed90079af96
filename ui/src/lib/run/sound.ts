import type { Schemas } from '../api/client'
import type { RunClock } from './clock'
import type { Channel, Mix } from './loudness'

type Event = Schemas['Event']

const ahead = 1.5 // s that sounds are scheduled before they fall: more than a hidden page's slowest timer
const near = 0.25 // s that those are which the hits may move
const late = 0.4 // s after which a call that was moved is not spoken any more
const moving = new Set(['call', 'change', 'move'])

/** What each sound belongs to, so that each has its own loudness. */
const channels: Record<string, Channel> = {
  strike: 'strike',
  pass: 'strike',
  rebound: 'board',
  call: 'voice',
  cue: 'voice',
  next: 'voice',
  loose: 'voice',
  bell: 'bell',
  begins: 'bell',
}
const channelOf = (e: Event): Channel => channels[e.kind] ?? 'warning'
const spoken = new Set(['call', 'cue', 'next', 'begins', 'loose'])

const wordsOf = (text = '') => text.split(/[ ,;]+/).filter(Boolean)

/** Plays a timeline: each sound is put on the audio clock well before it falls. */
export class Sound {
  #clock: RunClock
  #events: () => Event[]
  #leave: (e: Event) => boolean // to the hits
  #played = new WeakSet<Event>()
  #boards: AudioScheduledSourceNode[] = [] // of the last hit
  #coming = new Map<AudioScheduledSourceNode, { e: Event; begins: number }>() // what is on the audio clock
  #master: GainNode | null = null
  #channels = new Map<Channel, GainNode>()
  #noise: AudioBuffer | null = null
  #words = new Map<string, AudioBuffer>()
  #asked = new Set<string>()
  #from = -Infinity // µs; what lay before it was played by the events of then
  #timer = 0
  #begins = 0 // on the audio clock, of the event that is being put there

  /** Events may move while the round runs; those that `leave` names are left to the hits. */
  constructor(clock: RunClock, events: () => Event[], leave: (e: Event) => boolean = () => false) {
    this.#clock = clock
    this.#events = events
    this.#leave = leave
    const context = clock.context
    if (!context) return
    this.#master = context.createGain()
    this.#master.connect(context.destination)
    for (const name of ['bell', 'warning', 'strike', 'board', 'voice'] as const) {
      const gain = context.createGain()
      gain.connect(this.#master)
      this.#channels.set(name, gain)
    }
    this.#noise = context.createBuffer(1, context.sampleRate * 0.2, context.sampleRate)
    void this.#loadWords()
    const data = this.#noise.getChannelData(0)
    for (let i = 0; i < data.length; i++) data[i] = Math.random() * 2 - 1
  }

  /** Fetches the clips of the words that are called. A clip that does not come is not spoken; the call stands on the screen. */
  async #loadWords() {
    const words = new Set(
      this.#events()
        .filter((e) => spoken.has(e.kind))
        .flatMap((e) => wordsOf(e.text))
        .filter((word) => !this.#asked.has(word)),
    )
    for (const word of words) this.#asked.add(word)
    await Promise.all(
      [...words].map(async (word) => {
        try {
          const answer = await fetch(`/calls/${word}.mp3`)
          if (answer.ok && this.#clock.context)
            this.#words.set(word, await this.#clock.context.decodeAudioData(await answer.arrayBuffer()))
        } catch {
          this.#asked.delete(word) // offline: it goes on without a voice, and is asked for again
        }
      }),
    )
  }

  set volume(v: number) {
    if (this.#master && this.#clock.context) this.#master.gain.setTargetAtTime(v, this.#clock.context.currentTime, 0.02)
  }

  /** How loud each sort of sound is. */
  set mix(mix: Mix) {
    const c = this.#clock.context
    if (c) for (const [name, gain] of this.#channels) gain.gain.setTargetAtTime(mix[name], c.currentTime, 0.02)
  }

  /** The events are others from a moment of the run (s) on: what is on the clock and has not begun is taken off it. */
  anew(from: number) {
    const now = this.#clock.context?.currentTime ?? 0
    for (const [node, { e, begins }] of this.#coming)
      if (begins > now + 0.02) {
        node.onended = null
        node.stop()
        this.#coming.delete(node)
        this.#played.delete(e)
      }
    this.#from = from * 1e6
    void this.#loadWords()
  }

  /** There are more events: their words are fetched. */
  more() {
    void this.#loadWords()
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
      if (e.at < Math.max(this.#from, now - late * 1e6) || this.#played.has(e) || this.#leave(e)) continue
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
    this.#begins = when
    switch (e.kind) {
      case 'strike': // leather: a low thud under a short slap
        this.#tone(e, when, 'sine', 150, 55, 0.12, 0.9)
        this.#burst(e, when, 1400, 0.045, 0.5)
        break
      case 'rebound': // the board: dry wood, the far one a little lower than the near one
        this.#burst(e, when, e.n && e.n % 2 === 0 ? 2600 : 2100, 0.022, 0.55, into)
        this.#tone(e, when, 'triangle', e.n && e.n % 2 === 0 ? 560 : 470, 420, 0.03, 0.22, into)
        break
      case 'pass': // a slip bag going by
        this.#burst(e, when - 0.04, 420, 0.12, 0.3)
        break
      case 'cue':
      case 'begins':
        if (e.kind === 'cue') this.#tone(e, when - 0.02, 'triangle', 1400, 1400, 0.05, 0.35)
        else for (const k of [0, 0.14]) this.#tone(e, when + k, 'sine', 930, 925, 0.4, 0.3) // two light strokes of the bell
      // falls through: it is spoken as well
      case 'next':
      case 'loose':
      case 'call': {
        let at = when + (e.kind === 'begins' ? 0.35 : 0)
        for (const word of wordsOf(e.text)) {
          const clip = this.#words.get(word)
          if (!clip) continue
          this.#speak(e, clip, at)
          at += clip.duration + 0.03
        }
        break
      }
      case 'count':
        this.#tone(e, when, 'triangle', 880, 860, 0.07, 0.5)
        break
      case 'ready':
        break
      case 'warning':
        this.#tone(e, when, 'triangle', 1180, 1150, 0.09, 0.4)
        break
      case 'bell': {
        const strokes = e.text === 'end' ? [0, 0.32, 0.64] : [0]
        for (const s of strokes)
          for (const [ratio, gain] of [
            [1, 0.4],
            [2.41, 0.22],
            [3.9, 0.12],
          ] as const)
            this.#tone(e, when + s, 'sine', 620 * ratio, 618 * ratio, 1.1 / ratio, gain)
        break
      }
    }
  }

  /** Puts something on the audio clock. */
  #put(e: Event, n: AudioScheduledSourceNode, when: number) {
    n.start(when)
    this.#coming.set(n, { e, begins: this.#begins })
    n.onended = () => this.#coming.delete(n)
  }

  #speak(e: Event, clip: AudioBuffer, when: number) {
    const c = this.#clock.context
    const out = this.#channels.get(channelOf(e))
    if (!c || !out) return
    const n = c.createBufferSource()
    n.buffer = clip
    n.connect(out)
    this.#put(e, n, when)
  }

  #tone(
    e: Event,
    when: number,
    type: OscillatorType,
    from: number,
    to: number,
    length: number,
    loud: number,
    into?: AudioScheduledSourceNode[],
  ) {
    const c = this.#clock.context
    const out = this.#channels.get(channelOf(e))
    if (!c || !out) return
    const o = c.createOscillator()
    const g = c.createGain()
    o.type = type
    o.frequency.setValueAtTime(from, when)
    o.frequency.exponentialRampToValueAtTime(to, when + length)
    g.gain.setValueAtTime(0.0001, when)
    g.gain.exponentialRampToValueAtTime(loud, when + 0.003)
    g.gain.exponentialRampToValueAtTime(0.0001, when + length)
    o.connect(g).connect(out)
    this.#put(e, o, when)
    o.stop(when + length + 0.02)
    into?.push(o)
  }

  #burst(e: Event, when: number, pitch: number, length: number, loud: number, into?: AudioScheduledSourceNode[]) {
    const c = this.#clock.context
    const out = this.#channels.get(channelOf(e))
    if (!c || !out) return
    const n = c.createBufferSource()
    const f = c.createBiquadFilter()
    const g = c.createGain()
    n.buffer = this.#noise
    f.type = 'bandpass'
    f.frequency.value = pitch
    f.Q.value = 1.4
    g.gain.setValueAtTime(loud, when)
    g.gain.exponentialRampToValueAtTime(0.0001, when + length)
    n.connect(f).connect(g).connect(out)
    this.#put(e, n, when)
    n.stop(when + length + 0.02)
    into?.push(n)
  }
}
