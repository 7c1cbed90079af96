import { api, ask, type Schemas } from '../api/client'

type Measured = Schemas['Measured']
export type Method = Measured['method']
type Reading = NonNullable<Measured['reading']>

const quiet = 3 // s without a tap, and the next one is another strike
const enough = 4 // taps of a strike

/** A bag while it is measured: what was tapped, counted or stopped, and what that says of it. */
export class Measuring {
  method = $state<Method>('taps')
  strikes = $state<number[][]>([[]])
  count = $state(6)
  seconds = $state<number | null>(null)
  started = $state<number | null>(null)
  fit = $state<Schemas['CalibrationFit'] | null>(null)
  reading = $state<Reading>('')
  settled = $state(false) // what a doubt asked was answered
  problem = $state('')
  #turn = 0 // answers that come late are dropped
  #rig: () => Schemas['Rig']

  constructor(rig: () => Schemas['Rig']) {
    this.#rig = rig
  }

  last = $derived(this.strikes.at(-1)!)
  #good = $derived(this.strikes.filter((s) => s.length >= enough))
  measured = $derived<Measured>({
    ...(this.method === 'taps'
      ? { method: this.method, strikes: this.#good }
      : { method: this.method, count: this.count, seconds: this.seconds ?? 0 }),
    reading: this.reading,
  })
  doubt = $derived(this.settled ? null : (this.fit?.doubt ?? null))
  begun = $derived(!!this.fit || this.last.length > 0 || this.strikes.length > 1 || !!this.seconds || !!this.problem)

  by(method: Method) {
    this.method = method
    this.again()
  }

  tap(at: number) {
    if (this.last.length > 0 && at - this.last.at(-1)! > quiet) this.strikes.push([at])
    else this.last.push(at)
    void this.look()
  }

  nextStrike() {
    if (this.last.length > 0) this.strikes.push([])
  }

  /** Starts the watch, or stops it. */
  watch(at: number) {
    if (this.started === null) {
      this.started = at
      this.seconds = null
      return
    }
    this.seconds = at - this.started
    this.started = null
    void this.look()
  }

  again() {
    this.strikes = [[]]
    this.seconds = this.started = this.fit = null
    this.reading = this.problem = ''
    this.settled = false
  }

  /** Reads the measurement in another way, or keeps to what was asked for. */
  readAs(as: Reading) {
    this.reading = as
    this.settled = true
    void this.look()
  }

  async look() {
    const turn = ++this.#turn
    if (this.method === 'taps' ? this.#good.length === 0 : !(this.seconds && this.seconds > 0)) return
    try {
      const body = { rig: this.#rig().doc, measured: this.measured }
      const fit = await ask(api.POST('/api/calibrate', { body }))
      if (turn === this.#turn) [this.fit, this.problem] = [fit, '']
    } catch (e) {
      if (turn === this.#turn) [this.fit, this.problem] = [null, (e as Error).message]
    }
  }

  /** Keeps what was measured and gives the bag that came of it. */
  keep = async () => {
    const { id, version } = this.#rig()
    const body = { version, measured: this.measured }
    const kept = await ask(api.POST('/api/rigs/{id}/calibrations', { params: { path: { id } }, body }))
    this.again()
    return kept
  }

  undo(calibration: string) {
    const at = { params: { path: { id: this.#rig().id } }, body: { id: calibration } }
    return ask(api.POST('/api/rigs/{id}/undo-calibration', at))
  }
}
