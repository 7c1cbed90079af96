import type { QueryClient } from '@tanstack/svelte-query'
import { tick } from 'svelte'
import { toast } from 'svelte-sonner'
import { api, ask, type Schemas } from '../../lib/api/client'
import { beginning, begunWith, Desk, type Given } from '../../lib/drills/desk.svelte'
import { isLine, type Line } from '../../lib/drills/doc'
import { merged, type Patch } from '../../lib/drills/patch'
import { WhatIf } from '../../lib/whatif.svelte'

type Question = Schemas['DrillQuestion']
const kept = 100 // steps that can be undone

/** A combination while it is written: the line, what can be undone, and what the core says of it. */
export class Sheet {
  desk: Desk
  text = $state('')
  outOfReach = $state('') // a tempo that the bag does not give
  question = $state.raw<Question | null>(null)
  past = $state.raw<Line[]>([])
  future = $state.raw<Line[]>([])
  field = $state<HTMLInputElement>()

  whatIf = new WhatIf((q: Question) => ask(api.POST('/api/compose', { body: { ...q, glance: true } })))
  answer = $derived(this.whatIf.answer)
  composed = $derived(this.answer?.composed)
  doc = $derived.by(() => {
    const doc = this.desk.drill?.doc
    return doc && isLine(doc) ? doc : undefined
  })
  #about = $derived(this.whatIf.refusal?.field ?? '')
  refused = $derived(this.whatIf.refusal?.message ?? '')
  /** What was refused of the line itself; a figure's refusal stands at the figure. */
  misread = $derived(this.#about.endsWith('.repetitions') || this.#about.includes('.cues') ? '' : this.refused)

  constructor(client: QueryClient) {
    this.desk = new Desk(client)
  }

  /** What stands at a figure inside a part stands under the sentence as well: the part may be closed. */
  elsewhere = $derived(this.refused && !this.misread ? this.refused : '')

  refusedOf = (field: string) => (this.#about.endsWith(`.${field}`) ? this.refused : '')

  open = (id: string, query: URLSearchParams, bags: Schemas['Rig'][], people: Schemas['Trainee'][]) =>
    this.desk.reading(async () => {
      if (id !== 'new') await this.desk.open(id)
      else
        await this.desk.begin(query, async () => {
          const from = beginning(query)
          const entry = await begunWith(from)
          const like = (kind?: string) => bags.find((b) => b.doc.kind === kind)
          const rig = from.rig || (like(entry?.kind) ?? like('doubleEnd') ?? bags[0])?.id || ''
          const start = entry && isLine(entry.doc) ? entry.doc : await this.#first(rig)
          const written = query.get('text')
          const doc = { ...start, ...(written ? { text: written } : {}) }
          return { rigId: rig, traineeId: from.trainee || people[0]?.id || '', name: entry?.name ?? '', doc }
        })
      this.past = []
      this.future = []
    })

  /** A drill in words, for a look at two of them. */
  async told(drill: Given, stance: Line['stance']) {
    const doc = { ...drill.doc, stance } as Line
    const { rigId, traineeId } = drill
    const answer = await ask(api.POST('/api/compose', { body: { rigId, traineeId, doc, glance: true } }))
    return answer.said.map((p) => p.text).join(' ')
  }

  async #first(id: string) {
    const query = { line: true }
    return (await ask(api.GET('/api/first-drill/{id}', { params: { path: { id }, query } }))) as Line
  }

  /** Asks for somebody in their stance. */
  ask(stance: Line['stance']) {
    const drill = this.desk.drill
    if (!drill?.rigId || !drill.traineeId) return
    const doc = { ...$state.snapshot(drill.doc), stance } as Line
    this.question = { rigId: drill.rigId, traineeId: drill.traineeId, doc }
    void this.whatIf.ask(this.question)
  }

  set = (patch: Patch) => this.doc && this.replace(merged($state.snapshot(this.doc) as Line, patch))

  /** Another drill, remembered so that it can be undone. */
  replace(next: Line) {
    if (!this.desk.drill) return
    this.past = [...this.past.slice(1 - kept), $state.snapshot(this.desk.drill.doc) as Line]
    this.future = []
    this.outOfReach = ''
    this.#take(next)
  }

  /** A name that only said what the old line was goes with it. */
  #take(next: Line) {
    const drill = this.desk.drill
    if (!drill) return
    if (drill.name === this.composed?.canonical) drill.name = ''
    drill.doc = next
  }

  /** Shows the line as it stands in the drill; what is just being typed stays. */
  show(text: string) {
    if (document.activeElement !== this.field || text !== this.text) this.text = text
  }

  undo() {
    const last = this.past.at(-1)
    if (!last || !this.doc) return
    this.future = [$state.snapshot(this.doc) as Line, ...this.future]
    this.past = this.past.slice(0, -1)
    this.#take(last)
  }

  redo() {
    const [next, ...rest] = this.future
    if (!next || !this.doc) return
    this.past = [...this.past, $state.snapshot(this.doc) as Line]
    this.future = rest
    this.#take(next)
  }

  typed(value: string) {
    this.text = value
    if (value.trim()) this.set({ text: value })
  }

  /** Adds a piece of the notation to the line. */
  pick(piece: string) {
    const text = this.text.trimEnd()
    if (text === '' || text.endsWith('|')) this.typed(`${text} ${piece}`.trim())
    else if (piece === '!') this.typed(`${text}!`)
    else this.typed(piece === '|' ? `${text} | ` : `${text} - ${piece}`)
  }

  /** Names the return that is met after a strike. */
  async count(move: number, returns: number) {
    const text = this.composed?.canonical ?? this.doc?.text ?? ''
    try {
      this.set(await ask(api.POST('/api/combo-count', { body: { text, move, count: returns } })))
    } catch (e) {
      toast((e as Error).message)
    }
  }

  /** The force that gives the combination a tempo inside. */
  async atTempo(tempo: number) {
    if (!this.question?.traineeId) return
    const { rigId, traineeId, doc } = this.question
    try {
      this.replace((await ask(api.POST('/api/combo-tempo', { body: { rigId, traineeId, doc, tempo } }))) as Line)
    } catch (e) {
      this.outOfReach = (e as Error).message
    }
  }

  /** Turns the line as it now stands to the other side, however quick the keys come. */
  async turn(way: 'mirror' | 'counterpart') {
    await tick()
    await this.whatIf.settled()
    if (this.composed && !this.refused) this.set({ text: this.composed[way] })
  }

  /** The index of the strike before a move. */
  before = (i: number) => this.composed!.moves.slice(0, i).findLastIndex((m) => m.kind === 'strike')

  async save(run: boolean, stance: Line['stance']) {
    const drill = this.desk.drill
    if (!drill || !this.doc) return
    drill.doc = { ...this.doc, text: this.composed?.canonical ?? this.doc.text, stance: stance ?? 'orthodox' }
    await this.desk.save(run)
  }
}
