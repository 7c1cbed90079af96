import { Refusal, api, ask, type Schemas } from '../api/client'

type Hit = Schemas['HitIn']
type Mark = Schemas['MarkIn']
type Step = Schemas['Step']
type Kept = { device: string; hits: Hit[]; marks: Mark[]; steps: Step[] }

const prefix = 'outbox:'
const beat = 400 // ms between batches
const silence = 1500 // ms after which the server hears from us even without a hit

/** Takes what is captured and sees to it that it arrives once: everything is numbered, written to the browser's own store
 * before it is sent, and sent again until the server has answered. What a closed page left behind is sent by the next. */
export class Outbox {
  offline = $state(false)
  waiting = $state(0)
  #run: string
  #kept: Kept
  #seq = 0
  #timer = 0
  #busy = false
  #heard = 0
  #clock: () => number
  #delay: number | null
  #inflight: Promise<void> = Promise.resolve()

  /** The delay of the device is in seconds, null where it was not measured; it is told once with the first batch. */
  constructor(run: string, clock: () => number, left?: Kept, delay: number | null = null) {
    this.#run = run
    this.#clock = clock
    this.#delay = delay
    this.#kept = left ?? { device: `screen ${crypto.randomUUID()}`, hits: [], marks: [], steps: [] }
  }

  open() {
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
    try {
      if (this.empty) localStorage.removeItem(prefix + this.#run)
      else localStorage.setItem(prefix + this.#run, JSON.stringify(this.#kept))
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
      const starts = this.#kept.steps[0]?.action === 'start'
      if (starts) await this.#sendStep()
      const hits = this.#kept.hits.slice(0, 200)
      const marks = this.#kept.marks.slice(0, 200)
      if (hits.length + marks.length > 0 || due) {
        const now = this.#clock()
        await ask(
          api.POST('/api/runs/{id}/hits', {
            params: { path: { id: this.#run } },
            body: { device: this.#kept.device, hits, marks, ...(now > 0 ? { clockUs: micros(now) } : {}), ...(this.#delay === null ? {} : { latencyUs: micros(this.#delay) }) },
          }),
        )
        this.#kept.hits.splice(0, hits.length)
        this.#kept.marks.splice(0, marks.length)
        this.#save()
      }
      while (this.#kept.steps.length > 0 && this.#kept.hits.length + this.#kept.marks.length === 0) await this.#sendStep()
      this.#heard = performance.now()
      this.offline = false
    } catch (e) {
      if (e instanceof Refusal && (e.status === 404 || e.status === 422)) {
        // The server will never take this: the run is gone, or it is not ours to tap.
        this.#kept = { ...this.#kept, hits: [], marks: [], steps: [] }
        this.#save()
      } else this.offline = true
    } finally {
      this.#busy = false
    }
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
      void fetch(`/api/runs/${this.#run}/${path}`, { method: 'POST', keepalive: true, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }).catch(() => {})
    const { device, hits, marks } = this.#kept
    if (hits.length + marks.length > 0) send('hits', { device, hits: hits.slice(0, 500), marks: marks.slice(0, 500) })
    this.#kept.steps.push({ action: 'stop', clockUs: micros(at) })
    this.#save() // sent again by the next page, should this not arrive
    send('clock', { action: 'stop', clockUs: micros(at) })
  }

  close() {
    clearInterval(this.#timer)
  }
}

const micros = (seconds: number) => Math.max(0, Math.round(seconds * 1e6))

/** Sends on what earlier pages could not. Called once somebody is signed in. */
export async function sendLeftovers() {
  for (const key of Object.keys(localStorage).filter((k) => k.startsWith(prefix))) {
    try {
      const left = JSON.parse(localStorage.getItem(key) ?? '') as Kept
      await new Outbox(key.slice(prefix.length), () => 0, left).flush()
    } catch {
      localStorage.removeItem(key)
    }
  }
}
