import { toast } from 'svelte-sonner'
import { Refusal } from '../api/client'
import { same } from '../bench/fields'

/** Something that was changed on another screen while it was being changed here. */
export class Meanwhile<T extends { version: number }> {
  /** As it was saved there; null while nobody has. */
  theirs = $state.raw<T | null>(null)
  #read: () => Promise<T>
  #says: (thing: T) => unknown

  /** says gives what two that are the same have in common: all but versions and what is worked out. */
  constructor(read: () => Promise<T>, says: (thing: T) => unknown) {
    this.#read = read
    this.#says = says
  }

  alike = (x: T, y: T) => same(this.#says(x), this.#says(y))

  /** Takes over a refusal that says so: what was saved there is read. */
  takes(cause: unknown): boolean {
    if (!(cause instanceof Refusal) || cause.status !== 409) return false
    this.#read().then(
      (theirs) => (this.theirs = theirs),
      (e: Error) => toast(`${cause.message} ${e.message}`),
    )
    return true
  }
}
