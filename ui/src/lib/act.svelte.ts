import type { QueryClient } from '@tanstack/svelte-query'
import { toast } from 'svelte-sonner'

type Said<T> = string | ((done: T) => string)

/** Does what changes something on the server: one thing at a time, so that a second press waits for the first; then everything that is shown
 * is read anew, and it is said what was done. What is refused is said as it is, and nothing is read. */
export class Act {
  /** What is being done just now, by the name it was given; empty while nothing is. */
  busy = $state('')
  #client: QueryClient

  constructor(client: QueryClient) {
    this.#client = client
  }

  /** Gives what came of it; undefined where it was refused, or where something else was still under way. */
  async do<T>(
    name: string,
    work: () => Promise<T>,
    said?: Said<T>,
    undo?: () => Promise<unknown>,
  ): Promise<T | undefined> {
    if (this.busy) return undefined
    this.busy = name
    try {
      const done = await work()
      await this.#client.invalidateQueries()
      if (said)
        toast(
          typeof said === 'string' ? said : said(done),
          undo ? { action: { label: 'Undo', onClick: () => void this.do(`undo ${name}`, undo) } } : {},
        )
      return done
    } catch (e) {
      toast((e as Error).message)
      return undefined
    } finally {
      this.busy = ''
    }
  }
}
