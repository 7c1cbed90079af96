import type { QueryClient } from '@tanstack/svelte-query'
import { Act } from '../../lib/act.svelte'
import { api, ask, type Schemas } from '../../lib/api/client'
import { same } from '../../lib/bench/fields'
import { Draft } from '../../lib/drafts/drafts.svelte'
import { Meanwhile } from '../../lib/drafts/meanwhile.svelte'
import { session } from '../../lib/session.svelte'

export type Gym = Schemas['GymSettings']

/** What holds for the whole gym, while it is changed. */
export class Settings {
  gym = $state<Gym | null>(null)
  unread = $state('')
  draft = new Draft<Gym>('gym')
  meanwhile = new Meanwhile<Gym>(
    () => ask(api.GET('/api/gym')),
    ({ version, ...says }) => says,
  )
  #saved = $state.raw<Gym | null>(null)
  #saving = false
  #act: Act

  changed = $derived(this.gym !== null && this.#saved !== null && !same($state.snapshot(this.gym), this.#saved))

  constructor(client: QueryClient) {
    this.#act = new Act(client)
  }

  get problem() {
    return this.#act.problem
  }

  async open() {
    this.unread = ''
    try {
      this.#saved = await ask(api.GET('/api/gym'))
    } catch (e) {
      this.unread = (e as Error).message
      return
    }
    const left = this.draft.take('settings')
    this.gym = structuredClone(left ?? this.#saved)
    this.meanwhile.theirs = left && left.version !== this.#saved.version ? this.#saved : null
  }

  keepDraft() {
    if (this.gym) this.draft.keep(this.changed ? ($state.snapshot(this.gym) as Gym) : null, 'the gym’s settings', false)
  }

  putBack() {
    this.draft.drop()
    this.meanwhile.theirs = null
    this.gym = structuredClone(this.#saved)
  }

  async save() {
    const body = $state.snapshot(this.gym) as Gym
    const before = this.#saved!
    this.#saving = true
    await this.#act.do('save', () => this.#write(body), {
      said: 'The gym’s settings are saved.',
      undo: (kept) => this.#write({ ...before, version: kept.version }),
      undone: 'The gym’s settings are as before.',
      unchanged: 'Nothing was saved.',
      refused: (e) => this.meanwhile.takes(e),
    })
  }

  async #write(body: Gym) {
    this.#saved = await ask(api.PUT('/api/gym', { body }))
    this.gym = structuredClone(this.#saved)
    await session.load()
    return this.#saved
  }

  keepMine() {
    if (!this.gym || !this.meanwhile.theirs) return
    this.gym.version = this.meanwhile.theirs.version
    this.#saved = this.meanwhile.theirs
    this.meanwhile.theirs = null
    if (this.#saving) void this.save()
  }

  keepTheirs() {
    this.#saved = this.meanwhile.theirs
    this.#saving = false
    this.putBack()
  }
}
