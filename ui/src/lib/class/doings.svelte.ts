import { api, ask, type Schemas } from '../api/client'

/** What is done off the bag, by its key. */
class Doings {
  all = $state.raw<Schemas['Doing'][]>([])
  names = $derived(new Map(this.all.map((d) => [d.key as string, d.name])))

  async load() {
    if (this.all.length > 0) return
    this.all = (await ask(api.GET('/api/sessions'))).doings
  }
}
export const doings = new Doings()
