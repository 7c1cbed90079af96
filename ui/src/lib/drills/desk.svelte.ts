import type { QueryClient } from '@tanstack/svelte-query'
import { push } from 'svelte-spa-router'
import { Act } from '../act.svelte'
import { api, ask, Refusal, type Schemas } from '../api/client'
import type { Doc } from './doc'

export type Given = Schemas['Assignment']

/** What a new drill is begun with, as the address says it. */
export type Beginning = { rig: string; trainee: string; drill: string; library: string }

export const beginning = (query: URLSearchParams): Beginning => ({
  rig: query.get('rig') ?? '',
  trainee: query.get('trainee') ?? '',
  drill: query.get('drill') ?? '',
  library: query.get('library') ?? '',
})

/** A drill of the gym or of the library to begin with; null where the address names none. */
export async function begunWith(from: Beginning): Promise<{ name: string; kind: string; doc: Doc } | null> {
  if (from.drill) return ask(api.GET('/api/drills/{id}', { params: { path: { id: from.drill } } }))
  if (!from.library) return null
  return (await ask(api.GET('/api/library'))).entries.find((e) => e.key === from.library) ?? null
}

/** A drill that somebody has on a bag, while it is written or changed: what the composer and the editor have in common. */
export class Desk {
  drill = $state<Given | null>(null)
  trouble = $state('')
  /** Whom a change of the drill itself is for has to be said before it is saved. */
  asking = $state(false)
  #saved: Given | null = null
  #act: Act
  #running = false

  constructor(client: QueryClient) {
    this.#act = new Act(client)
  }

  async open(id: string) {
    this.#saved = await ask(api.GET('/api/assignments/{id}', { params: { path: { id } } }))
    this.drill = structuredClone(this.#saved)
  }

  begin(rigId: string, traineeId: string, name: string, doc: Doc) {
    this.#saved = null
    this.drill = { id: '', drillId: '', name, rigId, traineeId, version: 0, doc }
  }

  /** Tells in words what went wrong while it was read. */
  async reading(load: () => Promise<void>) {
    this.trouble = ''
    try {
      await load()
    } catch (e) {
      this.trouble = (e as Error).message
    }
  }

  /** Saves, and goes to the floor or to the drills. Where others have the drill as well, it is asked first whom the change is for. */
  async save(run: boolean, scope: Given['scope'] = '') {
    if (!this.drill) return
    this.asking = false
    this.#running = run
    const before = this.#saved
    const same = before?.traineeId === this.drill.traineeId
    const kept = await this.#act.do('save', () => this.#keep($state.snapshot(this.drill) as Given, scope), {
      said: ({ name }) => `${name} is saved.`,
      undo: before && same && !run ? (kept) => this.#putBack(before, kept) : undefined,
      undone: `${before?.name} is as it was.`,
      unchanged: 'Nothing was saved.',
      refused: (e) => (this.asking = e instanceof Refusal && e.field === 'body.scope'),
    })
    if (kept) void push(run ? `/run/${kept.id}` : '/drills')
  }

  get problem() {
    return this.#act.problem
  }
  set problem(text: string) {
    this.#act.problem = text
  }

  /** Goes on saving, once it is said whom the change is for. */
  saveFor = (scope: 'all' | 'copy') => this.save(this.#running, scope)

  #keep(body: Given, scope: Given['scope']) {
    const same = this.#saved && this.#saved.traineeId === body.traineeId
    if (!same) return ask(api.POST('/api/assignments', { body }))
    return ask(
      api.PUT('/api/assignments/{id}', {
        params: { path: { id: body.id } },
        body: { ...body, ...(scope ? { scope } : {}) },
      }),
    )
  }

  #putBack(before: Given, kept: Given) {
    const body = { ...before, version: kept.version, drillVersion: kept.drillVersion ?? 0, scope: 'all' as const }
    return ask(api.PUT('/api/assignments/{id}', { params: { path: { id: before.id } }, body }))
  }
}
