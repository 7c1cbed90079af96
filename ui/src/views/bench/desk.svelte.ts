import { tick } from 'svelte'
import { api, ask, Refusal, type Schemas } from '../../lib/api/client'
import { read, same, valueIn, write, type Doc, type Place } from '../../lib/bench/fields'
import { belongs, kindName, kinds, labelOf, valueOf, type Field, type Kind } from '../../lib/bench/kinds.svelte'
import { changes } from '../../lib/changes.svelte'
import { Draft } from '../../lib/drafts/drafts.svelte'
import { Meanwhile } from '../../lib/drafts/meanwhile.svelte'
import type { Units } from '../../lib/format'
import { WhatIf } from '../../lib/whatif.svelte'

type Rig = Schemas['Rig']
/** What of a bag is changed by hand. */
type Hung = { name: string; version: number; doc: Doc; place: Place }
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
  draft = new Draft<Hung>('bags')
  meanwhile = new Meanwhile<Rig>(
    () => ask(api.GET('/api/rigs/{id}', { params: { path: { id: this.saved!.id } } })),
    ({ name, doc, place }) => ({ name, doc, place: place ?? {} }),
  )
  #saving = false
  #base = 0 // the version that what stands on the page goes by
  #first = $state.raw('') // a new bag as the page began

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
      this.meanwhile.theirs = null
      this.#saving = false
      const left = this.draft.take(id, query)
      if (!rig) {
        this.name = ''
        this.begin((query.get('kind') ?? kinds.all[0]!.kind) as Kind)
      } else if (isNew) this.#take(rig.doc, rig.place ?? {}, `${rig.name}, copy`)
      else {
        this.keep(rig)
        this.#ask()
        if (left && left.version !== rig.version) this.meanwhile.theirs = rig
      }
      this.#first = JSON.stringify(this.#hung())
      if (left) {
        this.#take(left.doc, left.place, left.name)
        this.#base = left.version
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

  #hung = (): Hung => ({
    name: this.name,
    version: this.#base,
    doc: $state.snapshot(this.doc) as Doc,
    place: $state.snapshot(this.place) as Place,
  })

  /** Keeps what is not saved on this device. */
  keepDraft() {
    if (this.reading) return
    const unsaved = this.isNew
      ? this.draft.since !== null || JSON.stringify(this.#hung()) !== this.#first
      : this.changed
    this.draft.keep(unsaved ? this.#hung() : null, this.name.trim() || 'a bag', this.isNew)
  }

  /** Lets go of what is not saved; it can be taken back. */
  putBack(again: () => void) {
    const left = this.#hung()
    const said = `${left.name || 'The bag'} is as it was saved.`
    this.draft.drop()
    if (this.saved) this.keep(this.saved)
    else again()
    this.meanwhile.theirs = null
    changes.add({ of: said, what: 'drop', said, back: async () => (this.#take(left.doc, left.place, left.name), true) })
  }

  keepMine() {
    if (!this.meanwhile.theirs) return false
    this.saved = this.meanwhile.theirs
    this.#base = this.saved.version
    this.meanwhile.theirs = null
    return this.#saving
  }

  keepTheirs() {
    if (!this.meanwhile.theirs) return
    this.saved = this.meanwhile.theirs
    this.#saving = false
    this.putBack(() => undefined)
  }

  /** A bag that was changed on two screens, a row each. */
  rows(of: Pick<Rig, 'name' | 'doc' | 'place'>, units: Units) {
    const measures = [...kinds.of(of.doc.kind).measures, ...kinds.of(of.doc.kind).around]
    const text = (f: Field) => {
      const v = valueIn(of.doc, of.place ?? {}, f.field)
      return typeof v === 'number' ? valueOf(f.field, v, units) : String(v ?? '')
    }
    return [{ name: 'Name', text: of.name }, ...measures.map((f) => ({ name: labelOf(f.field), text: text(f) }))]
  }

  /** Takes over a bag as it is kept. */
  keep(rig: Rig) {
    const plain = $state.snapshot(rig) as Rig
    this.saved = plain
    this.#base = plain.version
    this.name = plain.name
    this.doc = structuredClone(plain.doc)
    this.place = structuredClone(plain.place ?? {})
  }

  /** Writes the bag; what is refused is thrown. */
  async save(): Promise<Rig> {
    this.#saving = true
    if (!this.name.trim()) throw new Refusal(422, 'Give the bag a name.')
    const body = {
      id: '',
      name: this.name.trim(),
      version: this.#base,
      doc: $state.snapshot(this.doc),
      place: $state.snapshot(this.place),
    } as Rig
    if (this.isNew) {
      const made = await ask(api.POST('/api/rigs', { body, params: { header: { 'Idempotency-Key': this.draft.key } } }))
      this.draft.drop()
      this.draft.key = ''
      return made
    }
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
