import { tick } from 'svelte'
import { api, ask, Refusal, type Schemas } from '../../lib/api/client'
import { read, same, write, type Doc, type Place } from '../../lib/bench/fields'
import { belongs, kindName, kinds, type Field, type Kind } from '../../lib/bench/kinds.svelte'
import { WhatIf } from '../../lib/whatif.svelte'

type Rig = Schemas['Rig']
type Change = Parameters<typeof write>[2][number]

/** A bag on the bench: its measures as they stand on the page and as they are kept, and what the core answers to them. */
export class Desk {
  saved = $state<Rig | null>(null)
  isNew = $state(false)
  name = $state('')
  doc = $state<Doc>(structuredClone($state.snapshot(kinds.all[0]!.everyday) as Doc))
  place = $state<Place>({})
  rebounds = $state(1)
  strikeAngle = $state(25)
  wanted = $state<{ tempo?: number; launch?: number }>({})
  traineeId = $state('')
  other = $state('')
  reading = $state(true)
  trouble = $state('')

  whatIf = new WhatIf((q: Schemas['BenchQuestion']) => ask(api.POST('/api/bench', { body: q })))
  kind = $derived(this.doc.kind)
  model = $derived(kinds.of(this.kind))
  changed = $derived(
    this.isNew ||
      (this.saved !== null &&
        (this.name !== this.saved.name ||
          !same(this.doc, this.saved.doc) ||
          !same(this.place, this.saved.place ?? {}))),
  )

  /** The question that the page stands for. */
  question(): Schemas['BenchQuestion'] {
    const q: Schemas['BenchQuestion'] = {
      rig: $state.snapshot(this.doc) as Doc,
      place: $state.snapshot(this.place) as Place,
      rebounds: this.rebounds,
      ...this.wanted,
    }
    if (this.kind === 'speed') q.strikeAngle = this.strikeAngle
    if (this.traineeId) q.traineeId = this.traineeId
    if (this.kind === 'slip' && this.other && this.other !== this.traineeId) q.others = [this.other]
    return q
  }

  /** Reads the bag of an address; one that was left before it was read changes nothing. */
  async load(id: string, query: URLSearchParams) {
    const asked = ++this.#asked
    this.trouble = ''
    this.reading = true
    const isNew = id === 'new'
    const from = isNew ? query.get('copy') : id
    try {
      const rig = from ? await ask(api.GET('/api/rigs/{id}', { params: { path: { id: from } } })) : null
      if (asked !== this.#asked) return
      this.isNew = isNew
      this.saved = null
      if (!rig) {
        this.name = ''
        this.begin((query.get('kind') ?? kinds.all[0]!.kind) as Kind)
      } else if (isNew) this.#take(rig.doc, rig.place ?? {}, `${rig.name}, copy`)
      else {
        this.keep(rig)
        this.#ask()
      }
    } catch (e) {
      if (asked !== this.#asked) return
      this.trouble = (e as Error).message
    }
    this.reading = false
  }
  #asked = 0

  /** Begins a new bag with everyday measures; a name that somebody gave it stays. */
  begin(kind: Kind) {
    const m = kinds.of(kind)
    const own = this.name.trim() !== '' && !kinds.all.some((k) => kindName(k.kind) === this.name)
    this.#take(
      $state.snapshot(m.everyday) as Doc,
      $state.snapshot(m.place) as Place,
      own ? this.name : kindName(m.kind),
    )
  }

  #take(doc: Doc, place: Place, name: string) {
    this.doc = structuredClone(doc)
    this.place = structuredClone(place)
    this.name = name
    this.#ask()
  }

  #ask() {
    this.wanted = {}
    this.rebounds = kinds.of(this.doc.kind).rebounds
  }

  /** Takes over a bag as it is kept. */
  keep(rig: Rig) {
    const plain = $state.snapshot(rig) as Rig
    this.saved = plain
    this.name = plain.name
    this.doc = structuredClone(plain.doc)
    this.place = structuredClone(plain.place ?? {})
  }

  /** Writes the bag; what is refused is thrown. */
  async save(): Promise<Rig> {
    if (!this.name.trim()) throw new Refusal(422, 'Give the bag a name.')
    const body = {
      id: '',
      name: this.name.trim(),
      version: this.saved?.version ?? 0,
      doc: $state.snapshot(this.doc),
      place: $state.snapshot(this.place),
    } as Rig
    if (this.isNew) return ask(api.POST('/api/rigs', { body }))
    const kept = await ask(api.PUT('/api/rigs/{id}', { params: { path: { id: this.saved!.id } }, body }))
    this.keep(kept)
    return kept
  }

  /** Sets fields anew; a strike that was asked for by its force keeps it, one by its tempo its tempo. */
  set(changes: Change[]) {
    const next = write($state.snapshot(this.doc) as Doc, $state.snapshot(this.place) as Place, changes)
    this.doc = next.doc
    this.place = next.place
  }

  /** Takes a word; measures that go with another word only leave, and those that come in begin with an everyday one. */
  choose(f: Field, word: string | boolean) {
    this.set([{ field: f.field, to: word }])
    for (const m of this.model.measures.filter((m) => m.only?.field === f.field)) {
      const to = belongs(m, this.doc) ? read(this.model.everyday, {}, m.field) || m.least : undefined
      this.set([{ field: m.field, to }])
    }
  }

  /** Winds both cords a step on from where they are, however quick the presses come. */
  wind(way: 'looser' | 'tighter') {
    this.#winding = this.#winding.then(async () => {
      await tick()
      await this.whatIf.settled()
      const changes = this.whatIf.answer?.cords?.[way]
      if (changes?.length) this.set(changes)
    })
  }
  #winding = Promise.resolve()

  value = (field: string) => read(this.doc, this.place, field)

  /** What was refused of a field, in words. */
  refused(field: string) {
    const r = this.whatIf.refusal
    return r?.field.endsWith(`.${field.replace('place.', '')}`) ? r.message : ''
  }
}
