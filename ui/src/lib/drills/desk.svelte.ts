import type { QueryClient } from '@tanstack/svelte-query'
import { push } from 'svelte-spa-router'
import { Act } from '../act.svelte'
import { api, ask, Refusal, type Schemas } from '../api/client'
import { changes } from '../changes.svelte'
import { Draft } from '../drafts/drafts.svelte'
import { Meanwhile } from '../drafts/meanwhile.svelte'
import { newKey } from '../key'
import { isLine, type Doc } from './doc'

export type Given = Schemas['Assignment']

/** What a new drill is begun with, as the address says it. */
export type Beginning = { rig: string; trainee: string; drill: string; library: string }

export const beginning = (query: URLSearchParams): Beginning => ({
  rig: query.get('rig') ?? '',
  trainee: query.get('trainee') ?? '',
  drill: query.get('drill') ?? '',
  library: query.get('library') ?? '',
})

/** What a drill says that was changed on two screens, a row each; told is its sentence, as the core says it. */
export const rowsOf = (drill: Given, told: string, people: Schemas['Trainee'][], bags: Schemas['Rig'][]) => [
  { name: 'Name', text: drill.name },
  { name: 'For', text: people.find((t) => t.id === drill.traineeId)?.name ?? '' },
  { name: 'Bag', text: bags.find((b) => b.id === drill.rigId)?.name ?? '' },
  { name: 'What is thrown', text: isLine(drill.doc) ? (drill.doc.text ?? '') : '' },
  { name: 'How', text: told },
]

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
  draft = new Draft<Given>('drills')
  meanwhile = new Meanwhile<Given>(
    () => this.#read(this.drill!.id),
    ({ name, rigId, traineeId, doc }) => ({ name, rigId, traineeId, doc }),
  )
  #saved = $state.raw<Given | null>(null)
  #first = $state.raw<Given | null>(null) // as the page began
  #act: Act
  #running = false
  #saving = false // it was pressed when the other change came to light
  #another = '' // the id of the drill that a change for somebody else becomes

  constructor(client: QueryClient) {
    this.#act = new Act(client)
  }

  #read = (id: string) => ask(api.GET('/api/assignments/{id}', { params: { path: { id } } }))

  async open(id: string) {
    this.#saved = await this.#read(id)
    this.#start(this.#saved, this.draft.take(id))
    const newer = (['version', 'drillVersion'] as const).some((v) => this.drill![v] !== this.#saved![v])
    if (this.changed && newer) this.meanwhile.theirs = this.#saved
  }

  /** Begins a new drill with what first gives, or goes on with the draft that the address names. */
  async begin(query: URLSearchParams, first: () => Promise<Pick<Given, 'rigId' | 'traineeId' | 'name' | 'doc'>>) {
    this.#saved = null
    const left = this.draft.take('new', query)
    this.#start(left ?? { id: '', drillId: '', version: 0, ...(await first()) }, left)
  }

  #start(first: Given, left: Given | null) {
    this.#another = newKey()
    this.meanwhile.theirs = null
    this.#saving = false
    this.#first = structuredClone(first)
    this.drill = structuredClone(left ?? first)
  }

  /** Whether there is something that is not saved. */
  get changed() {
    if (!this.drill || !this.#first) return false
    return this.draft.since !== null || !this.meanwhile.alike($state.snapshot(this.drill) as Given, this.#first)
  }

  /** Keeps what is not saved on this device, under a name. */
  keepDraft(name: string) {
    if (!this.drill) return
    const isNew = this.#saved === null
    const unsaved = isNew ? this.changed : !this.meanwhile.alike($state.snapshot(this.drill) as Given, this.#saved!)
    this.draft.keep(unsaved ? ($state.snapshot(this.drill) as Given) : null, name, isNew)
  }

  /** Lets go of what is not saved; it can be taken back. */
  dropDraft(again: () => void) {
    const left = $state.snapshot(this.drill) as Given
    const said = `${left.name || 'The drill'} is as it was saved.`
    this.draft.drop()
    if (this.#saved) {
      this.meanwhile.theirs = null
      this.drill = structuredClone(this.#saved)
    } else again()
    changes.add({ of: said, what: 'drop', said, back: async () => ((this.drill = left), true) })
  }

  keepMine() {
    const theirs = this.meanwhile.theirs
    if (!this.drill || !theirs) return
    this.drill.version = theirs.version
    this.drill.drillVersion = theirs.drillVersion ?? 0
    this.#saved = theirs
    this.meanwhile.theirs = null
    if (this.#saving) return this.save(this.#running)
  }

  keepTheirs() {
    const theirs = this.meanwhile.theirs
    if (!theirs) return
    const mine = { ...($state.snapshot(this.drill) as Given), version: theirs.version }
    if (theirs.drillVersion !== undefined) mine.drillVersion = theirs.drillVersion
    const said = 'The drill is as it was saved on the other screen.'
    this.#saved = theirs
    this.#saving = false
    this.meanwhile.theirs = null
    this.draft.drop()
    this.drill = structuredClone(theirs)
    changes.add({ of: said, what: 'choice', said, back: async () => ((this.drill = mine), true) })
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
    this.#saving = true
    const same = this.#saved?.traineeId === this.drill.traineeId
    const before = same ? this.#saved : null
    const kept = await this.#act.do('save', () => this.#keep($state.snapshot(this.drill) as Given, scope), {
      said: ({ name }) => `${name} is saved.`,
      undo: (kept) => (before ? this.#putBack(before, kept) : this.#archive(kept)),
      undone: before ? `${before.name} is as it was.` : 'The drill is archived.',
      unchanged: 'Nothing was saved.',
      refused: (e) => {
        this.asking = e instanceof Refusal && e.field === 'body.scope'
        return this.asking || (before !== null && this.meanwhile.takes(e))
      },
    })
    if (kept) {
      this.draft.drop()
      this.draft.key = ''
      void push(run ? `/run/${kept.id}` : '/drills')
    }
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
    if (!same) {
      const header = { 'Idempotency-Key': this.#saved ? this.#another : this.draft.key }
      return ask(api.POST('/api/assignments', { body, params: { header } }))
    }
    return ask(
      api.PUT('/api/assignments/{id}', {
        params: { path: { id: body.id } },
        body: { ...body, ...(scope ? { scope } : {}) },
      }),
    )
  }

  #archive(kept: Given) {
    return ask(api.DELETE('/api/assignments/{id}', { params: { path: { id: kept.id } } }))
  }

  #putBack(before: Given, kept: Given) {
    const body = { ...before, version: kept.version, drillVersion: kept.drillVersion ?? 0, scope: 'all' as const }
    return ask(api.PUT('/api/assignments/{id}', { params: { path: { id: before.id } }, body }))
  }
}
