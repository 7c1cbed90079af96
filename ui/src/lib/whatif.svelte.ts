import { Refusal } from './api/client'

/** Asks the server what would be, each time the question changes: the newest question wins, and one at a time is under
 * way. The last answer stands until the next one is there. */
export class WhatIf<Q, A> {
  answer = $state<A | null>(null)
  refusal = $state<Refusal | null>(null)
  #waiting: Q | null = null
  /** The last answer is not yet that to the newest question. */
  pending = $state(false)
  #settled: (() => void)[] = []
  #call: (question: Q) => Promise<A>

  constructor(call: (question: Q) => Promise<A>) {
    this.#call = call
  }

  async ask(question: Q) {
    this.#waiting = question
    if (this.pending) return
    this.pending = true
    while (this.#waiting !== null) {
      const next: Q = this.#waiting
      this.#waiting = null
      try {
        this.answer = await this.#call(next)
        this.refusal = null
      } catch (e) {
        this.refusal = e instanceof Refusal ? e : new Refusal(0, String(e))
      }
    }
    this.pending = false
    for (const tell of this.#settled.splice(0)) tell()
  }

  /** Resolves once the answer belongs to what was asked last: for a step that builds on the answer. */
  settled(): Promise<void> {
    return this.pending || this.#waiting !== null ? new Promise((tell) => this.#settled.push(tell)) : Promise.resolve()
  }
}
