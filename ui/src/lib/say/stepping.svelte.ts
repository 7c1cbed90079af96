import type { Schemas } from '../api/client'
import { shownAs } from '../bench/kinds.svelte'
import { patchOf, type Patch } from '../drills/patch'
import { session } from '../session.svelte'

type Knob = Schemas['Knob']

/** What is set of knobs by steps, ahead of the answer: on a slow line the figure changes at once. */
export class Stepping {
  #ahead = $state<Record<string, number>>({})
  #pending: () => boolean
  #patch: (patch: Patch) => void

  constructor(pending: () => boolean, patch: (patch: Patch) => void) {
    this.#pending = pending
    this.#patch = patch
  }

  #figure = (k: Knob) => (this.#pending() ? (this.#ahead[k.field] ?? k.figure) : k.figure)

  /** Steps a figure or goes on to another choice; returns how it then stands, in words. */
  by(k: Knob, steps: number): string {
    if (k.quantity === 'words') {
      const at = k.options.findIndex((o) => o.value === k.value)
      const to = k.options[Math.max(0, Math.min(k.options.length - 1, at + Math.sign(steps)))]
      if (to && to.value !== k.value) this.#patch(to.with)
      return to?.text ?? ''
    }
    const from = this.#figure(k)
    const on = Math.round(from / k.step) + steps // a step lands on the grid of steps
    const to = Math.min(k.most, Math.max(k.least, Number((on * k.step).toFixed(6))))
    if (to !== from) {
      this.#ahead = { ...(this.#pending() ? this.#ahead : {}), [k.field]: to }
      this.#patch(patchOf(k.field, to, k.with))
    }
    return this.#shown(k, to)
  }

  #shown(k: Knob, figure: number): string {
    const { unit, factor } = shownAs(k.quantity, session.units)
    return `${this.#plain(figure * factor)} ${unit}`
  }
  #plain = (n: number) => String(Number(n.toFixed(2)))

  /** How a part reads while what was stepped is not answered yet: the figure in it is the new one. */
  written(k: Knob, text: string): string {
    const to = this.#figure(k)
    if (to === k.figure) return text
    const { factor } = shownAs(k.quantity, session.units)
    return text.replace(this.#plain(k.figure * factor), this.#plain(to * factor))
  }
}
