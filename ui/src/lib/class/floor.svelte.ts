import { api, ask, type Schemas } from '../api/client'
import { RunClock } from '../run/clock'
import { mix, volume, type Mix } from '../run/loudness'
import { restoreSafe } from '../run/safe'
import { Sound } from '../run/sound'
import { Box } from './box.svelte'

export type Class = Schemas['HeldClass']
export type Face = Schemas['Display']
type Event = Schemas['Event']
type Station = Schemas['StationOut']
export type Deed = Schemas['Done']['deed']

const heardOf = new Set(['strike', 'rebound', 'pass', 'call', 'cue', 'change'])
const lead = 0.4 // s between the press of start and the clock's zero, in which the first sounds are put on it
const patience = 5000 // ms until what could not be fetched is asked for again
const online = new Set<Deed>(['back', 'repeat', 'wild', 'longer']) // done at once, or refused
const fore = 3 // stretches whose stations are fetched beforehand
export const most = 4 // dials that stand on the floor at once

/** A class on the floor: where its clock stands, what is done now and next, what is heard of it, and what becomes of it. */
export class ClassFloor {
  class = $state.raw<Class | null>(null)
  phase = $state<'ready' | 'starting' | 'running' | 'paused' | 'over'>('ready')
  /** s on the floor's clock, told ten times a second; what moves asks `now`. */
  time = $state(0)
  silent = $state(false) // the browser plays nothing until it is pressed
  muted = $state(volume() === 0)
  mix = $state.raw<Mix>(mix())
  problem = $state('')
  heard = $state('') // id of the bag whose strikes are heard
  told = $state('') // what became of the last press, where it did not do what it says
  asking = $state(false) // whether it is to end here
  box = $state<Box | null>(null)
  stations = $state.raw<Record<number, Station[]>>({}) // by stretch
  #events: Event[] = []
  #shifted = new Map<string, Event[]>()
  #fetching = new Set<number>()
  #unreached = -Infinity // ms, when the stations could not be fetched last
  #clock: RunClock | null = null
  #sound: Sound | null = null
  #timer = 0
  #left = false // the page is gone: nothing may happen in it any more
  #deed = -Infinity // s, when something was last done to the class
  #lock: WakeLockSentinel | null = null

  at = $derived.by(() => {
    const faces = this.class?.faces ?? []
    const i = faces.findIndex((f) => this.time * 1e6 < f.until)
    return i < 0 ? faces.length - 1 : i
  })
  face = $derived.by<Face | undefined>(() => this.class?.faces[this.at])
  next = $derived.by<Face | undefined>(() => this.class?.faces[this.at + 1])
  /** What comes after a rest, in one. */
  block = $derived.by<Face | undefined>(() =>
    this.face && this.face.block >= 0 ? this.face : this.class?.faces.slice(this.at).find((f) => f.block >= 0),
  )
  resting = $derived(!!this.face && this.face.block < 0)
  /** s to the end of the stretch, and to the bell. */
  left = $derived(this.face ? Math.max(0, this.face.until / 1e6 - this.time) : 0)
  bell = $derived(this.face ? Math.max(0, this.face.bellAt / 1e6 - this.time) : 0)
  live = $derived(this.phase === 'running' || this.phase === 'paused')

  now = () => this.#clock?.now() ?? this.time

  async load(id: string) {
    this.problem = ''
    try {
      const theClass = await ask(api.GET('/api/hours/{id}', { params: { path: { id } } }))
      this.box?.close()
      await restoreSafe() // of a browser that was killed
      if (this.#left) return
      this.box = new Box(id, () => this.now(), this.#took)
      this.#took(theClass)
      if (this.box.waiting > 0) await this.box.send()
      if (this.#left) return
      const now = this.class!
      this.time = now.clockUs / 1e6
      void this.#fetch()
      if (now.state === 'running') void this.#go()
      else if (now.state === 'paused') this.phase = 'paused'
      else if (now.state !== 'ready') this.phase = 'over'
    } catch (e) {
      this.problem = (e as Error).message
    }
  }

  /** The class as the server has it: what is played is other from now on where that has changed. */
  #took = (theClass: Class) => {
    if (this.#left) return
    if (theClass.refused) this.tell(`${theClass.refused.charAt(0).toUpperCase()}${theClass.refused.slice(1)}.`)
    const before = this.class
    const same = before && JSON.stringify(before.faces) === JSON.stringify(theClass.faces)
    this.class = same ? { ...theClass, faces: before.faces, cues: before.cues } : theClass
    if (before && before.version !== theClass.version) this.stations = {} // others may be on the bags
    if (!same) this.#plan()
    void this.#fetch()
    // Cut off for a while, this screen was counted as gone and the class as paused: it goes on.
    if (theClass.state === 'paused' && this.phase === 'running' && this.#clock)
      void this.box?.step('resume', this.now())
  }

  /** Puts together what is heard: the cues of the session, and the strikes of the one bag that is listened to. */
  #plan() {
    const cues = this.class?.cues ?? []
    const own = (this.class?.faces ?? []).flatMap((f) => this.#of(f))
    this.#events = [...cues, ...own].toSorted((a, b) => a.at - b.at)
    this.#sound?.anew(Math.max(this.#deed, this.now() - 1))
  }

  #of(f: Face): Event[] {
    const list = this.stations[f.id] ?? []
    const s = list.length === 1 ? list[0] : list.find((x) => x.bag === this.heard)
    if (!s || s.barred) return []
    const key = `${f.id} ${s.bag} ${f.from} ${s.tempo}`
    const known = this.#shifted.get(key)
    if (known) return known
    const shift = f.from - s.timeline.start
    const events = s.timeline.events
      .filter((e) => heardOf.has(e.kind) && e.at >= s.timeline.start && e.at + shift < f.until)
      .map((e) => ({ ...e, at: e.at + shift }))
    this.#shifted.set(key, events)
    return events
  }

  /** Fetches what is done on the bags in this stretch and the next ones, so that it is there when the line is not. */
  async #fetch() {
    if (this.#left || performance.now() - this.#unreached < patience) return
    const faces = this.class?.faces ?? []
    const coming = faces.slice(Math.max(0, this.at)).filter((f) => f.onBag && !this.stations[f.id])
    for (const f of coming.slice(0, fore)) {
      if (this.#fetching.has(f.id)) continue
      this.#fetching.add(f.id)
      try {
        const list = await ask(
          api.GET('/api/hours/{id}/stations/{stretch}', {
            params: { path: { id: this.class!.id, stretch: f.id } },
          }),
        )
        if (this.#left) return
        this.stations = { ...this.stations, [f.id]: list }
        const more = this.#of(f)
        if (more.length > 0) {
          this.#events = [...this.#events, ...more].toSorted((a, b) => a.at - b.at)
          this.#sound?.more()
        }
      } catch {
        this.#unreached = performance.now() // the floor goes on without its dials, and asks again
      } finally {
        this.#fetching.delete(f.id)
      }
    }
  }

  /** Listens to the strikes of a bag, or of none. */
  listen(bag: string) {
    this.heard = this.heard === bag ? '' : bag
    this.#plan()
  }

  /** Begins, or goes on; call it from a key or a press, else the browser keeps silent. */
  async start() {
    if (!this.class || this.phase === 'starting' || this.phase === 'running') return
    const first = this.phase === 'ready'
    this.phase = 'starting'
    if (first) this.time = -lead
    await this.#go()
    void this.box?.step(first ? 'start' : 'resume', Math.max(0, this.now()))
  }

  async #go() {
    const from = this.time
    this.#clock?.close()
    this.#sound?.stop()
    const clock = new RunClock()
    const began = performance.now()
    await clock.start(-from)
    if (this.#left) return clock.close()
    // while the audio was asked for the class went on, where it was under way
    if (this.phase === 'ready' && this.class?.state === 'running') clock.shift((performance.now() - began) / 1000)
    this.#clock = clock
    this.silent = !clock.audible
    this.#sound = new Sound(clock, () => this.#events)
    this.#sound.volume = this.muted ? 0 : volume() || 0.8
    this.#sound.mix = this.mix
    this.#sound.start()
    this.box?.open()
    this.phase = 'running'
    this.#timer ||= window.setInterval(() => this.#tick(), 100)
    void this.#keepAwake()
  }

  /** After a reload the browser plays nothing until something is pressed: this is. */
  async sound() {
    this.time = this.now()
    await this.#go()
  }

  #tick() {
    if (this.phase !== 'running' || !this.class) return
    this.time = this.now()
    void this.#fetch()
    const end = (this.class.faces.at(-1)?.until ?? 0) / 1e6
    if (this.time >= end + 1) void this.#end('finish', end)
  }

  async pause() {
    if (this.phase === 'running') {
      this.phase = 'paused'
      await this.#clock?.pause()
      this.time = this.now()
      await this.box?.step('pause', this.time)
    } else if (this.phase === 'paused') {
      this.asking = false
      if (!this.#clock) return this.start()
      await this.#clock.resume()
      this.phase = 'running'
      await this.box?.step('resume', this.now())
    }
  }

  /** What is pressed counts at once: without a line it is played on by what is known, and told later. */
  async deed(deed: Deed) {
    if (!this.live || !this.class) return
    const at = this.now()
    this.#deed = at
    if (online.has(deed)) return this.#onlineOnly(deed, at)
    const before = this.class
    const told = this.box?.did(deed, at)
    await Promise.race([told, new Promise((done) => setTimeout(done, 400))])
    if (this.class === before && !this.#left) this.#meanwhile(deed, at)
  }

  /** What changes the order of things is worked out by the server: it is done now, or not at all, and never later. */
  async #onlineOnly(deed: Deed, at: number) {
    if (!(await this.box?.only(deed, at)))
      this.tell('Offline: nothing was changed. Press it again once you are online.')
  }

  /** Until the server has answered, a skip goes to what is next, and whatever is done again begins anew. */
  #meanwhile(deed: Deed, at: number) {
    const faces = this.class!.faces.map((f) => ({ ...f }))
    const i = this.at
    if (deed === 'skip') {
      const by = faces[i]!.until - Math.round(at * 1e6)
      faces[i]!.until -= by
      for (const f of faces.slice(i + 1)) {
        f.from -= by
        f.until -= by
        f.bellAt -= by
      }
      const cues = this.class!.cues.filter((c) => c.at < at * 1e6 || c.at >= at * 1e6 + by)
      this.class = {
        ...this.class!,
        faces,
        cues: cues.map((c) => (c.at >= at * 1e6 ? { ...c, at: c.at - by } : c)),
      }
      this.#plan()
    } else this.tell('Saved here. It takes effect once you are online.')
  }

  /** Plans what is left anew, with those who are here and the bags that can be used now. Says why where that is refused. */
  async anew(people: string[], bags: string[]): Promise<string> {
    try {
      const theClass = await ask(
        api.POST('/api/hours/{id}/anew', { params: { path: { id: this.class!.id } }, body: { people, bags } }),
      )
      this.#took(theClass)
      if (theClass.changed) this.tell(theClass.changed, 10_000)
      return ''
    } catch (e) {
      return (e as Error).message
    }
  }

  /** Says something for a while. */
  tell(text: string, ms = 5000) {
    this.told = text
    setTimeout(() => this.told === text && (this.told = ''), ms)
  }

  async askToEnd() {
    if (this.asking) return this.#end('stop', this.now())
    this.asking = true
    if (this.phase === 'running') await this.pause()
  }

  async #end(action: 'stop' | 'finish', at: number) {
    if (this.phase === 'over') return
    this.phase = 'over'
    clearInterval(this.#timer)
    this.#timer = 0
    if (action === 'stop') void this.box?.did('end', at)
    await this.box?.step(action, at)
    this.#release()
  }

  setMix(to: Mix) {
    this.mix = to
    if (this.#sound) this.#sound.mix = to
  }

  mute() {
    this.muted = !this.muted
    if (this.#sound) this.#sound.volume = this.muted ? 0 : volume() || 0.8
  }

  /** The page is left: the class goes on by its clock, and stands where it was heard last if nobody comes back. */
  leave() {
    this.#left = true
    clearInterval(this.#timer)
    this.#timer = 0
    if (this.phase === 'running' || this.phase === 'paused') void this.box?.send()
    this.box?.close()
    this.#release()
  }

  #release() {
    this.#sound?.stop()
    this.#clock?.close()
    this.#clock = null
    void this.#lock?.release().catch(() => {})
    this.#lock = null
  }

  async #keepAwake() {
    try {
      this.#lock = await navigator.wakeLock.request('screen')
    } catch {
      // Not every browser allows it; the class runs all the same.
    }
  }

  seenAgain() {
    if (document.visibilityState === 'visible' && this.live) void this.#keepAwake()
  }
}
