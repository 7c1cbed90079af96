import { api, ask, type Schemas } from '../api/client'
import { RunClock } from './clock'
import { delay } from './delay'
import { Follow } from './follow'
import { Outbox } from './outbox.svelte'
import { session } from '../session.svelte'
import { mix, volume } from './loudness'
import { Sound } from './sound'
import { timelineMoves, timelineStrikes, type TraceHit, type TraceMove, type TraceStrike } from '../trace/geometry'

export type Phase = 'ready' | 'starting' | 'running' | 'paused' | 'ending' | 'over'
type Source = Schemas['NewRun']['source']
export type Plays = NonNullable<Schemas['NewRun']['plays']>
const lead = 0.4 // s between the press of start and the clock's zero
const tail = 0.7 // s after the closing bell until the round is over: its sound rings out

/** One round on the floor, from the press of start to the review. */
export class Round {
  phase = $state<Phase>('ready')
  run = $state.raw<Schemas['Run'] | null>(null)
  call = $state('')
  left = $state(0) // s to the closing bell
  asking = $state(false) // whether it is to end here
  countIn = $state(0) // seconds, then counts to the bell; 0 after it
  hits = $state.raw<TraceHit[]>([])
  marks = $state(0)
  /** A partner gives the cues by hand, and is told here. */
  partner = $state(false)
  muted = $state(volume() === 0)
  problem = $state('')
  outbox = $state<Outbox | null>(null)

  events = $state.raw<Schemas['Event'][]>([]) // as the hits have moved them
  follows = $state(false) // the bag on the screen goes by the hits by now
  strikes: TraceStrike[] = $derived(timelineStrikes(this.events))
  planned: TraceStrike[] = $derived(timelineStrikes(this.run?.timeline.events ?? []))
  moves: TraceMove[] = $derived(timelineMoves(this.events))
  #follow: Follow | null = null
  #clock: RunClock | null = null
  #sound: Sound | null = null
  #volume = () => (this.muted ? 0 : volume() || 0.8) // turned on in a round, it is heard
  #frame = 0
  #zero = 0
  #socket: WebSocket | null = null
  #lock: WakeLockSentinel | null = null
  #left = false // the page is gone: nothing may happen in it any more
  #over: (id: string, sent: boolean) => void

  /** over is told once the round is over, and whether all of it has arrived. */
  constructor(over: (id: string, sent: boolean) => void) {
    this.#over = over
  }

  now = () => this.#clock?.now() ?? 0

  /** Makes the run, so that a sensor can be joined to it before it starts. */
  async prepare(assignmentId: string, source: Source, plays?: Plays, standIn?: Schemas['StandInChoice']) {
    this.problem = ''
    try {
      this.run = await ask(
        api.POST('/api/runs', {
          body: {
            assignmentId,
            source,
            ...(plays ? { plays } : {}),
            ...(source === 'standin' && standIn ? { standIn } : {}),
          },
        }),
      )
    } catch (e) {
      this.problem = (e as Error).message
    }
    return this.run !== null
  }

  /** Starts; call it from a key or a press, else the browser keeps silent. */
  async start(assignmentId: string, source: Source, plays?: Plays, standIn?: Schemas['StandInChoice']) {
    if (this.phase !== 'ready') return
    this.phase = 'starting'
    const clock = new RunClock()
    if (
      (!this.run || this.run.source !== source || (plays && this.run.plays !== plays)) &&
      !(await this.prepare(assignmentId, source, plays, standIn))
    ) {
      clock.close()
      this.phase = 'ready'
      return
    }
    const run = this.run!
    this.outbox = new Outbox(run.id, () => this.now(), {
      coach: session.me?.id ?? '',
      delay: source === 'keys' ? delay() : null,
    })
    this.events = run.timeline.events
    if (run.plays !== 'beat' && run.timeline.bag) {
      this.#follow = new Follow(run.timeline, run.timeline.bag, run.followsUs)
      this.events = this.#follow.events
    }
    if (source !== 'keys' && source !== 'none') this.#listen(run.id)
    await clock.start(lead)
    if (this.#left) {
      clock.close()
      return
    }
    this.#clock = clock
    this.#sound = new Sound(
      clock,
      () => this.#follow?.events ?? run.timeline.events,
      // where the cues are given by hand, nobody hears them beforehand
      (e) => (this.partner && e.kind === 'cue') || (this.#follow?.handles(e) ?? false),
    )
    this.#sound.volume = this.#volume()
    this.#sound.mix = mix()
    this.#sound.start()
    this.outbox.open()
    this.left = (run.timeline.end - run.timeline.start) / 1e6
    this.phase = 'running'
    // The clock's zero lies a moment ahead; the server is told where it stands when it passes.
    this.#zero = window.setTimeout(() => void this.#tellStart(), Math.max(0, -this.now() * 1000))
    void this.#keepAwake()
    this.#frame = requestAnimationFrame(this.#tick)
  }

  async #tellStart() {
    await this.outbox?.step('start', Math.max(0, this.now()))
    if (!this.outbox?.barred) return
    this.problem = this.outbox.barred // a caution was set since the round was made: it does not start
    this.#release()
    this.outbox = this.run = this.#clock = null
    this.phase = 'ready'
  }

  #tick = () => {
    this.#frame = requestAnimationFrame(this.#tick)
    const t = this.run?.timeline
    if (!t || this.phase !== 'running') return
    const now = this.now()
    const micros = now * 1e6
    this.left = Math.max(0, (t.end - Math.max(micros, t.start)) / 1e6)
    let call = ''
    let count = 0
    if (this.#follow?.letBy(now)) this.events = [...this.#follow.events]
    this.follows = !!this.#follow && micros >= (this.run?.followsUs ?? Infinity)
    for (const e of this.events) {
      if (e.at > micros) break
      if (e.kind === 'call' || e.kind === 'cue') call = e.text ?? ''
      if (e.kind === 'count' || e.kind === 'ready') count = e.n ?? 0
      if (e.kind === 'bell') count = 0
    }
    this.call = call
    this.countIn = count
    if (now > t.end / 1e6 + tail) void this.#end('finish', t.end / 1e6)
  }

  hit(hand: string, page: number) {
    if (this.phase !== 'running' || this.run?.source !== 'keys' || !this.#clock) return
    const at = this.#clock.now(page)
    if (at < 0) return
    this.outbox?.hit(at, hand)
    this.#struck(at, hand)
  }

  /** The bag on the screen answers a hit: its sounds first, then the picture. */
  #struck(at: number, hand: string, launch?: number) {
    const real = at - (this.run?.source === 'keys' ? (delay() ?? 0) : 0)
    const boards = this.#follow?.hit(real, launch)
    if (boards && this.#follow && real * 1e6 >= (this.run?.followsUs ?? Infinity)) {
      this.#sound?.answer(boards, this.run?.source === 'keys')
      this.events = [...this.#follow.events]
    }
    const met = this.#follow ? (boards ? this.#follow.met : null) : this.#nearest(real)
    this.hits = [...this.hits, { at: real, hand, ...met }]
  }

  /** Where the beat sets the time: the strike whose moment is nearest. */
  #nearest(at: number) {
    const off = (s: TraceStrike) => Math.abs(s.at - at)
    const due = this.planned.toSorted((a, b) => off(a) - off(b))[0]
    return due ? { i: due.i, off: at - due.at } : null
  }

  mark(kind: Schemas['MarkIn']['kind']) {
    if (this.phase !== 'running' && this.phase !== 'paused') return
    this.outbox?.mark(Math.max(0, this.now()), kind)
    this.marks++
  }

  async togglePause() {
    if (!this.#clock) return
    if (this.phase === 'running') {
      this.phase = 'paused'
      await this.#clock.pause()
      await this.outbox?.step('pause', Math.max(0, this.now()))
    } else if (this.phase === 'paused') {
      this.asking = false
      await this.#clock.resume()
      this.phase = 'running'
      await this.outbox?.step('resume', Math.max(0, this.now()))
      if (this.outbox?.barred) await this.stop()
    }
  }

  mute() {
    this.muted = !this.muted
    if (this.#sound) this.#sound.volume = this.#volume()
  }

  /** Ends the round at the second press: the first one pauses it and asks, so that none is lost by a slip of the finger. */
  async askToStop() {
    if (this.asking) return this.stop()
    this.asking = true
    if (this.phase === 'running') await this.togglePause()
  }

  stop() {
    if (this.phase === 'running' || this.phase === 'paused') return this.#end('stop', Math.max(0, this.now()))
  }

  async #end(action: 'stop' | 'finish', at: number) {
    this.phase = 'ending'
    clearTimeout(this.#zero) // ended before it began, it never started
    cancelAnimationFrame(this.#frame)
    if (this.#clock && !this.#clock.paused) await this.#clock.pause()
    if (this.run?.source === 'device' || this.run?.source === 'standin')
      await new Promise((done) => setTimeout(done, 500)) // a sensor's last batch
    void this.outbox?.step(action, at)
    for (let tries = 0; this.outbox && !this.outbox.empty && !this.outbox.foreign && tries < 3; tries++) {
      await this.outbox.flush()
      if (!this.outbox.empty) await new Promise((done) => setTimeout(done, 300 * (tries + 1)))
    }
    const sent = this.outbox?.empty ?? true
    this.phase = 'over'
    this.#release()
    if (this.run && !this.#left) this.#over(this.run.id, sent)
  }

  /** The page is closed or left: what was captured goes out, and the run is stopped. */
  leave() {
    this.#left = true
    if (this.phase === 'running' || this.phase === 'paused' || this.phase === 'ending') {
      if (this.phase === 'ending') return // what waits goes on being sent; then it releases all by itself
      this.outbox?.leave(Math.max(0, this.now()))
      this.phase = 'over'
    }
    this.#release()
  }

  #release() {
    clearTimeout(this.#zero)
    cancelAnimationFrame(this.#frame)
    this.outbox?.close()
    this.#sound?.stop()
    this.#clock?.close()
    this.#socket?.close()
    void this.#lock?.release().catch(() => {})
    this.#lock = null
  }

  #listen(id: string) {
    const socket = new WebSocket(`${location.origin.replace(/^http/, 'ws')}/api/runs/${id}/live`)
    this.#socket = socket
    socket.onmessage = (m) => {
      const feed = JSON.parse(m.data as string) as {
        kind: string
        hits?: { at: number; hand?: string; launch?: number }[]
      }
      if (feed.kind === 'hits') for (const h of feed.hits ?? []) this.#struck(h.at / 1e6, h.hand ?? '', h.launch)
    }
    socket.onclose = (e) => {
      const signedOut = e.code === 1008 // until somebody signs in again there is no hurry
      if (this.phase === 'running' || this.phase === 'paused')
        setTimeout(() => this.#listen(id), signedOut ? 5000 : 1000)
    }
  }

  async #keepAwake() {
    try {
      this.#lock = await navigator.wakeLock.request('screen')
    } catch {
      // Not every browser allows it; the round runs all the same.
    }
  }

  /** The browser lets the screen go dark once the page was hidden; ask again when it is back. */
  seenAgain() {
    if (document.visibilityState === 'visible' && (this.phase === 'running' || this.phase === 'paused'))
      void this.#keepAwake()
  }
}
