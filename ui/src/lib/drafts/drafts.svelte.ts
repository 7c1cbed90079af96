import { newKey } from '../key'
import { session } from '../session.svelte'

/** What sort of thing is being changed, by the place in the address where its list stands. */
export type Sort = 'drills' | 'bags' | 'people' | 'gym' | 'sessions'

export type Kept<T = unknown> = {
  sort: Sort
  key: string // the thing's id; of a new one the id that it is going to have
  name: string
  to: string // the address, without #, where it is gone on with
  at: number // ms, when it was last changed
  value: T
}

const forgotten = 90 * 24 * 3600e3 // ms
const place = () => `draft:${session.me?.id}:`

/** What was changed and is not saved yet, as this device keeps it for whoever is signed in: it outlives leaving, a reload and a session that
 * has run out, until it is saved or dropped. */
class Drafts {
  /** The newest first. */
  all = $state.raw<Kept[]>([])

  /** Reads what there is for whoever is signed in; what nobody took up for long goes. */
  read() {
    const found = Object.keys(localStorage)
      .filter((name) => name.startsWith(place()))
      .flatMap((name) => parsed(localStorage.getItem(name)))
    this.all = found.sort((a, b) => b.at - a.at)
    for (const old of this.all.filter((d) => Date.now() - d.at > forgotten)) this.drop(old.sort, old.key)
  }

  of<T>(sort: Sort, key: string): Kept<T> | undefined {
    void this.all // what is kept or dropped meanwhile counts at once
    return parsed(localStorage.getItem(place() + sort + ':' + key))[0] as Kept<T> | undefined
  }

  keep(draft: Kept) {
    try {
      localStorage.setItem(place() + draft.sort + ':' + draft.key, JSON.stringify(draft))
    } catch {
      // A browser that keeps nothing: what is changed lives as long as its page.
    }
    this.#swap(draft.sort, draft.key, [draft])
  }

  drop(sort: Sort, key: string) {
    localStorage.removeItem(place() + sort + ':' + key)
    this.#swap(sort, key, [])
  }

  #swap(sort: Sort, key: string, now: Kept[]) {
    if (now.length === 0 && !this.all.some((d) => d.sort === sort && d.key === key)) return
    this.all = [...now, ...this.all.filter((d) => d.sort !== sort || d.key !== key)]
  }
}

function parsed(text: string | null): Kept[] {
  try {
    return [JSON.parse(text ?? '') as Kept]
  } catch {
    return []
  }
}

export const drafts = new Drafts()

/** The draft of one thing, while its page is open. */
export class Draft<T> {
  key = $state('')
  /** When what stands on the page was changed, where it was taken up again; null where the page began with what is saved. */
  since = $state<Date | null>(null)
  #sort: Sort

  constructor(sort: Sort) {
    this.#sort = sort
  }

  /** What was left of the thing with this id, or of the new one that the address names. */
  take(key: string, query?: URLSearchParams): T | null {
    this.key = key !== 'new' ? key : (query?.get('draft') ?? newKey())
    const kept = drafts.of<T>(this.#sort, this.key)
    this.since = kept ? new Date(kept.at) : null
    return kept?.value ?? null
  }

  /** Keeps the thing as it now stands; where it is as it is saved, there is nothing to keep. */
  keep(value: T | null, name: string, isNew: boolean) {
    if (!this.key) return
    if (value === null) return this.drop()
    if (isNew) nameInAddress(this.key)
    const to = location.hash.slice(1)
    drafts.keep({ sort: this.#sort, key: this.key, name, to, at: Date.now(), value })
  }

  /** Keeps again what was let go of. */
  again(key: string, value: T, name: string, to: string) {
    drafts.keep({ sort: this.#sort, key, name, to, at: Date.now(), value })
  }

  drop() {
    this.since = null
    if (this.key) drafts.drop(this.#sort, this.key)
  }
}

/** Puts the id of a new thing into the address, so that a reload and Back lead to it again. */
function nameInAddress(key: string) {
  const [path, query] = location.hash.split('?')
  const asked = new URLSearchParams(query ?? '')
  if (asked.get('draft') === key) return
  asked.set('draft', key)
  history.replaceState(history.state, '', `${path}?${asked}`)
}
