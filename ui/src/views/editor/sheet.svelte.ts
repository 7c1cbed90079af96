import type { QueryClient } from '@tanstack/svelte-query'
import { api, ask, type Schemas } from '../../lib/api/client'
import { beginning, begunWith, Desk, type Given } from '../../lib/drills/desk.svelte'
import { isLine, type Technique } from '../../lib/drills/doc'
import { merged, type Patch } from '../../lib/drills/patch'
import { newKey } from '../../lib/key'
import { WhatIf } from '../../lib/whatif.svelte'

type Question = Schemas['DrillQuestion']
type Person = Schemas['Trainee']

/** A technique of the speed bag while it is set, and what the core says of it. */
export class Sheet {
  desk: Desk
  question = $state.raw<Question | null>(null)
  /** The first drill of a gym in which nobody is entered yet brings its person along. */
  newcomer = $state<Person | null>(null)
  #person = newKey() // their id, so that a second press on Save enters nobody twice

  whatIf = new WhatIf((q: Question) => ask(api.POST('/api/compose', { body: { ...q, glance: true } })))
  answer = $derived(this.whatIf.answer)
  doc = $derived.by(() => {
    const doc = this.desk.drill?.doc
    return doc && !isLine(doc) ? doc : undefined
  })

  constructor(client: QueryClient) {
    this.desk = new Desk(client)
  }

  open = (id: string, query: URLSearchParams, bags: Schemas['Rig'][], people: Person[]) =>
    this.desk.reading(async () => {
      if (people.length === 0) this.newcomer = (await ask(api.GET('/api/beginning'))).newcomer
      if (id !== 'new') return this.desk.open(id)
      return this.desk.begin(query, () => this.#begun(query, bags, people))
    })

  async #begun(query: URLSearchParams, bags: Schemas['Rig'][], people: Person[]) {
    const from = beginning(query)
    const rig = from.rig || bags[0]?.id || ''
    const entry = await begunWith(from)
    const first = entry?.doc ?? (await ask(api.GET('/api/first-drill/{id}', { params: { path: { id: rig } } })))
    const asked: Patch = {}
    for (const [name, field] of Object.entries({ tempo: 'tempo', rebounds: 'rebounds', angle: 'strikeAngle' })) {
      const v = Number(query.get(name))
      if (v > 0) asked[field] = v
    }
    const doc = merged(first, asked)
    return { rigId: rig, traineeId: from.trainee || people[0]?.id || '', name: entry?.name ?? '', doc }
  }

  /** A drill in words, for a look at two of them. */
  async told({ rigId, traineeId, doc }: Given) {
    const answer = await ask(api.POST('/api/compose', { body: { rigId, traineeId, doc, glance: true } }))
    return answer.said.map((p) => p.text).join(' ')
  }

  ask(known: boolean) {
    const drill = this.desk.drill
    if (!drill?.rigId) return
    const who = known ? { traineeId: drill.traineeId } : this.newcomer ? { band: this.newcomer.band } : {}
    this.question = { rigId: drill.rigId, doc: $state.snapshot(drill.doc), ...who } as Question
    void this.whatIf.ask(this.question)
  }

  set = (patch: Patch) => this.doc && this.renew(merged($state.snapshot(this.doc) as Technique, patch))

  /** Another drill; a name that only said what the old one was goes with it. */
  renew(next: Schemas['DrillDoc']) {
    const drill = this.desk.drill
    if (!drill) return
    if (drill.name === this.answer?.name) drill.name = ''
    drill.doc = next
  }

  refusedOf = (field: string) => (this.answer?.field === field ? (this.answer.problem ?? '') : '')

  async save(run: boolean) {
    const drill = this.desk.drill
    if (drill && !drill.traineeId && this.newcomer) {
      const name = this.newcomer.name.trim()
      if (!name) return void (this.desk.problem = 'Say who it is for. Nothing was saved.')
      const body = { ...($state.snapshot(this.newcomer) as Person), name }
      try {
        drill.traineeId = (
          await ask(api.POST('/api/trainees', { body, params: { header: { 'Idempotency-Key': this.#person } } }))
        ).id
      } catch (e) {
        return void (this.desk.problem = `${(e as Error).message} Nothing was saved.`)
      }
    }
    await this.desk.save(run)
  }
}
