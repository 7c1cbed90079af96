import type { QueryClient } from '@tanstack/svelte-query'
import { Act } from '../../lib/act.svelte'
import { api, ask, type Schemas } from '../../lib/api/client'
import { same } from '../../lib/bench/fields'
import { Draft } from '../../lib/drafts/drafts.svelte'
import { Meanwhile } from '../../lib/drafts/meanwhile.svelte'
import { WhatIf } from '../../lib/whatif.svelte'

export type Session = Schemas['Session']
export type Round = Schemas['Round']
export type Block = Schemas['Block']
type Plan = Schemas['SessionPlan']
type Question = Schemas['SessionQuestion']

/** A session while it is laid out, and what the core says of it. */
export class Sheet {
  plan = $state<Plan | null>(null)
  /** The round and the block that are at hand. */
  round = $state(0)
  block = $state(0)
  traineeId = $state('')
  rigId = $state('')
  unread = $state('')
  draft = new Draft<Plan>('sessions')
  meanwhile = new Meanwhile<Plan>(
    () => ask(api.GET('/api/sessions/{id}', { params: { path: { id: this.draft.key } } })),
    ({ version, ...says }) => says,
  )
  whatIf = new WhatIf((q: Question) => ask(api.POST('/api/session-look', { body: q })))
  look = $derived(this.whatIf.answer)
  isNew = $state(false)
  #saved = $state.raw<Plan | null>(null)
  #first = $state.raw<Plan | null>(null)
  #left = false
  #act: Act
  #before: Session[] = $state.raw([]) // for undo

  session = $derived(this.plan?.session ?? null)
  /** Whether there is something that is not saved; a new one begins with what can be had again. */
  changed = $derived(
    this.plan !== null && (this.draft.since !== null || !same($state.snapshot(this.plan), this.#saved ?? this.#first)),
  )
  current = $derived<Round | undefined>(this.session?.rounds[this.round])

  constructor(client: QueryClient) {
    this.#act = new Act(client)
  }

  get problem() {
    return this.#act.problem
  }
  get busy() {
    return this.#act.busy !== ''
  }
  get undoable() {
    return this.#before.length > 0
  }

  async open(id: string, query: URLSearchParams) {
    this.unread = ''
    this.isNew = id === 'new'
    this.#before = []
    try {
      const left = this.draft.take(id, query)
      this.#saved = this.isNew ? null : await ask(api.GET('/api/sessions/{id}', { params: { path: { id } } }))
      if (this.#left) return
      this.#first = this.#saved ?? (await this.#begun(query))
      if (this.#left) return
      this.plan = structuredClone(left ?? this.#first)
      this.meanwhile.theirs = left && this.#saved && left.version !== this.#saved.version ? this.#saved : null
      this.round = Math.max(
        0,
        this.plan.session.rounds.findIndex((r) => r.kind === 'work'),
      )
      this.block = 0
      this.ask()
    } catch (e) {
      this.unread = (e as Error).message
    }
  }

  /** A new one: a template, a combination that is built up, or a class. */
  async #begun(query: URLSearchParams): Promise<Plan> {
    const text = query.get('text')
    let session: Session
    if (text) {
      const bag = (query.get('bag') ?? 'hanging') as Schemas['BuildUpQuestion']['bag']
      session = await ask(api.POST('/api/build-up', { body: { text, bag, seconds: 180 } }))
    } else {
      const templates = (await ask(api.GET('/api/sessions'))).templates
      session = (templates.find((t) => t.key === query.get('template')) ?? templates[0]!).session
    }
    return { id: '', version: 0, session, sentence: '' }
  }

  keepDraft() {
    if (!this.plan) return
    const value = this.changed ? ($state.snapshot(this.plan) as Plan) : null
    this.draft.keep(value, this.plan.session.name || 'a session', this.isNew)
  }

  /** Asks what it comes to; changed says which block is held, the others of its round give way. */
  ask(changed?: Schemas['BlockAt']) {
    if (!this.session) return
    const question: Question = {
      session: $state.snapshot(this.session) as Session,
      ...(changed ? { changed } : {}),
      ...(this.traineeId ? { traineeId: this.traineeId } : {}),
      ...(this.rigId ? { rigId: this.rigId } : {}),
    }
    void this.whatIf.ask(question)
    const asked = this.session
    void this.whatIf.settled().then(() => {
      if (this.#left) return
      const look = this.whatIf.answer
      if (!look || this.whatIf.refusal || !this.plan || this.session !== asked) return
      if (!same($state.snapshot(this.session), look.session)) this.plan.session = structuredClone(look.session)
    })
  }

  /** Changes the session; what it was can be had back. */
  change(how: (s: Session) => void, held?: Schemas['BlockAt']) {
    if (!this.plan) return
    this.#before = [...this.#before.slice(-30), $state.snapshot(this.plan.session) as Session]
    how(this.plan.session)
    this.ask(held)
  }

  undo() {
    const last = this.#before.at(-1)
    if (!last || !this.plan) return
    this.#before = this.#before.slice(0, -1)
    this.plan.session = last
    this.round = Math.min(this.round, last.rounds.length - 1)
    this.ask()
  }

  setRound(patch: Partial<Round>) {
    this.change(
      (s) => Object.assign(s.rounds[this.round]!, patch),
      'seconds' in patch ? { round: this.round, block: -1 } : undefined,
    )
  }

  setBlock(i: number, patch: Partial<Block>) {
    const held = 'seconds' in patch ? { round: this.round, block: i } : undefined
    this.change((s) => Object.assign(s.rounds[this.round]!.blocks[i]!, patch), held)
  }

  /** Puts another block in place of one: what is done is of one kind alone. */
  swapBlock(i: number, block: Block) {
    this.change((s) => s.rounds[this.round]!.blocks.splice(i, 1, block), { round: this.round, block: i })
  }

  addBlock() {
    this.change(
      (s) => {
        const r = s.rounds[this.round]!
        const like = structuredClone($state.snapshot(r.blocks.at(-1)!)) as Block
        r.blocks.push({ ...like, seconds: Math.max(10, Math.round(r.seconds / (r.blocks.length + 1))) })
        this.block = r.blocks.length - 1
      },
      { round: this.round, block: -1 },
    )
  }

  removeBlock(i: number) {
    this.change((s) => s.rounds[this.round]!.blocks.splice(i, 1), { round: this.round, block: -1 })
    this.block = Math.max(0, Math.min(this.block, (this.current?.blocks.length ?? 1) - 1))
  }

  moveBlock(i: number, by: number) {
    this.change((s) => {
      const list = s.rounds[this.round]!.blocks
      const [b] = list.splice(i, 1)
      list.splice(i + by, 0, b!)
    })
    this.block = i + by
  }

  addRound() {
    this.change((s) =>
      s.rounds.splice(this.round + 1, 0, structuredClone($state.snapshot(s.rounds[this.round]!)) as Round),
    )
    this.round++
  }

  removeRound() {
    this.change((s) => s.rounds.splice(this.round, 1))
    this.round = Math.max(0, Math.min(this.round, (this.session?.rounds.length ?? 1) - 1))
    this.block = 0
  }

  moveRound(by: number) {
    this.change((s) => {
      const [r] = s.rounds.splice(this.round, 1)
      s.rounds.splice(this.round + by, 0, r!)
    })
    this.round += by
  }

  async save(): Promise<Plan | undefined> {
    if (!this.plan) return undefined
    const body = $state.snapshot(this.plan) as Plan
    const before = this.#saved
    const kept = await this.#act.do(
      'save',
      async () => {
        const key = this.draft.key
        const done = this.isNew
          ? await ask(api.POST('/api/sessions', { body, params: { header: { 'Idempotency-Key': key } } }))
          : await this.#write(body)
        this.draft.drop()
        this.#saved = done
        this.isNew = false
        this.plan = structuredClone(done)
        return done
      },
      {
        said: (p) => `${p.session.name} is saved.`,
        undo: before ? (p) => this.#write({ ...before, version: p.version }) : undefined,
        unchanged: 'Nothing was saved.',
        refused: (e) => this.meanwhile.takes(e),
      },
    )
    return kept
  }

  async #write(body: Plan) {
    const done = await ask(api.PUT('/api/sessions/{id}', { params: { path: { id: body.id } }, body }))
    this.#saved = done
    this.plan = structuredClone(done)
    return done
  }

  /** The page is gone: what is still on its way changes nothing. */
  leave() {
    this.#left = true
  }

  putBack() {
    this.draft.drop()
    this.meanwhile.theirs = null
    if (this.#saved) this.plan = structuredClone(this.#saved)
    this.ask()
  }

  keepMine() {
    if (!this.plan || !this.meanwhile.theirs) return
    this.plan.version = this.meanwhile.theirs.version
    this.#saved = this.meanwhile.theirs
    this.meanwhile.theirs = null
    void this.save()
  }

  keepTheirs() {
    this.#saved = this.meanwhile.theirs
    this.putBack()
  }
}
