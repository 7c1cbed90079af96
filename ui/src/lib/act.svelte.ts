import type { QueryClient } from '@tanstack/svelte-query'
import { toast } from 'svelte-sonner'
import { changes } from './changes.svelte'

type Told<T> = {
  /** What is said once it is done. */
  said?: string | ((done: T) => string)
  /** What takes it back: that stays in sight, with what was said, until something else is done. */
  undo?: ((done: T) => Promise<unknown>) | undefined
  /** What is taken back, in a word: save, archive. */
  what?: string
  undone?: string
  /** Where it is refused, that stands where it was pressed, as problem, with what became of the input; else it is said as a notice. */
  unchanged?: string
  /** Takes a refusal over: true where nothing more is to be said. */
  refused?: (cause: unknown) => boolean
}

/** Does what changes something on the server: one thing at a time, so that a second press waits for the first; then everything that is shown
 * is read anew, and it is said what was done. What is refused is said as it is, and nothing is read. */
export class Act {
  /** What is being done just now, by the name it was given; empty while nothing is. */
  busy = $state('')
  /** Why the last of it was refused. */
  problem = $state('')
  #client: QueryClient

  constructor(client: QueryClient) {
    this.#client = client
  }

  /** Gives what came of it; undefined where it was refused, or where something else was still under way. */
  async do<T>(name: string, work: () => Promise<T>, told: Told<T> = {}): Promise<T | undefined> {
    if (this.busy) return undefined
    this.busy = name
    this.problem = ''
    try {
      const done = await work()
      await this.#client.invalidateQueries()
      this.#say(name, done, told)
      return done
    } catch (e) {
      const why = e instanceof Error ? e.message : String(e)
      if (told.refused?.(e)) return undefined
      if (told.unchanged) this.problem = `${why} ${told.unchanged}`
      else toast(why)
      return undefined
    } finally {
      this.busy = ''
    }
  }

  #say<T>(name: string, done: T, { said, undo, what, undone }: Told<T>) {
    if (!said) return
    const text = typeof said === 'string' ? said : said(done)
    if (!undo) return void toast(text)
    const back = async () => {
      const work = async () => (await undo(done), true)
      return (await this.do(`undo ${name}`, work, undone ? { said: undone } : {})) ?? false
    }
    changes.add({ of: text, what: what ?? name, said: text, back })
  }
}
