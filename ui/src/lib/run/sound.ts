import type { Schemas } from '../api/client'
import type { RunClock } from './clock'
import type { Channel, Mix } from './loudness'
import { sounding, sounds } from './sounds.gen'

type Event = Schemas['Event']

const ahead = 1.5 // s that sounds are scheduled before they fall: more than a hidden page's slowest timer
const near = 0.25 // s that those are which the hits may move
const late = 0.4 // s after which a call that was moved is not spoken any more
const moving = new Set(['call', 'change', 'move'])

/** A part of a sound, as core has it. */
type Part = {
  shape: 'sine' | 'triangle' | 'noise'
  after: number
  from: number
  to: number
  length: number
  loud: number
}
const table = sounds as unknown as Record<string, { channel: Channel; parts: Part[]; speaks: number | null }>
const soundOf = (e: Event) =>
  table[
    e.kind === 'rebound' && e.n && e.n % 2 === 0
      ? 'rebound.even'
      : e.kind === 'bell' && e.text === 'end'
        ? 'bell.end'
        : e.kind
  ]
const channelOf = (e: Event): Channel => soundOf(e)?.channel ?? 'warning'
const spoken = new Set(Object.keys(table).filter((kind) => table[kind]!.speaks !== null))

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
    const sound = soundOf(e)
    if (!sound) return
    for (const part of sound.parts) this.#part(e, when + part.after, part, into)
    if (sound.speaks === null) return
    let at = when + sound.speaks
    for (const word of wordsOf(e.text)) {
      const clip = this.#words.get(word)
      if (!clip) continue
      this.#speak(e, clip, at)
      at += clip.duration + sounding.betweenWords
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

  /** A tone that glides as it dies away, or a burst of noise about a pitch. */
  #part(e: Event, when: number, part: Part, into?: AudioScheduledSourceNode[]) {
    const c = this.#clock.context
    const out = this.#channels.get(channelOf(e))
    if (!c || !out) return
    const g = c.createGain()
    let n: AudioScheduledSourceNode
    if (part.shape === 'noise') {
      const burst = c.createBufferSource()
      const f = c.createBiquadFilter()
      burst.buffer = this.#noise
      f.type = 'bandpass'
      f.frequency.value = part.from
      f.Q.value = sounding.narrow
      g.gain.setValueAtTime(part.loud, when)
      burst.connect(f).connect(g)
      n = burst
    } else {
      const o = c.createOscillator()
      o.type = part.shape
      o.frequency.setValueAtTime(part.from, when)
      o.frequency.exponentialRampToValueAtTime(part.to, when + part.length)
      g.gain.setValueAtTime(sounding.silence, when)
      g.gain.exponentialRampToValueAtTime(part.loud, when + sounding.attack)
      o.connect(g)
      n = o
    }
    g.gain.exponentialRampToValueAtTime(sounding.silence, when + part.length)
    g.connect(out)
    this.#put(e, n, when)
    n.stop(when + part.length + 0.02)
    into?.push(n)
  }
}
