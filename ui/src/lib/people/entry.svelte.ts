import type { QueryClient } from '@tanstack/svelte-query'
import { Act } from '../act.svelte'
import { api, ask, type Schemas } from '../api/client'
import { same } from '../bench/fields'
import { changes } from '../changes.svelte'
import { Draft } from '../drafts/drafts.svelte'
import { Meanwhile } from '../drafts/meanwhile.svelte'

type Person = Schemas['Trainee']

/** Somebody while they are entered or changed. */
export class Entry {
  edited = $state<Person | null>(null)
  draft = new Draft<Person>('people')
  meanwhile: Meanwhile<Person>
  #saved = $state.raw<Person | null>(null) // null for somebody new
  #first: Person | null = null // as the form began
  #saving = false
  #act: Act

  constructor(client: QueryClient) {
    this.#act = new Act(client)
    this.meanwhile = new Meanwhile<Person>(
      () => ask(api.GET('/api/trainees/{id}', { params: { path: { id: this.#saved!.id } } })),
      ({ version, archived, id, ...says }) => says,
    )
  }

  get problem() {
    return this.#act.problem
  }

  /** Begins with somebody as they are saved, or with a newcomer; or with what was left unsaved of either. */
  begin(person: Person | null, newcomer: Person, query: URLSearchParams) {
    this.#saved = person ? structuredClone(person) : null
    this.#first = structuredClone(person ?? newcomer)
    const left = this.draft.take(person?.id ?? 'new', query)
    this.edited = structuredClone(left ?? this.#first)
    this.meanwhile.theirs = left && person && left.version !== person.version ? this.#saved : null
  }

  keepDraft() {
    if (!this.edited || !this.#first) return
    const now = $state.snapshot(this.edited) as Person
    const unsaved = !same(now, this.#saved ?? this.#first)
    this.draft.keep(unsaved ? now : null, now.name.trim() || 'somebody new', this.#saved === null)
  }

  /** Leaves the form without saving: what was changed can be taken up again. */
  drop() {
    const left = $state.snapshot(this.edited) as Person
    const said = `${left.name || 'Somebody new'} was not saved.`
    const key = this.draft.key
    const to = location.hash.slice(1)
    const kept = this.draft.since !== null || (this.#first !== null && !same(left, this.#first))
    this.draft.drop()
    if (!kept) return
    const back = async () => (this.draft.again(key, left, left.name || 'somebody new', to), true)
    changes.add({ of: said, what: 'drop', said, back })
  }

  async save(): Promise<Person | undefined> {
    const body = $state.snapshot(this.edited) as Person
    const before = this.#saved
    this.#saving = true
    const path = { params: { path: { id: body.id } } }
    const header = { 'Idempotency-Key': this.draft.key }
    const work = () =>
      before
        ? ask(api.PUT('/api/trainees/{id}', { ...path, body }))
        : ask(api.POST('/api/trainees', { body, params: { header } }))
    const kept = await this.#act.do('save', work, {
      said: ({ name }) => `${name} is saved.`,
      undo: (kept) =>
        before
          ? ask(api.PUT('/api/trainees/{id}', { ...path, body: { ...before, version: kept.version } }))
          : ask(api.DELETE('/api/trainees/{id}', { params: { path: { id: kept.id } } })),
      undone: before ? `${before.name} is as before.` : `${body.name} is archived.`,
      unchanged: 'Nothing was saved.',
      refused: (e) => before !== null && this.meanwhile.takes(e),
    })
    if (kept) {
      this.draft.drop()
      this.draft.key = ''
    }
    return kept
  }

  /** Whether it is to be saved now, because Save was pressed. */
  keepMine() {
    if (!this.edited || !this.meanwhile.theirs) return false
    this.edited.version = this.meanwhile.theirs.version
    this.#saved = this.meanwhile.theirs
    this.meanwhile.theirs = null
    return this.#saving
  }

  keepTheirs() {
    const theirs = this.meanwhile.theirs
    if (!this.edited || !theirs) return
    const mine = { ...($state.snapshot(this.edited) as Person), version: theirs.version }
    const said = `${theirs.name} is as saved on the other screen.`
    this.#saved = theirs
    this.#saving = false
    this.meanwhile.theirs = null
    this.draft.drop()
    this.edited = structuredClone(theirs)
    changes.add({ of: said, what: 'choice', said, back: async () => ((this.edited = mine), true) })
  }
}
