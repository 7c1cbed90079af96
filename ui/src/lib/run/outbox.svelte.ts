import { Refusal, api, ask, type Schemas } from '../api/client'
import { newKey } from '../key'
import { keepSafe, restoreSafe } from './safe'

type Hit = Schemas['HitIn']
type Mark = Schemas['MarkIn']
type Step = Schemas['Step']
type Kept = {
  device: string
  hits: Hit[]
  marks: Mark[]
  steps: Step[]
  coach?: string
  delay?: number | null
  at?: number
  rev?: number // counts its changes
}

const prefix = 'outbox:'
const beat = 400 // ms between batches
const silence = 1500 // ms after which the server hears from us even without a hit
const batch = 200 // hits, and marks, that are sent at once
const sending = new Set<string>() // the runs whose pages send for themselves
const forgotten = 90 * 24 * 3600e3 // ms after which what nobody takes any more goes

/** Takes what is captured and sees to it that it arrives once: everything is numbered, written to the browser's own store
 * before it is sent, and sent again until the server has answered. What a closed page left behind is sent by the next. */
export class Outbox {
  offline = $state(false)
  /** Somebody else is signed in with this browser: what waits is kept until its coach is back. */
  foreign = $state(false)
  /** Why the round may not start, or go on after a pause. */
  barred = $state('')
  waiting = $state(0)
  #run: string
  #kept: Kept
  #seq = 0
  #timer = 0
  #busy = false
  #heard = 0
  #clock: () => number
  #inflight: Promise<void> = Promise.resolve()

  /** The delay of the device is in seconds, null where it was not measured; coach is whose round it is. */
  constructor(run: string, clock: () => number, from: { coach: string; delay: number | null } | Kept) {
    this.#run = run
    this.#clock = clock
    this.#kept =
      'hits' in from ? from : { device: `screen ${newKey()}`, hits: [], marks: [], steps: [], at: Date.now(), ...from }
  }

  open() {
    sending.add(this.#run)
    this.#timer = window.setInterval(() => void this.flush(), beat)
  }

  hit(at: number, hand: string) {
    this.#kept.hits.push({ seq: this.#seq++, at: micros(at), hand: hand as 'lead' | 'rear' })
    this.#save()
  }

  mark(at: number, kind: Mark['kind']) {
    this.#kept.marks.push({ seq: this.#seq++, at: micros(at), kind })
    this.#save()
  }

  step(action: Step['action'], at: number) {
    this.#kept.steps.push({ action, clockUs: micros(at) })
    this.#save()
    return this.flush()
  }

  get empty() {
    return this.#kept.hits.length + this.#kept.marks.length + this.#kept.steps.length === 0
  }

  #save() {
    this.waiting = this.#kept.hits.length + this.#kept.marks.length
    this.#kept.rev = (this.#kept.rev ?? 0) + 1
    const text = this.empty ? null : JSON.stringify(this.#kept)
    keepSafe(prefix + this.#run, text, this.#kept.rev)
    try {
      if (text === null) localStorage.removeItem(prefix + this.#run)
      else localStorage.setItem(prefix + this.#run, text)
    } catch {
      // A full or closed store costs the safety net, not the run.
    }
  }

  /** Sends what waits. Resolves when the attempt is over, whether it succeeded or not. */
  flush(): Promise<void> {
    if (!this.#busy) this.#inflight = this.#send()
    return this.#inflight
  }

  async #send() {
    const due = performance.now() - this.#heard > silence
    if (this.empty && !due) return
    this.#busy = true
    try {
      if (this.#kept.steps[0]?.action === 'start') await this.#sendStep()
      for (let told = due; told || this.#kept.hits.length + this.#kept.marks.length > 0; told = false)
        await this.#sendBatch()
      while (this.#kept.steps.length > 0) await this.#sendStep()
      this.#heard = performance.now()
      this.offline = this.foreign = false
    } catch (e) {
      this.#refused(e)
    } finally {
      this.#busy = false
    }
  }

  #refused(e: unknown) {
    const status = e instanceof Refusal ? e.status : 0
    this.foreign = status === 404 // or gone; then it waits until it is forgotten
    if (status === 409) {
      this.barred = (e as Refusal).message
      // Without a hit there was no round. One that was told of too late waits until it may be told; what came before a pause is sent.
      if (this.#kept.steps[0]?.action !== 'start') this.#kept.steps.shift()
      else if (this.#kept.hits.length + this.#kept.marks.length === 0) this.#kept.steps = []
      this.#save()
    } else if (status === 422)
      this.#drop() // the server will never take this: it is not ours to tap
    else this.offline = true
  }

  #drop() {
    this.#kept = { ...this.#kept, hits: [], marks: [], steps: [] }
    this.#save()
  }

  async #sendBatch() {
    const hits = this.#kept.hits.slice(0, batch)
    const marks = this.#kept.marks.slice(0, batch)
    const now = this.#clock()
    const delay = this.#kept.delay ?? null
    await ask(
      api.POST('/api/runs/{id}/hits', {
        params: { path: { id: this.#run } },
        body: {
          device: this.#kept.device,
          hits,
          marks,
          ...(now > 0 ? { clockUs: micros(now) } : {}),
          ...(delay === null ? {} : { latencyUs: micros(delay) }),
        },
      }),
    )
    this.#kept.hits.splice(0, hits.length)
    this.#kept.marks.splice(0, marks.length)
    this.#save()
  }

  async #sendStep() {
    const step = this.#kept.steps[0]
    if (!step) return
    await ask(api.POST('/api/runs/{id}/clock', { params: { path: { id: this.#run } }, body: step }))
    this.#kept.steps.shift()
    this.#save()
  }

  /** The page goes away: what waits, and the word that the run stopped, are sent on without waiting for an answer. */
  leave(at: number) {
    const send = (path: string, body: unknown) =>
      void fetch(`/api/runs/${this.#run}/${path}`, {
        method: 'POST',
        keepalive: true,
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      }).catch(() => {})
    const { device, hits, marks, delay = null } = this.#kept
    if (hits.length + marks.length > 0)
      send('hits', {
        device,
        hits: hits.slice(0, batch),
        marks: marks.slice(0, batch),
        ...(delay === null ? {} : { latencyUs: micros(delay) }),
      })
    this.#kept.steps.push({ action: 'stop', clockUs: micros(at) })
    this.#save() // sent again by the next page, should this not arrive
    send('clock', { action: 'stop', clockUs: micros(at) })
  }

  close() {
    sending.delete(this.#run)
    clearInterval(this.#timer)
  }
}

const micros = (seconds: number) => Math.max(0, Math.round(seconds * 1e6))

let restored: Promise<void> | null = null // once a page: from then on both places are written alike

/** What earlier pages could not send: the rounds of whoever is signed in. What belongs to another coach waits for them. */
class Leftovers {
  /** Rounds that wait. */
  waiting = $state(0)
  #busy = false

  /** Sends on what waits. Says whether anything arrived. */
  async send(coach: string): Promise<boolean> {
    if (this.#busy) return false
    this.#busy = true
    await (restored ??= restoreSafe())
    const before = this.#of(coach).length
    for (const [key, left] of this.#of(coach)) {
      const outbox = new Outbox(key.slice(prefix.length), () => 0, left)
      await outbox.flush()
      if (outbox.foreign && Date.now() - (left.at ?? 0) > forgotten && left.at) {
        localStorage.removeItem(key)
        keepSafe(key, null, (left.rev ?? 0) + 1)
      }
    }
    this.#busy = false
    this.waiting = this.#of(coach).length
    return this.waiting < before
  }

  #of(coach: string): [string, Kept][] {
    return Object.keys(localStorage)
      .filter((k) => k.startsWith(prefix) && !sending.has(k.slice(prefix.length)))
      .flatMap((key): [string, Kept][] => {
        try {
          const left = JSON.parse(localStorage.getItem(key) ?? '') as Kept
          return left.coach && left.coach !== coach ? [] : [[key, left]]
        } catch {
          localStorage.removeItem(key) // no outbox of ours
          return []
        }
      })
  }
}
export const leftovers = new Leftovers()
