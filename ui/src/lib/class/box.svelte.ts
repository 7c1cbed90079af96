import { Refusal, api, ask, type Schemas } from '../api/client'
import { newKey } from '../key'
import { keepSafe } from '../run/safe'

type Deed = Schemas['Done']
type Step = Schemas['FloorStep']
type Action = NonNullable<Step['action']>
type Kept = {
  rev?: number // counts its changes
  withdrawn?: string[]
  deeds: Deed[]
  actions: { action: Action; clockUs: number }[]
  clockUs: number
  at: number
}

const prefix = 'hourbox:'
const heartbeat = 5000 // ms
const answer = 2500 // ms for what is done at once or not at all
const again = 1500 // ms until what did not arrive is sent again

/** Tells the server what happened on the floor, once and in order: it gets an id, is written to the browser's own store before it is sent, and
 * sent again until it was answered. */
export class Box {
  offline = $state(false)
  /** Why the server will not have it. */
  problem = $state('')
  #id: string
  #kept: Kept
  #clock: () => number
  #told: (theClass: Schemas['HeldClass']) => void
  #timer = 0
  #heard = 0
  #busy = false

  /** told is given the class as it then stands. */
  constructor(id: string, clock: () => number, told: (theClass: Schemas['HeldClass']) => void) {
    this.#id = id
    this.#clock = clock
    this.#told = told
    this.#kept = kept(id) ?? { deeds: [], actions: [], clockUs: 0, at: Date.now() }
  }

  get waiting() {
    return this.#kept.deeds.length + this.#kept.actions.length
  }

  open() {
    this.#timer = window.setInterval(() => {
      const due = performance.now() - this.#heard > heartbeat
      if (due || (this.waiting > 0 && performance.now() - this.#heard > again)) void this.send()
    }, 500)
  }

  close() {
    clearInterval(this.#timer)
  }

  did(deed: Deed['deed'], at: number) {
    this.#kept.deeds.push({ id: newKey(), deed, at: micros(at) })
    this.#save()
    return this.send()
  }

  /** Sends a deed that is done now or not at all: false where no answer came, and then it counts for nothing, should it have arrived. */
  async only(deed: Deed['deed'], at: number): Promise<boolean> {
    if (this.waiting > 0 && !this.offline) await this.send()
    if (this.offline || this.waiting > 0 || this.#busy) return false
    const one: Deed = { id: newKey(), deed, at: micros(at) }
    this.#kept.withdrawn = [...(this.#kept.withdrawn ?? []), one.id] // until it is known to be done
    this.#save()
    this.#busy = true
    this.#heard = performance.now()
    try {
      const theClass = await ask(
        api.POST('/api/hours/{id}/floor', {
          params: { path: { id: this.#id } },
          body: { deeds: [one], clockUs: micros(this.#clock()) },
          signal: AbortSignal.timeout(answer),
        }),
      )
      this.#kept.withdrawn = this.#kept.withdrawn.filter((id) => id !== one.id)
      this.#save()
      this.#told(theClass)
      return true
    } catch (e) {
      if (e instanceof Refusal && e.status === 422) {
        this.problem = e.message
        return true
      }
      this.offline = true
      return false
    } finally {
      this.#busy = false
    }
  }

  step(action: Action, at: number) {
    this.#kept.actions.push({ action, clockUs: micros(at) })
    this.#save()
    return this.send()
  }

  #save() {
    this.#kept.at = Date.now()
    this.#kept.clockUs = micros(this.#clock())
    this.#kept.rev = (this.#kept.rev ?? 0) + 1
    const text = this.waiting === 0 && !this.#kept.withdrawn?.length ? null : JSON.stringify(this.#kept)
    keepSafe(prefix + this.#id, text, this.#kept.rev)
    try {
      if (text === null) localStorage.removeItem(prefix + this.#id)
      else localStorage.setItem(prefix + this.#id, text)
    } catch {
      // A full or closed store costs the safety net, not the class.
    }
  }

  /** Sends what waits: deeds first, then what moves the clock, in the order in which it happened. */
  async send() {
    if (this.#busy) return
    this.#busy = true
    this.#heard = performance.now()
    try {
      do {
        const deeds = [...this.#kept.deeds]
        const step = this.#kept.actions[0]
        const withdrawn = this.#kept.withdrawn ?? []
        const theClass = await ask(
          api.POST('/api/hours/{id}/floor', {
            params: { path: { id: this.#id } },
            body: {
              deeds,
              ...(withdrawn.length > 0 ? { withdrawn } : {}),
              clockUs: step?.clockUs ?? micros(this.#clock()),
              ...(step ? { action: step.action } : {}),
            },
          }),
        )
        this.#kept.deeds.splice(0, deeds.length)
        this.#kept.withdrawn = this.#kept.withdrawn?.filter((id) => !withdrawn.includes(id)) ?? []
        if (step) this.#kept.actions.shift()
        this.#save()
        this.offline = false
        this.problem = ''
        if (this.#kept.deeds.length === 0) this.#told(theClass)
      } while (this.waiting > 0)
    } catch (e) {
      const status = e instanceof Refusal ? e.status : 0
      if (status === 422 || status === 404) {
        this.problem = (e as Error).message
        this.#kept.deeds = []
        this.#kept.actions.shift()
        this.#save()
      } else this.offline = true
    } finally {
      this.#busy = false
    }
  }
}

function kept(id: string): Kept | null {
  try {
    return JSON.parse(localStorage.getItem(prefix + id) ?? 'null') as Kept | null
  } catch {
    return null
  }
}

const micros = (seconds: number) => Math.max(0, Math.round(seconds * 1e6))
